#pragma once
#include "core/planner/guess.h"
#include "core/platform/check.h"
#include "core/recipe/recipe.h"

namespace zl::planner {

struct PlannedStep {
    recipe::Entry entry;
    std::string before; ///< what the rule measured, e.g. "788 768"
    std::string after;
    std::string why;      ///< one sentence
    bool required = true; ///< false: only a `should` rule, or a confirmation, asks for it
};

/// Something that nothing about the model says and only a person can know. The answer is a step with its
/// parameters.
struct Question {
    std::string rule; ///< the rule that waits for it; empty where the plan goes on without an answer
    std::string step; ///< id of the step that says it
    std::string words;
    std::string goesBy; ///< what the plan goes by without an answer, such as "22 dm wide"

    bool waits() const { return !rule.empty(); }
};

struct Plan {
    std::vector<PlannedStep> steps;
    std::vector<Question> questions;
    platform::FitReport before;
    platform::FitReport after;
    bool holds = false;               ///< every `must` rule holds behind the last step
    std::vector<std::string> reasons; ///< why not, one for each other rule that stays broken

    recipe::Recipe recipe() const;
};

/// Proposes steps, to be appended behind what made `model`, so that all `must` rules of the sheet hold.
/// Steps that turn out to be unneeded behind later ones are taken out again, so that the list is as short as
/// the steps allow. `modelKey` is the key of the evaluation that made `model`, so that what is run here is
/// found again when the steps are added to that recipe. `should` rules that a step can mend bring theirs as
/// not required. `answers` are steps by which a person said what the plan asked, or would have: they go in
/// behind the unit, stay, and no other step of their kind is proposed. `sizes` are the model's other sizes: a
/// plan is made for the first, and how alike all are is taken to stay as it is.
Plan plan(const Model& model, const platform::Sheet& sheet, recipe::EvaluationCache* cache = nullptr,
          Hash modelKey = 0, const Progress& progress = {}, const recipe::Recipe& answers = {},
          const Sizes& sizes = {});

/// Parameters worth trying for step `id` so that `rule` holds, best first. Empty when it cannot help.
std::vector<nlohmann::json> proposals(std::string_view id, const platform::RuleResult& rule,
                                      const Model& model, const platform::Sheet& sheet);

} // namespace zl::planner
