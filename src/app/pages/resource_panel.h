#pragma once
#include "app/pages/try_on.h"

#include <QWidget>

class QLabel;
class QPlainTextEdit;
class QPushButton;

namespace zl::app {

/// One resource of a package: what it is, what it points at and what points at it, and its picture, text or
/// look.
class ResourcePanel : public QWidget {
    Q_OBJECT
public:
    ResourcePanel(Session& session, const PackageRows& rows, QWidget* parent = nullptr);

    /// -1 for none.
    void show(int row);
    int row() const { return row_; }

Q_SIGNALS:
    void rowAsked(int row); ///< a link was followed
    void pieceAsked();
    void takeOutAsked();
    void putBackAsked();
    void assigned(int row, const std::string& bytes);

private:
    QString linksTo(const std::vector<std::size_t>& rows) const;

    const PackageRows& rows_;
    int row_ = -1;
    QLabel *name_, *facts_, *links_, *picture_;
    QPlainTextEdit* text_;
    TryOn* tryOn_;
    QPushButton *piece_, *out_, *back_;
};

} // namespace zl::app
