#pragma once
#include "app/session.h"
#include "app/widgets/mark.h"

#include <QAbstractButton>

namespace zl::app {

/// A piece on a platform: says in words and shape whether it fits, and which limit is tightest.
class CrossingButton : public QAbstractButton {
    Q_OBJECT
public:
    CrossingButton(QString piece, QString platform, QWidget* parent);
    void show(const CrossingState& state, bool setUp);
    const QString& piece() const { return piece_; }
    const QString& platform() const { return platform_; }
    QSize sizeHint() const override { return {86, 68}; }

Q_SIGNALS:
    void opened();

protected:
    void paintEvent(QPaintEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override { Q_EMIT opened(); }
    void keyPressEvent(QKeyEvent* event) override;

private:
    QString piece_, platform_, words_;
    Mark mark_ = Mark::None;
};

} // namespace zl::app
