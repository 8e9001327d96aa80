#pragma once
#include <QLabel>

namespace zl::app {

/// One line of text that ends in "…" where it has no room; its tooltip is then the whole.
class ElidedLabel : public QLabel {
    Q_OBJECT
public:
    using QLabel::QLabel;
    QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
};

} // namespace zl::app
