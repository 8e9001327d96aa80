#pragma once
#include "core/formats/kart_shares.h"

#include <QWidget>

class QLabel;

namespace zl::app {

/// A bar of what takes the bytes of one file, part by part, against its limit.
class BytesBar : public QWidget {
    Q_OBJECT
public:
    using QWidget::QWidget;
    void show(std::vector<formats::KartShare> shares, double most);
    QSize sizeHint() const override { return {200, 26}; }

protected:
    void paintEvent(QPaintEvent* event) override;
    bool event(QEvent* event) override;

private:
    /// Where each share is drawn.
    std::vector<QRectF> places() const;

    std::vector<formats::KartShare> shares_;
    double most_ = 0;
};

/// What takes the bytes of a kart's file, and what each mend would bring.
class BytesPanel : public QWidget {
    Q_OBJECT
public:
    explicit BytesPanel(QWidget* parent = nullptr);
    /// `most` is the file's limit in bytes.
    void show(const std::vector<formats::KartShare>& shares, double most);

private:
    BytesBar* bar_;
    QLabel *whole_, *rows_;
};

} // namespace zl::app
