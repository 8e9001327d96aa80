#include "app/widgets/choosable_card.h"

#include <QKeyEvent>
#include <QMouseEvent>

namespace zl::app {

ChoosableCard::ChoosableCard(QWidget* parent) : QFrame(parent) {
    setProperty("card", true);
    setFocusPolicy(Qt::StrongFocus);
}

void ChoosableCard::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && chosen) chosen();
}

void ChoosableCard::keyPressEvent(QKeyEvent* event) {
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Space) && chosen)
        chosen();
    else
        QFrame::keyPressEvent(event);
}

} // namespace zl::app
