#include "core/planner/trials.h"

#include "core/geometry/weld.h"

namespace zl::planner {

namespace {

constexpr std::size_t worthJoining = 20000; ///< triangles

} // namespace

recipe::Entry entryOf(std::string_view id, const nlohmann::json& params) {
    auto step = steps::makeStep(id);
    step->setParams(params);
    return {std::string(id), true, step->params()};
}

std::size_t broken(const platform::FitReport& report, bool withShould) {
    std::size_t count = 0;
    for (const platform::RuleResult& rule : report.rules)
        count += rule.state == platform::State::Broken &&
                 (withShould || rule.severity == platform::Severity::Must);
    return count;
}

Trials::Trials(const Model& model, const platform::Sheet& sheet, recipe::EvaluationCache* cache, Hash key,
               const Progress& progress, const Sizes& sizes)
    : start_(model), sheet_(sheet), cache_(cache ? cache : &own_), key_(key), progress_(progress),
      first_(platform::check(model, sheet, progress.silent(), sizes)) {}

platform::FitReport Trials::checked(const Model& model) const {
    platform::FitReport report = platform::check(model, sheet_, progress_.silent());
    for (std::size_t i = 0; i < report.rules.size(); ++i)
        if (sheet_.rules[i].check == "twins-equal") report.rules[i] = first_.rules[i];
    return report;
}

const Model* Trials::joinLooseCorners() {
    Model joined = start_;
    for (auto& mesh : joined.meshes) {
        if (mesh->triangleCount() < worthJoining || mesh->vertexCount() != mesh->indices.size()) continue;
        auto welded = geometry::weld(*mesh, 0, progress_);
        joinedCorners_ += welded.cornersJoined;
        mesh = std::make_shared<const Mesh>(std::move(welded.mesh));
    }
    if (joinedCorners_ == 0) return nullptr;
    standIn_ = std::move(joined);
    return &*standIn_;
}

bool Trials::leaveStandIn() {
    const bool was = standIn_.has_value();
    standIn_.reset();
    return was;
}

recipe::Evaluation Trials::evaluated(const std::vector<PlannedStep>& steps) {
    recipe::Recipe recipe;
    for (const PlannedStep& step : steps) recipe.push_back(step.entry);
    return recipe::evaluateFrom(standIn_ ? *standIn_ : start_, standIn_ ? hashText("joined", key_) : key_,
                                recipe, &sheet_, cache_, progress_);
}

std::optional<Trials::Outcome> Trials::attempt(const std::vector<PlannedStep>& steps, std::string* why) {
    try {
        auto evaluation = evaluated(steps);
        Outcome outcome{std::move(evaluation.model), {}, {}, {}};
        for (const recipe::Outcome& one : evaluation.outcomes) outcome.lost.push_back(one.lost);
        if (!evaluation.outcomes.empty()) outcome.shortfall = std::move(evaluation.outcomes.back().shortfall);
        outcome.report = checked(outcome.model);
        return outcome;
    } catch (const Error& error) {
        if (why) *why = error.what();
        return std::nullopt;
    }
}

} // namespace zl::planner
