#include "core/planner/planner.h"

#include "core/geometry/clean.h"
#include "core/geometry/weld.h"

#include <map>
#include <optional>

namespace zl::planner {

using platform::FitReport;
using platform::RuleResult;
using platform::Severity;
using platform::State;

namespace {

recipe::Entry entryOf(std::string_view id, const nlohmann::json& params) {
    auto step = steps::makeStep(id);
    step->setParams(params);
    return {std::string(id), true, step->params()};
}

bool isPlacing(const recipe::Entry& entry) {
    return steps::infoOf(entry.step).stage == steps::Stage::Place;
}

std::size_t broken(const FitReport& report, bool withShould) {
    std::size_t count = 0;
    for (const RuleResult& rule : report.rules)
        count += rule.state == State::Broken && (withShould || rule.severity == Severity::Must);
    return count;
}

constexpr std::size_t worthJoining = 20000; ///< triangles

class Planner {
public:
    Planner(const Model& model, const platform::Sheet& sheet, recipe::EvaluationCache* cache, Hash key,
            const Progress& progress, const recipe::Recipe& answers, const Sizes& sizes)
        : start_(model), sheet_(sheet), cache_(cache ? cache : &own_), key_(key), progress_(progress),
          answers_(answers), first_(platform::check(model, sheet, progress.silent(), sizes)) {}

    Plan make() {
        plan_.before = report_ = first_;
        model_ = start_;
        if (triangleCount(start_) > 0) {
            joinLooseCorners();
            addUnit();
            addAnswers();
            mendAll(Severity::Must, true);
            mendAll(Severity::Should, true);
            prune();
            leaveStandIn();
            mendAll(Severity::Must, false);
            mendAgain();
            mendAll(Severity::Must, true); // reducing may have moved the lowest point
            mendAll(Severity::Should, false);
        }
        plan_.after = report_;
        plan_.holds = report_.fits();
        if (plan_.steps.size() == 1 && !plan_.steps[0].required && plan_.before.fits() &&
            plan_.steps[0].entry.step == "unit-and-up")
            plan_.steps.clear(); // it fits as it is; nothing to do
        explain();
        askSize();
        return std::move(plan_);
    }

private:
    /// A plan is made for one size; whether the others are still alike shows when it has run on all.
    FitReport checked(const Model& model) const {
        FitReport report = platform::check(model, sheet_, progress_.silent());
        for (std::size_t i = 0; i < report.rules.size(); ++i)
            if (sheet_.rules[i].check == "twins-equal") report.rules[i] = first_.rules[i];
        return report;
    }

    /// While placing is planned, a model whose every triangle has corners of its own is stood in for by the
    /// same with joined corners: it takes the same places, and each try looks at a sixth of the corners.
    void joinLooseCorners() {
        Model joined = start_;
        for (auto& mesh : joined.meshes) {
            if (mesh->triangleCount() < worthJoining || mesh->vertexCount() != mesh->indices.size()) continue;
            auto welded = geometry::weld(*mesh, 0, progress_);
            joinedCorners_ += welded.cornersJoined;
            mesh = std::make_shared<const Mesh>(std::move(welded.mesh));
        }
        if (joinedCorners_ == 0) return;
        standIn_ = std::move(joined);
        model_ = *standIn_;
        report_ = checked(model_);
    }

    /// From here on it is the model itself, placed as it was found out.
    void leaveStandIn() {
        if (!standIn_) return;
        standIn_.reset();
        model_ = run(plan_.steps);
        report_ = checked(model_);
    }

    recipe::Evaluation evaluated(const std::vector<PlannedStep>& steps) {
        recipe::Recipe recipe;
        for (const PlannedStep& step : steps) recipe.push_back(step.entry);
        return recipe::evaluateFrom(standIn_ ? *standIn_ : start_, standIn_ ? hashText("joined", key_) : key_,
                                    recipe, &sheet_, cache_, progress_);
    }
    Model run(const std::vector<PlannedStep>& steps) { return evaluated(steps).model; }

    struct Outcome {
        Model model;
        FitReport report;
        std::string shortfall; ///< of the last step
    };
    /// What the steps come to; nothing where one of them cannot be done on this model, and `why` not.
    std::optional<Outcome> attempt(const std::vector<PlannedStep>& steps, std::string* why = nullptr) {
        try {
            auto evaluation = evaluated(steps);
            Outcome outcome{std::move(evaluation.model), {}, {}};
            if (!evaluation.outcomes.empty())
                outcome.shortfall = std::move(evaluation.outcomes.back().shortfall);
            outcome.report = checked(outcome.model);
            return outcome;
        } catch (const Error& error) {
            if (why) *why = error.what();
            return std::nullopt;
        }
    }

    /// Appends the step, before those that run last, when it makes `id` hold without breaking more than
    /// before, or where it must hold, without breaking more that must. A step that cannot be done on this
    /// model mends nothing; what it says is kept for the reasons.
    bool tryStep(const std::string& id, const PlannedStep& step, const std::vector<PlannedStep>& first = {}) {
        auto steps = plan_.steps;
        const auto isLast = [](const PlannedStep& one) { return steps::infoOf(one.entry.step).isLast; };
        auto at = steps.end();
        while (!isLast(step) && at != steps.begin() && isLast(*(at - 1))) --at;
        at = steps.insert(at, first.begin(), first.end()) + std::ptrdiff_t(first.size());
        at = steps.insert(at, step);
        const auto own = std::size_t(at - steps.begin());
        std::string why;
        auto tried = attempt(steps, &why);
        if (!tried) return impossible_[id] = why, false;
        auto& [model, report, shortfall] = *tried;
        const RuleResult *now = report.rule(id), *was = report_.rule(id);
        if (!now || now->state == State::Broken) {
            if (!shortfall.empty()) impossible_[id] = shortfall;
            return false;
        }
        impossible_.erase(id);
        steps[own].before = was->finding.measured;
        steps[own].after = now->finding.measured;
        const bool isLess = broken(report, true) < broken(report_, true);
        const bool fitsMore = broken(report, false) < broken(report_, false); // worth a `should`
        if (!isLess && !followUp(steps, model, report) && !fitsMore) return false;
        plan_.steps = std::move(steps);
        model_ = model;
        report_ = std::move(report);
        return true;
    }

    /// What a step newly breaks, one more step may mend: a truck that was scaled has to be baked again. Adds
    /// that step when less is broken than before both.
    bool followUp(std::vector<PlannedStep>& steps, Model& model, FitReport& report) {
        for (const platform::RuleSpec& spec : sheet_.rules) {
            const RuleResult was = *report.rule(spec.id);
            if (was.state != State::Broken || report_.rule(spec.id)->state == State::Broken) continue;
            for (const std::string& mend : spec.mends)
                for (const auto& params :
                     isAnswered(mend) ? std::vector<nlohmann::json>() : proposals(mend, was, model, sheet_)) {
                    auto more = steps;
                    more.push_back({entryOf(mend, params),
                                    was.finding.measured,
                                    {},
                                    spec.message,
                                    spec.severity == Severity::Must});
                    auto tried = attempt(more);
                    if (!tried || broken(tried->report, true) >= broken(report_, true)) continue;
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
        const FrameGuess guess = guessFrame(model_, sheet_);
        likelySize_ = guess.likely;
        const bool differs = guess.frame.unit.id != start_.frame.unit.id || guess.frame.up != start_.frame.up;
        if (!differs && broken(report_, false) == 0) return;
        const auto show = [](const SourceFrame& f, bool assumed) {
            return fmt::format("{}, {} up{}", f.unit.name, upName(f.up), assumed ? " (assumed)" : "");
        };
        PlannedStep step{entryOf("unit-and-up", unitAndUpParams(guess.frame)),
                         show(start_.frame, true),
                         show(guess.frame, false),
                         {},
                         differs};
        for (const std::string& reason : guess.reasons) step.why += (step.why.empty() ? "" : "; ") + reason;
        plan_.steps.push_back(step);
        model_ = run(plan_.steps);
        report_ = checked(model_);
    }

    bool isAnswered(std::string_view step) const {
        return std::ranges::any_of(answers_,
                                   [&](const recipe::Entry& answer) { return answer.step == step; });
    }

    void addAnswers() {
        recipe::Recipe answers = answers_;
        // Width and length are those of the piece as it faces.
        std::stable_partition(answers.begin(), answers.end(),
                              [](const auto& answer) { return answer.step == "heading"; });
        for (const recipe::Entry& answer : answers) {
            PlannedStep step{entryOf(answer.step, answer.params), {}, {}, "as you said", true};
            const FitReport was = report_;
            plan_.steps.push_back(step);
            model_ = run(plan_.steps);
            report_ = checked(model_);
            for (const platform::RuleSpec& spec : sheet_.rules) { // shown by the first limit that it moves
                if (std::ranges::find(spec.mends, answer.step) == spec.mends.end()) continue;
                plan_.steps.back().before = was.rule(spec.id)->finding.measured;
                plan_.steps.back().after = report_.rule(spec.id)->finding.measured;
                if (plan_.steps.back().before != plan_.steps.back().after) break;
            }
        }
    }

    /// A reduction needs joined corners and faces with an area; cleaning goes before it when it would join or
    /// take out many.
    std::vector<PlannedStep> weldFirst() {
        std::size_t joined = joinedCorners_, corners = 0, flat = 0, triangles = 0;
        for (const PlannedStep& step : plan_.steps)
            if (step.entry.step == "weld-and-clean") return {};
        for (const auto& mesh : model_.meshes) {
            if (joinedCorners_ == 0) joined += geometry::weld(*mesh, 0).cornersJoined;
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

    void mendAll(Severity severity, bool placing) {
        for (const platform::RuleSpec& spec : sheet_.rules) {
            const RuleResult result = *report_.rule(spec.id);
            if (result.state != State::Broken || spec.severity != severity) continue;
            if (platform::ruleKind(spec.check)->together) {
                if (!placing) mendTogether(spec, severity);
                continue;
            }
            for (const std::string& id : spec.mends) {
                if (isPlacing({id}) != placing || (id == "unit-and-up" && spec.check == "unit-known") ||
                    isAnswered(id))
                    continue;
                progress_.checkCancel();
                bool done = false;
                for (const auto& params : proposals(id, result, model_, sheet_)) {
                    PlannedStep step{entryOf(id, params), {}, {}, spec.message, severity == Severity::Must};
                    if (id == "reduce-triangles") done = tryStep(spec.id, step, weldFirst());
                    if (!done) done = tryStep(spec.id, step);
                    if (done) break;
                }
                if (done) break;
            }
        }
    }

    /// Each mend in its turn, from mild to hard, while it brings the value nearer to a limit that one alone
    /// may not reach; until it holds. A harder one takes the place of the milder of its kind.
    void mendTogether(const platform::RuleSpec& spec, Severity severity) {
        for (const std::string& id : spec.mends) {
            std::optional<std::size_t> own;
            const auto ways = isAnswered(id) ? std::vector<nlohmann::json>()
                                             : proposals(id, *report_.rule(spec.id), model_, sheet_);
            for (const auto& params : ways) {
                progress_.checkCancel();
                auto steps = plan_.steps;
                const std::string was = report_.rule(spec.id)->finding.measured;
                PlannedStep step{entryOf(id, params), was, {}, spec.message, severity == Severity::Must};
                if (own) {
                    step.before = steps[*own].before;
                    steps[*own] = step;
                } else {
                    steps.push_back(step);
                }
                auto tried = attempt(steps);
                if (!tried) break;
                const RuleResult* now = tried->report.rule(spec.id);
                const bool nearer = now->finding.value < 0.995 * report_.rule(spec.id)->finding.value;
                if (!nearer || broken(tried->report, false) > broken(report_, false)) continue;
                if (!own) own = steps.size() - 1;
                steps[*own].after = now->finding.measured;
                plan_.steps = std::move(steps);
                model_ = std::move(tried->model), report_ = std::move(tried->report);
                if (report_.rule(spec.id)->state != State::Broken) return;
            }
        }
    }

    /// What one mend broke, another may mend: faces that now all wear one material are too many for it. The
    /// same step twice is seldom needed, so the first is taken out where it can be.
    void mendAgain() {
        if (!plan_.steps.empty() && broken(report_, false) > 0) mendAll(Severity::Must, false);
        for (std::size_t i = 0; i < plan_.steps.size(); ++i)
            if (std::ranges::count(plan_.steps, plan_.steps[i].entry.step,
                                   [](const PlannedStep& step) { return step.entry.step; }) > 1)
                return prune();
    }

    /// Takes out steps without which the rules hold just as well.
    void prune() {
        for (std::size_t i = 0; i < plan_.steps.size();) {
            if (plan_.steps[i].entry.step == "unit-and-up" || isAnswered(plan_.steps[i].entry.step)) {
                ++i;
                continue;
            }
            auto fewer = plan_.steps;
            fewer.erase(fewer.begin() + static_cast<std::ptrdiff_t>(i));
            if (!holdsWith(fewer)) {
                ++i;
                continue;
            }
            plan_.steps = std::move(fewer);
        }
    }

    /// Takes the steps' outcome for the plan's when they break no more than the plan does.
    bool holdsWith(const std::vector<PlannedStep>& steps) {
        auto tried = attempt(steps); // a later step may need what was taken out
        if (!tried || broken(tried->report, true) > broken(report_, true) ||
            broken(tried->report, false) > broken(report_, false))
            return false;
        model_ = std::move(tried->model);
        report_ = std::move(tried->report);
        return true;
    }

    void explain() {
        for (const RuleResult& rule : report_.rules) {
            if (rule.state != State::Broken || rule.severity != Severity::Must) continue;
            const platform::RuleSpec* spec = sheet_.rule(rule.id);
            if (spec && spec->check == "heading-known" && !model_.headingKnown && triangleCount(start_) > 0) {
                plan_.questions.push_back({rule.id, "heading", "Which way does its front point?"});
                continue;
            }
            std::string why =
                rule.mends.empty()
                    ? "no step here can change that; change it in the program the model comes from"
                    : "the steps that could were tried and did not suffice";
            if (const auto found = impossible_.find(rule.id); found != impossible_.end()) why = found->second;
            if (std::ranges::any_of(rule.mends, [&](const std::string& mend) { return isAnswered(mend); }))
                why = "that is as you said";
            if (triangleCount(start_) == 0) why = "the model has no triangles";
            plan_.reasons.push_back(fmt::format("{}: {}; {}", rule.label, rule.finding.note, why));
        }
    }

    /// A file without a unit says no size: where the plan takes one from what the platform allows, or finds
    /// no likely one, a person may know better.
    void askSize() {
        if (!start_.frame.unitAssumed || triangleCount(start_) == 0 || isAnswered("size")) return;
        const auto sized = std::ranges::find(
            plan_.steps, "size", [](const PlannedStep& step) -> std::string_view { return step.entry.step; });
        std::string goesBy;
        if (sized != plan_.steps.end()) {
            const auto& params = sized->entry.params;
            const std::string by = params.value("by", "");
            goesBy = fmt::format("{} {}, which {} allows", sheet_.showLength(params.value("measure", 1.0)),
                                 by == "width"    ? "wide"
                                 : by == "length" ? "long"
                                                  : "tall",
                                 sheet_.name);
        } else if (!likelySize_) {
            goesBy = fmt::format("its numbers as {}", model_.frame.unit.name);
        }
        if (!goesBy.empty())
            plan_.questions.push_back({{}, "size", "How large is it really?", std::move(goesBy)});
    }

    const Model& start_;
    const platform::Sheet& sheet_;
    recipe::EvaluationCache own_;
    recipe::EvaluationCache* cache_;
    Hash key_;
    const Progress& progress_;
    const recipe::Recipe& answers_;
    const FitReport first_;         ///< as it was given
    bool likelySize_ = true;        ///< in the unit that was guessed
    std::optional<Model> standIn_;  ///< for start_, while placing is planned
    std::size_t joinedCorners_ = 0; ///< in it
    Model model_;
    FitReport report_;
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
