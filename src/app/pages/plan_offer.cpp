#include "app/pages/plan_offer.h"

#include "app/qt_text.h"

#include "core/platform/check.h"

namespace zl::app {

PlanOffer::PlanOffer(Session& session, PlanPanel& panel,
                     std::function<bool(const QString&, const QString&)> isShown, QObject* parent)
    : QObject(parent), session_(session), panel_(panel), isShown_(std::move(isShown)) {
    connect(&panel_, &PlanPanel::chosenChanged, this, &PlanOffer::preview);
    connect(&panel_, &PlanPanel::taken, this, &PlanOffer::take);
    connect(&panel_, &PlanPanel::left, this, &PlanOffer::leave);
    connect(&panel_, &PlanPanel::answered, this, &PlanOffer::answer);
}

void PlanOffer::suggest(const QString& piece, const QString& platform) {
    leave();
    answers_.clear();
    asked_.clear();
    look(piece, platform);
}

bool PlanOffer::asks(std::string_view step) const {
    return open_ && std::ranges::find(asked_, step, &planner::Question::step) != asked_.end();
}

const recipe::Entry* PlanOffer::answerOf(std::string_view step) const {
    const auto found = std::ranges::find(answers_, step, &recipe::Entry::step);
    return found == answers_.end() ? nullptr : &*found;
}

void PlanOffer::answer(const recipe::Entry& answer) {
    std::erase_if(answers_, [&](const recipe::Entry& known) { return known.step == answer.step; });
    answers_.push_back(answer);
    look(piece_, platform_);
}

void PlanOffer::look(const QString& piece, const QString& platform) {
    const auto& state = session_.state(piece.toStdString(), platform.toStdString());
    const auto sheet = session_.sheet(platform.toStdString());
    if (state.kind != CrossingState::Kind::Ready || !sheet)
        return Q_EMIT session_.said(tr("Wait until the piece has been checked."));
    session_.jobs().start<planner::Plan>(
        tr("Looking for a fit"), this,
        [model = state.evaluation.model, key = state.evaluation.key, sheet, cache = session_.sharedCache(),
         answers = answers_, sizes = state.sizes()](const Progress& progress) {
            return planner::plan(model, *sheet, cache.get(), key, progress, answers, sizes);
        },
        [this, piece, platform, key = state.evaluation.key](const planner::Plan& plan) {
            offer(plan, piece, platform, key);
        },
        [this](const QString& problem) { Q_EMIT session_.said(problem); }, Urgency::Asked);
}

void PlanOffer::offer(const planner::Plan& plan, const QString& piece, const QString& platform, Hash key) {
    const auto sheet = session_.sheet(platform.toStdString());
    const auto& state = session_.state(piece.toStdString(), platform.toStdString());
    if (!sheet || !session_.project().piece(piece.toStdString())) return;
    const QString name = tr("%1 on %2").arg(piece, qs(sheet->name));
    if (!isShown_(piece, platform))
        return Q_EMIT session_.said(
            tr("A fit for %1 was found; open it and suggest again to see it.").arg(name));
    if (state.kind != CrossingState::Kind::Ready || state.evaluation.key != key)
        return Q_EMIT session_.said(
            tr("%1 has changed while a fit was looked for; suggest again.").arg(name));
    piece_ = piece, platform_ = platform, key_ = key;
    open_ = true;
    for (const auto& question : plan.questions)
        if (std::ranges::find(asked_, question.step, &planner::Question::step) == asked_.end())
            asked_.push_back(question);
    // In the order in which they were asked, but what has to be answered first.
    std::ranges::stable_partition(asked_, &planner::Question::waits);
    stood_ = state.evaluation.model.travelled;
    stands_ = stood_;
    panel_.show(plan, asked_, answers_, {sheet});
    Q_EMIT offered();
    if (!plan.steps.empty()) preview();
}

void PlanOffer::point(const glm::dvec3& from, const glm::dvec3& to) {
    const glm::dmat4 back = stood_ * glm::inverse(stands_);
    panel_.setPoints(glm::dvec3(back * glm::dvec4(from, 1)), glm::dvec3(back * glm::dvec4(to, 1)));
}

void PlanOffer::preview() {
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    const auto sheet = session_.sheet(platform_.toStdString());
    if (!open_ || !sheet) return;
    const int asked = ++previews_;
    const auto isWanted = [this, asked] { return open_ && asked == previews_; };
    session_.jobs().start<PlanPreview>(
        tr("Trying the ticked steps"), this,
        [model = state.evaluation.model, before = state.report, key = key_, recipe = panel_.chosen(), sheet,
         size = state.size, others = state.others, cache = session_.sharedCache()](const Progress& progress) {
            PlanPreview preview{
                recipe::evaluateFrom(model, key, recipe, sheet.get(), cache.get(), progress).model,
                before,
                {}};
            Sizes sizes{size, {}};
            for (const auto& other : others)
                sizes.others.push_back(
                    {other.size, recipe::evaluateFrom(other.evaluation.model, other.evaluation.key, recipe,
                                                      sheet.get(), cache.get(), progress)
                                     .model});
            preview.after = platform::check(preview.model, *sheet, {}, sizes);
            return preview;
        },
        [this, isWanted](const PlanPreview& preview) {
            if (!isWanted()) return;
            panel_.setProblem({});
            stands_ = preview.model.travelled;
            Q_EMIT previewed(preview);
        },
        [this, isWanted](const QString& problem) {
            if (isWanted()) panel_.setProblem(problem);
        },
        Urgency::Shown);
}

void PlanOffer::take() {
    if (!open_) return;
    const auto chosen = panel_.chosen();
    const QString piece = piece_, platform = platform_;
    leave();
    session_.editCrossing(tr("suggested fit"), piece, platform, [&](project::Crossing& crossing) {
        crossing.recipe.insert(crossing.recipe.end(), chosen.begin(), chosen.end());
    });
}

void PlanOffer::leave() {
    if (!std::exchange(open_, false)) return;
    panel_.hide();
    Q_EMIT ended();
}

void PlanOffer::leaveIfStale() {
    if (!open_) return;
    const auto& state = session_.state(piece_.toStdString(), platform_.toStdString());
    if (!isShown_(piece_, platform_) || state.kind != CrossingState::Kind::Ready ||
        state.evaluation.key != key_)
        leave();
}

} // namespace zl::app
