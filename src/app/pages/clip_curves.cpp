#include "app/pages/clip_curves.h"

#include "app/pages/clip_way.h"
#include "app/qt_text.h"

#include "core/base/units.h"
#include "core/motion/node_curve.h"
#include "core/motion/travel.h"

namespace zl::app {

namespace {

using Line = CurveLane::Line;

constexpr double leastSeen = 1e-4; ///< metres

double spanOf(const std::vector<double>& values) {
    if (values.empty()) return 0;
    const auto [low, high] = std::ranges::minmax(values);
    return high - low;
}

std::vector<double> along(const motion::NodeCurve& curve, int axis) {
    std::vector<double> out;
    for (const glm::dvec3& way : curve.ways) out.push_back(way[axis]);
    return out;
}

int nodeNamed(const Model& model, const QString& name) {
    const auto found = std::ranges::find(model.nodes, name.toStdString(), &Node::name);
    return found == model.nodes.end() ? -1 : int(found - model.nodes.begin());
}

/// The whole's way forward, up and, where there is any, to the side.
std::vector<Line> linesOfWhole(const Model& model, const Clip& clip, const platform::Sheet& sheet) {
    std::vector<Line> out;
    const auto curve = motion::curveOf(model, clip, motion::carrierOf(model, clip));
    const struct {
        QString name;
        int axis;
        Line::Ink ink;
    } ways[] = {{QObject::tr("forward"), 2, Line::Ink::Leaf},
                {QObject::tr("up"), 1, Line::Ink::Sea},
                {QObject::tr("to the side"), 0, Line::Ink::Amber}};
    for (const auto& way : ways) {
        auto values = along(curve, way.axis);
        const double span = spanOf(values);
        if (values.empty() || (way.axis == 0 && span < leastSeen)) continue;
        out.push_back({span < leastSeen ? QObject::tr("%1: stays").arg(way.name)
                                        : QObject::tr("%1 %2").arg(way.name, qs(sheet.showLength(span))),
                       way.ink, false, false, std::move(values)});
    }
    return out;
}

std::vector<Line> linesOfNode(const Model& model, const Clip& clip, int node, const platform::Sheet& sheet) {
    const auto curve = motion::curveOf(model, clip, node);
    if (curve.turns.empty()) return {};
    std::vector<double> away;
    for (const glm::dvec3& way : curve.ways) away.push_back(glm::length(way));
    const QString name = qs(model.nodes[std::size_t(node)].name);
    const double turned = std::ranges::max(curve.turns), moved = std::ranges::max(away);
    return {{QObject::tr("%1 turns %2°").arg(name, qs(showNumber(turned, 1))), Line::Ink::Sea, false, true,
             curve.turns},
            {QObject::tr("moves %1").arg(qs(sheet.showLength(moved < leastSeen ? 0 : moved))),
             Line::Ink::Leaf, false, false, std::move(away)}};
}

} // namespace

ClipCurves::ClipCurves(Session& session, ModelView& view, ClipBar& bar, QObject* parent)
    : QObject(parent), session_(session), view_(view), bar_(bar) {
    connect(&bar_, &ClipBar::curveAsked, this, &ClipCurves::refresh);
}

void ClipCurves::refresh() {
    const auto scene = view_.restScene();
    const auto sheet = view_.sheet();
    const int clip = bar_.chosen();
    if (!scene || !sheet || clip < 0 || std::size_t(clip) >= scene->model.clips.size()) return;
    const Asked asked{scene->model.clips[std::size_t(clip)], scene, view_.beforeScene(), bar_.whose()};
    if (asked == shown_) return;
    shown_ = asked;
    session_.jobs().start<std::vector<Line>>(
        tr("Drawing how %1 moves").arg(qs(asked.clip->name)), this,
        [asked, sheet](const Progress&) {
            const Model& model = asked.scene->model;
            if (!asked.whose.isEmpty())
                return linesOfNode(model, *asked.clip, nodeNamed(model, asked.whose), *sheet);
            auto lines = linesOfWhole(model, *asked.clip, *sheet);
            const auto same = asked.before ? clipBefore(*asked.before, asked.clip) : nullptr;
            if (!same) return lines;
            auto before = linesOfWhole(asked.before->model, *same, *sheet);
            if (before.empty() || spanOf(before[0].values) < leastSeen) return lines;
            before[0].label = QObject::tr("before: %1").arg(before[0].label);
            before[0].ink = Line::Ink::Clay, before[0].dashed = true;
            lines.push_back(std::move(before[0]));
            return lines;
        },
        [this, asked](std::vector<Line> lines) {
            if (asked == shown_)
                bar_.lane().setLines(std::move(lines),
                                     tr("Nothing that carries the whole moves from place to "
                                        "place; choose a bone to see it."));
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Shown,
        [this] { shown_ = {}; });
}

} // namespace zl::app
