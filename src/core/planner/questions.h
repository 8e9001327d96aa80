#pragma once
#include "core/planner/planner.h"

namespace zl::planner {

bool isAnswered(const recipe::Recipe& answers, std::string_view step);

/// What a person is asked where the answer would make a broken rule of the sheet hold; `now` is the model
/// behind the plan's steps. Nothing where there is no such question, or it is answered.
std::optional<Question> questionFor(const platform::RuleSpec& spec, const Model& now,
                                    const platform::Sheet& sheet, const recipe::Recipe& answers);

/// A file without a unit says no size: where the plan takes one from what the platform allows, or no unit
/// that was guessed is a likely one, a person may know better. `now` is the model behind the steps.
std::optional<Question> sizeQuestion(const Model& start, const Model& now,
                                     const std::vector<PlannedStep>& steps, const platform::Sheet& sheet,
                                     const recipe::Recipe& answers, bool likelySize);

/// Whether a step with these parameters makes another shape of the model, which only a person can want.
bool makesAnotherShape(std::string_view step, const nlohmann::json& params);

} // namespace zl::planner
