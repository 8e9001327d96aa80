#include "app/widgets/leaving.h"

#include <QMessageBox>
#include <QPushButton>

namespace zl::app {

Leaving askHowToLeave(QWidget* parent, const QString& found) {
    QMessageBox box(QMessageBox::NoIcon, "Zest Loom", found, QMessageBox::NoButton, parent);
    const auto* keep = box.addButton(QObject::tr("Save"), QMessageBox::AcceptRole);
    const auto* drop = box.addButton(QObject::tr("Leave without saving"), QMessageBox::DestructiveRole);
    box.addButton(QObject::tr("Stay"), QMessageBox::RejectRole);
    box.exec();
    return box.clickedButton() == keep   ? Leaving::Save
           : box.clickedButton() == drop ? Leaving::Drop
                                         : Leaving::Stay;
}

} // namespace zl::app
