#include "app/pages/workbench_hands.h"

#include "app/qt_text.h"
#include "app/view/front_arrow.h"

#include "core/motion/posed.h"

namespace zl::app {

namespace {

/// The arrow's handle is told apart from those of steps.
const QString arrowId = "front";

} // namespace

WorkbenchHands::WorkbenchHands(Session& session, ModelView& view, StepsPanel& steps, PlanOffer& offer,
                               QObject* parent)
    : QObject(parent), session_(session), view_(view), steps_(steps), offer_(offer) {
    auto& tool = view_.handles();
    tool.dragged = [this](const QString& id, const HandleMove& move) { drag(id, move); };
    tool.previewed = [this](const QString& id, const HandleMove& move) { preview(id, move); };
    tool.letGo = [this] {
        start_.reset();
        ++drags_;
        Q_EMIT previewEnded();
    };
    // Marks on the model's surface come along to the side that is looked at.
    looked_.setSingleShot(true);
    looked_.setInterval(200);
    connect(&view_, &ModelView::looked, &looked_, qOverload<>(&QTimer::start));
    connect(&looked_, &QTimer::timeout, this, [this] {
        if (!start_ && hands()) refresh(stage_);
    });
    tool.clicked = [this](const Handle& handle) { steps_.editField(handle.field); };
}

void WorkbenchHands::open(const QString& piece, const QString& platform) {
    piece_ = piece, platform_ = platform;
}

const StepHands* WorkbenchHands::hands() const {
    const auto* entry = offer_.isOpen() || !on_ ? nullptr : steps_.entry(steps_.selected());
    return entry && entry->on && steps::infoOf(entry->step).stage == stage_ ? handsOf(entry->step) : nullptr;
}

std::optional<HandsPlace> WorkbenchHands::placeOf(EntryPlace place) const {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto* piece = session_.project().piece(piece_.toStdString());
    const auto* entry = steps_.entry(place);
    const auto& evaluation = state.evaluation;
    if (!entry || !piece || state.kind != CrossingState::Kind::Ready) return std::nullopt;
    const std::size_t at = place.within(*piece);
    if (at >= evaluation.after.size()) return std::nullopt;
    HandsPlace out{entry->params, at == 0 ? state.source : evaluation.after[at - 1], evaluation.after[at],
                   evaluation.model, session_.sheet(platform_.toStdString())};
    const Moment moment = this->moment ? this->moment() : Moment{};
    const bool posed = moment.clip >= 0 && std::size_t(moment.clip) < out.shown.clips.size();
    out.towards = view_.camera().back();
    out.stands =
        posed ? motion::posed(out.shown, *out.shown.clips[std::size_t(moment.clip)], moment.seconds).world
              : worldMatrices(out.shown);
    return out;
}

void WorkbenchHands::refresh(steps::Stage stage) {
    stage_ = stage;
    std::vector<Handle> handles;
    if (const StepHands* own = hands()) {
        const auto place = placeOf(steps_.selected());
        if (!place) return; // it is being worked out; what is held stays until then
        handles = own->handles(*place);
        const QString clip = qs(own->clipToShow(*place));
        if (clip != std::exchange(clipShown_, clip) && !clip.isEmpty()) Q_EMIT clipAsked(clip);
    } else {
        clipShown_.clear();
    }
    const bool arrow = (offer_.isOpen() ? offer_.asks("heading") : stage_ == steps::Stage::Place);
    const auto scene = view_.scene();
    const bool there = std::ranges::find(handles, arrowId, &Handle::id) != handles.end();
    if (arrow && !there && view_.front() && scene && !scene->bounds.empty())
        handles.push_back(FrontArrow(scene->bounds, view_.front()->angle).handle(scene->bounds));
    view_.handles().setHandles(std::move(handles));
    view_.repaintOver();
}

void WorkbenchHands::drag(const QString& id, const HandleMove& move) {
    if (id == arrowId) return turnFront(move);
    const StepHands* own = hands();
    if (!own) return;
    if (!start_) start_ = placeOf(steps_.selected());
    if (!start_) return;
    if (const auto params = own->dragged(*start_, id.toStdString(), move))
        steps_.setParams(steps_.selected(), *params, QString("drag-%1-%2").arg(id).arg(drags_));
}

void WorkbenchHands::preview(const QString& id, const HandleMove& move) {
    const auto scene = view_.scene();
    if (id != arrowId || !view_.front() || !scene) return;
    if (!start_) start_ = HandsPlace{{{"angle", view_.front()->angle}}, {}, {}, {}, nullptr};
    const double angle = std::remainder(start_->params["angle"].get<double>() + move.way, 2 * M_PI);
    view_.setFront(ModelView::Front{
        angle, tr("front, %1° from +Z").arg(qs(showNumber(std::round(glm::degrees(angle) * 10) / 10))),
        true});
}

void WorkbenchHands::turnFront(const HandleMove& move) {
    const double was = start_ ? start_->params["angle"].get<double>() : 0;
    const auto turned = [&](const nlohmann::json& params, double way) {
        return *headingHands().dragged({params, {}, {}, {}, nullptr}, arrowId.toStdString(), {way, {}});
    };
    if (offer_.isOpen()) {
        const auto* known = offer_.answerOf("heading");
        const auto params = known ? turned(known->params, move.way)
                                  : turned({{"front", "angle"}, {"angle", glm::degrees(was)}}, move.way);
        return offer_.answer({"heading", true, steps::makeStep("heading", params)->params()});
    }
    if (const auto heading = headingStep())
        return steps_.setParams(*heading, turned(steps_.entry(*heading)->params, move.way), {});
    steps_.add("heading", turned({{"front", "angle"}, {"angle", glm::degrees(was)}}, move.way));
}

std::optional<EntryPlace> WorkbenchHands::headingStep() const {
    std::optional<EntryPlace> last;
    for (const EntryPlace& place : steps_.places())
        if (const auto* entry = steps_.entry(place); entry->on && entry->step == "heading") last = place;
    return last;
}

} // namespace zl::app
