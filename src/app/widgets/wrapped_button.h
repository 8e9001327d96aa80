#pragma once
#include <QPushButton>

namespace zl::app {

/// A button whose words go over several lines where it is too narrow for them.
class WrappedButton : public QPushButton {
public:
    explicit WrappedButton(const QString& words, QWidget* parent = nullptr);

    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QSize around() const; ///< what the style puts around the words
};

} // namespace zl::app
