#include "app/view/tools/look_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

namespace zl::app {

bool LookTool::press(ModelView& view, const Hand&) {
    return view.scene() != nullptr;
}

void LookTool::move(ModelView& view, const Hand& hand) {
    if (!hand.hasMoved()) return;
    band_ = QRectF(hand.pressedAt, hand.at).normalized();
    view.repaintOver();
}

void LookTool::release(ModelView& view, const Hand& hand) {
    const QRectF band = std::exchange(band_, QRectF());
    const auto scene = view.scene();
    if (!scene) return;
    auto parts = hand.keys & Qt::ShiftModifier ? selected_.parts() : std::set<NodePath>();
    const auto add = [&](int node) { parts.insert(scene->paths.at(std::size_t(node))); };
    if (!band.isEmpty()) {
        for (const int node : nodesWithin(*scene, view.camera(), view.size(), band)) add(node);
    } else if (const auto under = view.pick(hand.at)) {
        add(under->node);
    }
    selected_.setParts(std::move(parts));
    view.repaintOver();
}

bool LookTool::key(ModelView&, const QKeyEvent& event, bool pressed) {
    if (!pressed || event.key() != Qt::Key_Escape || selected_.empty()) return false;
    selected_.clear();
    return true;
}

void LookTool::draw(ModelView&, QPainter& painter, const Label&) {
    if (band_.isEmpty()) return;
    QColor fill = tokens().sea;
    fill.setAlphaF(0.14f);
    painter.setPen(QPen(tokens().sea, 1));
    painter.setBrush(fill);
    painter.drawRect(band_);
}

} // namespace zl::app
