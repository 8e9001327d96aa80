#pragma once
#include "core/platform/sheet.h"

#include <QWidget>

namespace zl::app {

/// A figure, a door and a cup as tall as a sheet's unit makes them, with its numbers: a unit that is wrong is
/// seen at once.
class ThingsBeside : public QWidget {
    Q_OBJECT
public:
    explicit ThingsBeside(QWidget* parent = nullptr);
    void show(const platform::Sheet& sheet);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    double metres_ = 1, figure_ = 1.75;
    QString unit_, axes_;
};

} // namespace zl::app
