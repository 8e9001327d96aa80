#pragma once
#include <QLabel>

namespace zl::app {

/// One line of text with "…" where it has no room; its tooltip is then the whole.
class ElidedLabel : public QLabel {
    Q_OBJECT
public:
    using QLabel::QLabel;
    QSize minimumSizeHint() const override;
    /// Where the "…" stands; at the end unless said otherwise.
    void setElide(Qt::TextElideMode elide) { elide_ = elide; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    Qt::TextElideMode elide_ = Qt::ElideRight;
};

} // namespace zl::app
