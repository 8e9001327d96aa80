#pragma once
#include "app/view/picking.h"
#include "app/view/tools/view_tool.h"

namespace zl::app {

/// Marks a place that something beside the view points at, and tells it what the pointer is over.
class SpotTool final : public ViewTool {
public:
    std::optional<glm::dvec3> spot;
    std::function<void(const std::optional<Pick>&)> pointed; ///< empty: nobody wants to know

    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;
};

} // namespace zl::app
