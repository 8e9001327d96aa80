#pragma once
#include <QObject>

#include <array>

class QToolButton;

namespace zl::app {

class FlowRow;

/// What stands in the middle of the Surface stage.
enum class SurfaceSight { Model, Pictures, UvLayout };

/// The three buttons that change it, at the head of a row.
class SurfaceSwitch : public QObject {
    Q_OBJECT
public:
    SurfaceSwitch(FlowRow& row, QObject* parent);
    void setVisible(bool visible);
    void show(SurfaceSight sight);

Q_SIGNALS:
    void chosen(SurfaceSight sight);

private:
    std::array<QToolButton*, 3> buttons_{};
};

} // namespace zl::app
