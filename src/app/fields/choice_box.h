#pragma once
#include <QComboBox>
#include <QWheelEvent>

namespace zl::app {

/// A list to choose from that is as wide as there is room; the wheel scrolls the panel, not the choice.
class ChoiceBox : public QComboBox {
public:
    ChoiceBox() {
        setMinimumContentsLength(8);
        setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    }
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }
};

} // namespace zl::app
