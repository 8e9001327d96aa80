#pragma once
#include "app/selected.h"
#include "app/view/tools/view_tool.h"

namespace zl::app {

/// Selects faces by clicking: the region up to the next creases, with Ctrl the whole loose part. Shift adds
/// to what is selected, Alt takes away.
class FacesTool final : public ViewTool {
public:
    explicit FacesTool(Selected& selected) : selected_(selected) {}
    bool press(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;

private:
    Selected& selected_;
};

} // namespace zl::app
