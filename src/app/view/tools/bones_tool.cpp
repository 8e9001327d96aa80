#include "app/view/tools/bones_tool.h"

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view/model_view.h"

namespace zl::app {

namespace {

constexpr double reach = 9; ///< pixels around a bone's beginning that still take it

/// The bone that begins nearest to a place of the view; -1 for none near.
int boneAt(ModelView& view, QPointF at) {
    const auto scene = view.scene();
    int best = -1;
    double least = reach;
    for (std::size_t b = 0; scene && b < scene->bones.size(); ++b) {
        const QPointF off = view.onScreen(scene->bones[b].place) - at;
        if (const double away = std::hypot(off.x(), off.y()); away < least) least = away, best = int(b);
    }
    return best;
}

QString nameOf(const Scene& scene, std::size_t bone) {
    return qs(scene.model.nodes[std::size_t(scene.bones[bone].node)].name);
}

} // namespace

bool BonesTool::press(ModelView& view, const Hand& hand) {
    const int bone = shown ? boneAt(view, hand.at) : -1;
    if (bone < 0) return false;
    chosen = nameOf(*view.scene(), std::size_t(bone));
    view.repaintOver();
    if (picked) picked(chosen);
    return true;
}

std::optional<Qt::CursorShape> BonesTool::hover(ModelView& view, QPointF at) {
    const int under = shown ? boneAt(view, at) : -1;
    if (under != std::exchange(under_, under)) view.repaintOver();
    return under < 0 ? std::nullopt : std::optional(Qt::PointingHandCursor);
}

void BonesTool::draw(ModelView& view, QPainter& painter, const Label& label) {
    const auto scene = view.scene();
    if (!shown || !scene) return;
    const Tokens& t = tokens();
    std::vector<QPointF> places;
    for (const motion::BonePlace& bone : scene->bones) places.push_back(view.onScreen(bone.place));
    painter.setRenderHint(QPainter::Antialiasing);
    for (const QColor& ink : {t.paper, t.sea}) {
        painter.setPen(QPen(ink, ink == t.paper ? 4 : 2));
        for (std::size_t b = 0; b < places.size(); ++b)
            if (const int above = scene->bones[b].above; above >= 0)
                painter.drawLine(places[std::size_t(above)], places[b]);
    }
    for (std::size_t b = 0; b < places.size(); ++b) {
        const bool strong = int(b) == under_ || nameOf(*scene, b) == chosen;
        painter.setPen(QPen(t.sea, 2));
        painter.setBrush(strong ? t.zest : t.paper);
        painter.drawEllipse(places[b], strong ? 5 : 3.5, strong ? 5 : 3.5);
        if (strong) label(places[b] + QPointF(0, 8), nameOf(*scene, b), t.sea, true, Qt::AlignHCenter);
    }
}

} // namespace zl::app
