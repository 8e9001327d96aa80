#include "app/blocks/blocks_tool.h"

#include "app/theme.h"
#include "app/view/model_view.h"

#include "core/blocks/faces.h"

#include <QKeyEvent>
#include <QPainter>

namespace zl::app {

namespace {

const blocks::Hull* hullIn(const ModelView& view) {
    const auto scene = view.restScene();
    return scene ? blocks::hullOf(scene->model) : nullptr;
}

glm::dmat4 placeOf(const ModelView& view) {
    const Model& model = view.restScene()->model;
    return worldMatrices(model)[std::size_t(shownNodes(model)[0])];
}

} // namespace

std::optional<BlocksTool::Hit> BlocksTool::hit(const ModelView& view, QPointF at) const {
    const blocks::Hull* hull = hullIn(view);
    const auto pick = hull ? view.pick(at) : std::nullopt;
    if (!pick) return std::nullopt;
    const Mesh& mesh = view.restScene()->mesh;
    const std::uint32_t* corner = &mesh.indices[3 * std::size_t(pick->triangle)];
    const glm::dmat4 back = glm::inverse(placeOf(view));
    const auto local = [&](const glm::dvec3& p) { return glm::dvec3(back * glm::dvec4(p, 1)); };
    const glm::dvec3 a = local(mesh.positions[corner[0]]), b = local(mesh.positions[corner[1]]),
                     c = local(mesh.positions[corner[2]]);
    const glm::dvec3 normal = glm::normalize(glm::cross(b - a, c - a)), eye = local(view.camera().eye()),
                     place = local(pick->at);
    const glm::dvec3 inward = 0.05 * hull->edge * (glm::dot(normal, eye - place) > 0 ? -normal : normal);
    Hit out;
    out.cell = hull->numberAt(place + inward);
    const glm::dvec3 way = -inward;
    const glm::dvec3 size = glm::abs(way);
    const int axis = size.y >= size.x - 1e-9 && size.y >= size.z - 1e-9 ? 1 : size.x >= size.z ? 0 : 2;
    out.side = 2 * axis + (way[axis] > 0);
    return out;
}

bool BlocksTool::press(ModelView& view, const Hand& hand) {
    if (!hullIn(view)) return false;
    const auto at = hit(view, hand.at);
    from_ = at && does == Does::Choose ? std::optional(at->cell) : std::nullopt;
    to_ = from_;
    return at.has_value() || does == Does::Choose;
}

void BlocksTool::move(ModelView& view, const Hand& hand) {
    if (does != Does::Choose || !from_) return;
    if (const auto at = hit(view, hand.at)) to_ = at->cell;
    view.repaintOver();
}

void BlocksTool::release(ModelView& view, const Hand& hand) {
    if (does == Does::Choose) {
        if (from_ && to_)
            boxed(*from_, *to_, hand.keys & Qt::ShiftModifier);
        else if (!hand.hasMoved())
            chosen.clear();
        from_.reset(), to_.reset();
        view.repaintOver();
        return;
    }
    if (hand.hasMoved()) return;
    if (const auto at = hit(view, hand.at)) {
        const blocks::Hull* hull = hullIn(view);
        const glm::dvec3 middle = hull->cornerOf(at->cell) + glm::dvec3(hull->edge / 2);
        const glm::dvec3 eye(glm::inverse(placeOf(view)) * glm::dvec4(view.camera().eye(), 1));
        clicked(at->cell, at->side, glm::normalize(eye - middle));
    }
}

std::optional<Qt::CursorShape> BlocksTool::hover(ModelView& view, QPointF at) {
    const auto there = hit(view, at);
    const auto was = under_;
    under_.reset();
    if (there) under_ = there->cell + (does == Does::Put ? blocks::sides[there->side] : glm::ivec3(0));
    if (under_ != was) view.repaintOver();
    return there ? std::optional(Qt::CrossCursor) : std::nullopt;
}

bool BlocksTool::key(ModelView&, const QKeyEvent& event, bool pressed) {
    return pressed && keyed && keyed(event);
}

void BlocksTool::outline(const ModelView& view, QPainter& painter, const glm::dmat4& place, glm::ivec3 low,
                         glm::ivec3 high) const {
    const blocks::Hull& hull = *hullIn(view);
    const glm::dvec3 from = hull.cornerOf(low), to = hull.cornerOf(high + 1);
    QPointF corner[8];
    for (int k = 0; k < 8; ++k)
        corner[k] = view.onScreen(glm::dvec3(
            place * glm::dvec4(k & 1 ? to.x : from.x, k & 2 ? to.y : from.y, k & 4 ? to.z : from.z, 1)));
    for (int k = 0; k < 8; ++k)
        for (const int bit : {1, 2, 4})
            if (!(k & bit)) painter.drawLine(corner[k], corner[k | bit]);
}

void BlocksTool::draw(ModelView& view, QPainter& painter, const Label&) {
    if (!hullIn(view)) return;
    const glm::dmat4 place = placeOf(view);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(tokens().sea, 1.5));
    constexpr std::size_t most = 400; // more would be a carpet of lines: their box then
    if (chosen.size() <= most) {
        for (const glm::ivec3& cell : chosen) outline(view, painter, place, cell, cell);
    } else {
        glm::ivec3 low = chosen[0], high = chosen[0];
        for (const glm::ivec3& cell : chosen) low = glm::min(low, cell), high = glm::max(high, cell);
        outline(view, painter, place, low, high);
    }
    painter.setPen(QPen(tokens().zest, 2.5));
    if (from_ && to_)
        outline(view, painter, place, glm::min(*from_, *to_), glm::max(*from_, *to_));
    else if (under_)
        outline(view, painter, place, *under_, *under_);
}

void BlocksTool::putDown(ModelView& view) {
    chosen.clear(), under_.reset(), from_.reset(), to_.reset();
    view.repaintOver();
}

} // namespace zl::app
