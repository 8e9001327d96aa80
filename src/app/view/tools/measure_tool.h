#pragma once
#include "app/view/tools/view_tool.h"

#include <glm/glm.hpp>

#include <QObject>

#include <vector>

namespace zl::app {

/// The distance between two points that are clicked on the model, from corner to corner where one is near.
class MeasureTool final : public QObject, public ViewTool {
    Q_OBJECT
public:
    std::optional<std::pair<glm::dvec3, glm::dvec3>> measured() const;

    bool press(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;
    void putDown(ModelView& view) override;

Q_SIGNALS:
    void measuredChanged();

private:
    std::vector<glm::dvec3> points_;
    std::optional<glm::dvec3> hovered_; ///< where a click would measure from
};

} // namespace zl::app
