#pragma once
#include "core/platform/role_endings.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace zl::app {

/// What endings of file names mean, to read and to change; a name can be tried on it.
class EndingsDialog : public QDialog {
    Q_OBJECT
public:
    explicit EndingsDialog(QWidget* parent);

private:
    struct Row {
        std::optional<PictureRole> role; ///< none for what says nothing
        PictureChannel channel = PictureChannel::Colour;
        QLineEdit* endings;
    };
    void show(const platform::RoleEndings& table);
    /// As it stands in the fields; what cannot stand so is put into `problem`.
    platform::RoleEndings table(QString* problem = nullptr) const;
    void tryName();
    void keep();

    std::vector<Row> rows_;
    QLineEdit* name_;
    QLabel *says_, *problem_;
    QPushButton* keep_;
    QVBoxLayout* list_;
};

} // namespace zl::app
