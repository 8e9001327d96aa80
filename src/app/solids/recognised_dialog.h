#pragma once
#include "core/solids/recognised.h"

#include <QDialog>

class QDoubleSpinBox;
class QLabel;
class QPushButton;
class QTreeWidget;

namespace zl::app {

/// What the loose parts of a mesh would be as solids, each with how far it is off; those that are ticked are
/// taken.
class RecognisedDialog : public QDialog {
    Q_OBJECT
public:
    RecognisedDialog(const QString& piece, std::vector<solids::Recognised> found, QWidget* parent);

Q_SIGNALS:
    void taken(const std::vector<solids::Recognised>& parts);

private:
    void tickWithin(double percent);
    void showCount();
    std::vector<solids::Recognised> ticked() const;

    std::vector<solids::Recognised> found_;
    QDoubleSpinBox* within_;
    QTreeWidget* list_;
    QLabel* words_;
    QPushButton* take_;
};

} // namespace zl::app
