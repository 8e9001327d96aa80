#pragma once
#include <QFrame>

#include <functional>

namespace zl::app {

/// A card that can be chosen by mouse and keyboard.
class ChoosableCard : public QFrame {
    Q_OBJECT
public:
    explicit ChoosableCard(QWidget* parent = nullptr);
    std::function<void()> chosen;

protected:
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
};

} // namespace zl::app
