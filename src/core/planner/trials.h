#pragma once
#include "core/planner/planner.h"

#include <optional>

namespace zl::planner {

/// A step with the parameters given, and its own for the rest.
recipe::Entry entryOf(std::string_view id, const nlohmann::json& params);

/// How many rules are broken: those that must hold, and on demand those that should.
std::size_t broken(const platform::FitReport& report, bool withShould);

/// A plan as far as it is made, and what its steps come to.
struct Draft {
    std::vector<PlannedStep> steps;
    Model model;
    platform::FitReport report;
};

/// Runs steps on the model that is planned for, and checks what they make.
class Trials {
public:
    struct Outcome {
        Model model;
        platform::FitReport report;
        std::string shortfall;    ///< of the last step
        std::vector<double> lost; ///< by step, metres (recipe::Outcome::lost)
    };

    /// `sizes` as plan() takes them; what rules say of how alike they are stays as it is.
    Trials(const Model& model, const platform::Sheet& sheet, recipe::EvaluationCache* cache, Hash key,
           const Progress& progress, const Sizes& sizes);

    /// The model as it was given.
    const platform::FitReport& first() const { return first_; }
    platform::FitReport checked(const Model& model) const;
    Model run(const std::vector<PlannedStep>& steps) { return evaluated(steps).model; }
    /// What the steps come to; nothing where one of them cannot be done on this model, and `why` not.
    std::optional<Outcome> attempt(const std::vector<PlannedStep>& steps, std::string* why = nullptr);

    /// A model whose every triangle has corners of its own is stood in for by the same with joined corners
    /// while its place is found out: it takes the same places, and each try looks at a sixth of the corners.
    /// Returns the stand-in; null where there is none.
    const Model* joinLooseCorners();
    /// From here on it is the model itself; whether it was not.
    bool leaveStandIn();
    std::size_t joinedCorners() const { return joinedCorners_; } ///< in the stand-in

private:
    recipe::Evaluation evaluated(const std::vector<PlannedStep>& steps);

    const Model& start_;
    const platform::Sheet& sheet_;
    recipe::EvaluationCache own_;
    recipe::EvaluationCache* cache_;
    Hash key_;
    const Progress& progress_;
    const platform::FitReport first_;
    std::optional<Model> standIn_;
    std::size_t joinedCorners_ = 0;
};

} // namespace zl::planner
