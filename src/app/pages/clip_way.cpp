#include "app/pages/clip_way.h"

#include "app/qt_text.h"

#include "core/base/units.h"
#include "core/motion/travel.h"

namespace zl::app {

namespace {

constexpr double seen = 1e-4;      ///< metres
constexpr std::size_t most = 2000; ///< places that are drawn

/// The clip's way with words at its end; none where the whole does not move along the ground.
WayTool::Way wayOf(const Model& model, const Clip& clip, const platform::Sheet& sheet) {
    const motion::Travel travel = motion::travelOf(model, clip);
    WayTool::Way way;
    double farthest = 0;
    for (const glm::dvec3& place : travel.places)
        farthest = std::max(farthest, std::hypot(place.x - travel.places[0].x, place.z - travel.places[0].z));
    if (farthest < seen) return way;
    const std::size_t step = travel.places.size() / most + 1;
    for (std::size_t i = 0; i < travel.places.size(); i += step) way.places.push_back(travel.places[i]);
    way.places.push_back(travel.places.back());
    const double drift = travel.groundDrift();
    way.words = drift < seen ? QObject::tr("comes back to where it begins")
                             : QObject::tr("drifts %1 in %2 s")
                                   .arg(qs(sheet.showLength(drift)), qs(showMeasure(travel.seconds())));
    return way;
}

} // namespace

std::shared_ptr<const Clip> clipBefore(const Scene& before, const std::shared_ptr<const Clip>& clip) {
    const auto& clips = before.model.clips;
    const auto same = std::ranges::find_if(
        clips, [&](const auto& other) { return other != clip && other->name == clip->name; });
    return same == clips.end() ? nullptr : *same;
}

ClipWay::ClipWay(Session& session, ModelView& view, QObject* parent)
    : QObject(parent), session_(session), view_(view) {}

void ClipWay::setOn(bool on) {
    on_ = on;
    refresh();
}

void ClipWay::show(int clip) {
    clip_ = clip;
    const auto scene = view_.restScene(), before = view_.beforeScene();
    const auto sheet = view_.sheet();
    if (!on_ || clip < 0 || !scene || !sheet || std::size_t(clip) >= scene->model.clips.size()) {
        shown_ = nullptr, shownBefore_ = nullptr;
        view_.ways().now = {}, view_.ways().before = {};
        return view_.repaintOver();
    }
    const auto wanted = scene->model.clips[std::size_t(clip)];
    if (wanted == shown_ && before == shownBefore_) return;
    shown_ = wanted, shownBefore_ = before;
    session_.jobs().start<Ways>(
        tr("Following the clip"), this,
        [scene, before, sheet, wanted](const Progress&) {
            Ways ways{wayOf(scene->model, *wanted, *sheet), {}};
            const auto same = before ? clipBefore(*before, wanted) : nullptr;
            if (!same) return ways;
            ways.before = wayOf(before->model, *same, *sheet);
            if (!ways.before.empty()) {
                ways.before.words = QObject::tr("before: %1").arg(ways.before.words);
                if (ways.now.empty())
                    ways.now = {{ways.before.places.front()}, QObject::tr("now: on the spot")};
            }
            return ways;
        },
        [this, wanted](const Ways& ways) {
            if (wanted != shown_) return;
            view_.ways().now = ways.now, view_.ways().before = ways.before;
            view_.repaintOver();
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Shown);
}

} // namespace zl::app
