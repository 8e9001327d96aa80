#pragma once
#include "app/selected.h"
#include "app/view/tools/view_tool.h"

#include <QRectF>

namespace zl::app {

/// What the hand does when no other tool is taken: a click picks a part, a drag selects the parts within it,
/// with Shift in addition to what is selected.
class LookTool final : public ViewTool {
public:
    explicit LookTool(Selected& selected) : selected_(selected) {}
    bool press(ModelView& view, const Hand& hand) override;
    void move(ModelView& view, const Hand& hand) override;
    void release(ModelView& view, const Hand& hand) override;
    bool key(ModelView& view, const QKeyEvent& event, bool pressed) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;

private:
    Selected& selected_;
    QRectF band_;
};

} // namespace zl::app
