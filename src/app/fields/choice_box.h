#pragma once
#include <QComboBox>
#include <QWheelEvent>

namespace zl::app {

/// A list to choose from that is as wide as there is room; the wheel scrolls the panel, and
/// leaves choice and keyboard where they are.
class ChoiceBox : public QComboBox {
public:
    ChoiceBox() {
        setMinimumContentsLength(8);
        setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        setFocusPolicy(Qt::StrongFocus);
    }
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }
};

} // namespace zl::app
