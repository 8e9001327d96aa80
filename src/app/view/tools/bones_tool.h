#pragma once
#include "app/view/tools/view_tool.h"

#include <QString>

namespace zl::app {

/// Draws a rig over the piece as slim links, names the bone under the pointer, and takes a click on one.
class BonesTool final : public ViewTool {
public:
    bool shown = false;
    QString chosen; ///< drawn stronger, with its name
    std::function<void(const QString& bone)> picked;

    bool press(ModelView& view, const Hand& hand) override;
    std::optional<Qt::CursorShape> hover(ModelView& view, QPointF at) override;
    void draw(ModelView& view, QPainter& painter, const Label& label) override;

private:
    int under_ = -1; ///< of the scene's bones
};

} // namespace zl::app
