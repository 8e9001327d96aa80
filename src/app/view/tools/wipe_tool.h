#pragma once
#include "app/view/tools/view_tool.h"

namespace zl::app {

/// The line between before and after, to be dragged.
class WipeTool final : public ViewTool {
public:
    /// Where the line stands, in pixels of a view this wide.
    double x(double width) const { return share_ * width; }
    void stand(double share) { share_ = share; }

    bool press(ModelView& view, const Hand& hand) override;
    void move(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;

private:
    bool isUnder(const ModelView& view, QPointF at) const;
    double share_ = 0.5;
};

} // namespace zl::app
