#include "core/planner/planner.h"

#include "core/geometry/clean.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"
#include "core/motion/still.h"
#include "core/planner/questions.h"
#include "core/planner/together.h"

#include <map>
#include <optional>

namespace zl::planner {

using platform::FitReport;
using platform::RuleResult;
using platform::Severity;
using platform::State;

namespace {

bool isPlacing(const recipe::Entry& entry) {
    return steps::infoOf(entry.step).stage == steps::Stage::Place;
}

class Planner {
public:
    Planner(const Model& model, const platform::Sheet& sheet, recipe::EvaluationCache* cache, Hash key,
            const Progress& progress, const recipe::Recipe& answers, const Sizes& sizes)
        : start_(model), sheet_(platform::asFor(model, sheet)), progress_(progress), answers_(answers),
          trials_(model, sheet_, cache, key, progress, sizes) {}

    Plan make() {
        plan_.before = draft_.report = trials_.first();
        draft_.model = start_;
        if (triangleCount(start_) > 0) {
            if (const Model* joined = trials_.joinLooseCorners())
                draft_.model = *joined, draft_.report = trials_.checked(*joined);
            addUnit();
            addAnswers(true);
            mendAll(Severity::Must, true);
            mendAll(Severity::Should, true);
            prune();
            addAnswers(false);
            if (trials_.leaveStandIn()) {
                draft_.model = trials_.run(draft_.steps);
                draft_.report = trials_.checked(draft_.model);
            }
            mendAll(Severity::Must, false);
            mendAgain();
            mendAll(Severity::Must, true); // reducing may have moved the lowest point
            mendAll(Severity::Should, false);
        }
        plan_.after = draft_.report;
        plan_.holds = draft_.report.fits();
        if (draft_.steps.size() == 1 && !draft_.steps[0].required && plan_.before.fits() &&
            draft_.steps[0].entry.step == "unit-and-up")
            draft_.steps.clear(); // it fits as it is; nothing to do
        explain();
        if (auto question = sizeQuestion(start_, draft_.model, draft_.steps, sheet_, answers_, likelySize_))
            plan_.questions.push_back(std::move(*question));
        plan_.steps = std::move(draft_.steps);
        return std::move(plan_);
    }

private:
    /// Appends the step, before those that run last, when it makes `id` hold without breaking more than
    /// before, or where it must hold, without breaking more that must. A step that cannot be done on this
    /// model mends nothing; what it says is kept for the reasons.
    bool tryStep(const std::string& id, const PlannedStep& step, const std::vector<PlannedStep>& first = {}) {
        auto steps = draft_.steps;
        const auto isLast = [](const PlannedStep& one) { return steps::infoOf(one.entry.step).isLast; };
        auto at = steps.end();
        while (!isLast(step) && at != steps.begin() && isLast(*(at - 1))) --at;
        at = steps.insert(at, first.begin(), first.end()) + std::ptrdiff_t(first.size());
        at = steps.insert(at, step);
        const auto own = std::size_t(at - steps.begin());
        std::string why;
        auto tried = trials_.attempt(steps, &why);
        if (!tried) return impossible_[id] = why, false;
        auto& [model, report, shortfall, lost] = *tried;
        const RuleResult *now = report.rule(id), *was = draft_.report.rule(id);
        if (!now || now->state == State::Broken) {
            if (!shortfall.empty()) impossible_[id] = shortfall;
            return false;
        }
        impossible_.erase(id);
        steps[own].before = was->finding.measured;
        steps[own].after = now->finding.measured;
        const bool isLess = broken(report, true) < broken(draft_.report, true);
        const bool fitsMore = broken(report, false) < broken(draft_.report, false); // worth a `should`
        if (!isLess && !followUp(steps, model, report) && !fitsMore) return false;
        draft_.steps = std::move(steps);
        draft_.model = model;
        draft_.report = std::move(report);
        return true;
    }

    /// What a step newly breaks, others may mend: a truck that was scaled has to be baked again, and what was
    /// cut into stiff parts be set down and reduced. Adds such steps until less is broken than before them
    /// all; false when that cannot be had, with the arguments as they came to be.
    bool followUp(std::vector<PlannedStep>& steps, Model& model, FitReport& report) {
        while (broken(report, true) >= broken(draft_.report, true))
            if (!mendNew(steps, model, report)) return false;
        return true;
    }

    /// Adds one step that leaves less broken than is, for a limit that the draft keeps.
    bool mendNew(std::vector<PlannedStep>& steps, Model& model, FitReport& report) {
        for (const platform::RuleSpec& spec : sheet_.rules) {
            const RuleResult was = *report.rule(spec.id);
            if (was.state != State::Broken || draft_.report.rule(spec.id)->state == State::Broken) continue;
            for (const std::string& mend : spec.mends)
                for (const auto& params :
                     isAnswered(mend) ? std::vector<nlohmann::json>() : proposals(mend, was, model, sheet_)) {
                    if (makesAnotherShape(mend, params)) continue;
                    auto more = steps;
                    more.push_back({entryOf(mend, params),
                                    was.finding.measured,
                                    {},
                                    spec.message,
                                    spec.severity == Severity::Must});
                    auto tried = trials_.attempt(more);
                    if (!tried || broken(tried->report, true) >= broken(report, true)) continue;
                    more.back().after = tried->report.rule(spec.id)->finding.measured;
                    steps = std::move(more);
                    model = std::move(tried->model), report = std::move(tried->report);
                    return true;
                }
        }
        return false;
    }

    void addUnit() {
        if (!start_.frame.unitAssumed && !start_.frame.upAssumed) return;
        const FrameGuess guess = guessFrame(draft_.model, sheet_);
        likelySize_ = guess.likely;
        const bool differs = guess.frame.unit.id != start_.frame.unit.id || guess.frame.up != start_.frame.up;
        if (!differs && broken(draft_.report, false) == 0) return;
        const auto show = [](const SourceFrame& f, bool assumed) {
            return fmt::format("{}, {} up{}", f.unit.name, upName(f.up), assumed ? " (assumed)" : "");
        };
        PlannedStep step{entryOf("unit-and-up", unitAndUpParams(guess.frame)),
                         show(start_.frame, true),
                         show(guess.frame, false),
                         {},
                         differs};
        for (const std::string& reason : guess.reasons) step.why += (step.why.empty() ? "" : "; ") + reason;
        draft_.steps.push_back(step);
        draft_.model = trials_.run(draft_.steps);
        draft_.report = trials_.checked(draft_.model);
    }

    bool isAnswered(std::string_view step) const { return planner::isAnswered(answers_, step); }

    /// Where it stands and how large it is goes before all else, what it is like behind that.
    void addAnswers(bool placing) {
        recipe::Recipe answers = answers_;
        std::erase_if(answers, [&](const auto& answer) { return isPlacing(answer) != placing; });
        // Width and length are those of the piece as it faces.
        std::stable_partition(answers.begin(), answers.end(),
                              [](const auto& answer) { return answer.step == "heading"; });
        for (const recipe::Entry& answer : answers) {
            const auto params = asProposed(answer);
            if (!params) continue;
            PlannedStep step{entryOf(answer.step, *params), {}, {}, "as you said", true};
            const FitReport was = draft_.report;
            draft_.steps.push_back(step);
            draft_.model = trials_.run(draft_.steps);
            draft_.report = trials_.checked(draft_.model);
            for (const platform::RuleSpec& spec : sheet_.rules) { // shown by the first limit that it moves
                if (std::ranges::find(spec.mends, answer.step) == spec.mends.end()) continue;
                draft_.steps.back().before = was.rule(spec.id)->finding.measured;
                draft_.steps.back().after = draft_.report.rule(spec.id)->finding.measured;
                if (draft_.steps.back().before != draft_.steps.back().after) break;
            }
        }
    }

    /// What a person said; where that is only that the piece may be stretched, as its rule would have it.
    /// Nothing where that cannot be done.
    std::optional<nlohmann::json> asProposed(const recipe::Entry& answer) {
        if (answer.step != "reshape" || !answer.params.value("rows", nlohmann::json::array()).empty())
            return answer.params;
        for (const platform::RuleSpec& spec : sheet_.rules) {
            if (std::ranges::find(spec.mends, answer.step) == spec.mends.end()) continue;
            const auto wanted = proposals(answer.step, *draft_.report.rule(spec.id), draft_.model, sheet_);
            if (!wanted.empty()) return wanted.front();
            impossible_[spec.id] = "a side without length cannot be stretched";
        }
        return std::nullopt;
    }

    /// A reduction needs joined corners and faces with an area; cleaning goes before it when it would join or
    /// take out many.
    std::vector<PlannedStep> weldFirst() {
        std::size_t joined = trials_.joinedCorners(), corners = 0, flat = 0, triangles = 0;
        for (const PlannedStep& step : draft_.steps)
            if (step.entry.step == "weld-and-clean") return {};
        for (const auto& mesh : draft_.model.meshes) {
            if (trials_.joinedCorners() == 0) joined += geometry::weld(*mesh, 0).cornersJoined;
            corners += mesh->vertexCount(), triangles += mesh->triangleCount();
            for (std::size_t t = 0; t < mesh->triangleCount(); ++t) flat += geometry::isSliver(*mesh, t);
        }
        PlannedStep clean{entryOf("weld-and-clean", nlohmann::json::object()), {}, {}, {}, true};
        if (joined * 20 > corners) {
            clean.before = showCount(static_cast<long long>(corners), "corner", "corners");
            clean.after = showCount(static_cast<long long>(corners - joined), "corner", "corners");
            clean.why = "corners that are not joined cannot be reduced";
        } else if (flat * 20 > triangles) {
            clean.before = showCount(static_cast<long long>(flat), "face without area", "faces without area");
            clean.after = "none";
            clean.why = "faces without area hold the rest where it is";
        } else {
            return {};
        }
        return {clean};
    }

    /// Where the platform moves nothing, a piece that could move stands still first.
    bool tryStill(const platform::RuleSpec& spec, const PlannedStep& step) {
        constexpr std::string_view still = "stand-still";
        if (std::ranges::find(spec.mends, still) == spec.mends.end() || step.entry.step == still ||
            isAnswered(still) || !motion::canMove(draft_.model))
            return false;
        return tryStep(spec.id, step,
                       {{entryOf(std::string(still), nlohmann::json::object()), "it can move",
                         "it stands still", spec.message, step.required}});
    }

    void mendAll(Severity severity, bool placing) {
        for (const platform::RuleSpec& spec : sheet_.rules) {
            const RuleResult result = *draft_.report.rule(spec.id);
            if (result.state != State::Broken || spec.severity != severity) continue;
            if (platform::ruleKind(spec.check)->together) {
                if (!placing)
                    mendTogether(draft_, trials_, sheet_, spec,
                                 [this](const std::string& step) { return isAnswered(step); });
                continue;
            }
            for (const std::string& id : spec.mends) {
                if (isPlacing({id}) != placing || (id == "unit-and-up" && spec.check == "unit-known") ||
                    isAnswered(id))
                    continue;
                progress_.checkCancel();
                bool done = false;
                for (const auto& params : proposals(id, result, draft_.model, sheet_)) {
                    if (makesAnotherShape(id, params)) continue;
                    PlannedStep step{entryOf(id, params), {}, {}, spec.message, severity == Severity::Must};
                    if (id == "reduce-triangles") done = tryStep(spec.id, step, weldFirst());
                    if (!done) done = tryStep(spec.id, step);
                    if (!done) done = tryStill(spec, step);
                    if (done) break;
                }
                if (done) break;
            }
        }
    }

    /// What one mend broke, another may mend: faces that now all wear one material are too many for it. The
    /// same step twice is seldom needed, so the first is taken out where it can be.
    void mendAgain() {
        if (!draft_.steps.empty() && broken(draft_.report, false) > 0) mendAll(Severity::Must, false);
        for (std::size_t i = 0; i < draft_.steps.size(); ++i)
            if (std::ranges::count(draft_.steps, draft_.steps[i].entry.step,
                                   [](const PlannedStep& step) { return step.entry.step; }) > 1)
                return prune();
    }

    /// Takes out steps without which the rules hold just as well.
    void prune() {
        for (std::size_t i = 0; i < draft_.steps.size();) {
            if (draft_.steps[i].entry.step == "unit-and-up" || isAnswered(draft_.steps[i].entry.step)) {
                ++i;
                continue;
            }
            auto fewer = draft_.steps;
            fewer.erase(fewer.begin() + static_cast<std::ptrdiff_t>(i));
            if (!holdsWith(fewer)) {
                ++i;
                continue;
            }
            draft_.steps = std::move(fewer);
        }
    }

    /// Takes the steps' outcome for the plan's when they break no more than the plan does.
    bool holdsWith(const std::vector<PlannedStep>& steps) {
        auto tried = trials_.attempt(steps); // a later step may need what was taken out
        if (!tried || broken(tried->report, true) > broken(draft_.report, true) ||
            broken(tried->report, false) > broken(draft_.report, false))
            return false;
        draft_.model = std::move(tried->model);
        draft_.report = std::move(tried->report);
        return true;
    }

    void explain() {
        for (const RuleResult& rule : draft_.report.rules) {
            if (rule.state != State::Broken || rule.severity != Severity::Must) continue;
            const platform::RuleSpec* spec = sheet_.rule(rule.id);
            if (spec && triangleCount(start_) > 0)
                if (auto question = questionFor(*spec, draft_.model, sheet_, answers_)) {
                    plan_.questions.push_back(std::move(*question));
                    continue;
                }
            std::string why =
                rule.mends.empty()
                    ? "no step here can change that; change it in the program the model comes from"
                    : "the steps that could were tried and did not suffice";
            if (const auto found = impossible_.find(rule.id); found != impossible_.end())
                why = found->second;
            else if (std::ranges::any_of(rule.mends,
                                         [&](const std::string& mend) { return isAnswered(mend); }))
                why = "that is as you said";
            if (triangleCount(start_) == 0) why = "the model has no triangles";
            plan_.reasons.push_back(fmt::format("{}: {}; {}", rule.label, rule.finding.note, why));
        }
    }

    const Model& start_;
    const platform::Sheet sheet_; ///< with the rules that are about such a model
    const Progress& progress_;
    const recipe::Recipe& answers_;
    Trials trials_;
    bool likelySize_ = true; ///< in the unit that was guessed
    Draft draft_;
    Plan plan_;
    std::map<std::string, std::string> impossible_; ///< by rule: why the last step tried could not do it
};

} // namespace

recipe::Recipe Plan::recipe() const {
    recipe::Recipe out;
    for (const PlannedStep& step : steps) out.push_back(step.entry);
    return out;
}

Plan plan(const Model& model, const platform::Sheet& sheet, recipe::EvaluationCache* cache, Hash modelKey,
          const Progress& progress, const recipe::Recipe& answers, const Sizes& sizes) {
    return Planner(model, sheet, cache, modelKey, progress, answers, sizes).make();
}

} // namespace zl::planner
