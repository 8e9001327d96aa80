#pragma once
#include "core/planner/trials.h"

namespace zl::planner {

/// Mends a limit that several steps approach together, such as the bytes of a file: of the next milder way of
/// each the one that loses least goes in (recipe::Outcome::lost, which is a length whatever is lost), while
/// it brings the value nearer and breaks nothing that must hold; until the rule holds or no way is left. A
/// harder way takes the place of the milder of its kind. Steps for which `isAnswered` are left as they are.
void mendTogether(Draft& draft, Trials& trials, const platform::Sheet& sheet, const platform::RuleSpec& spec,
                  const std::function<bool(const std::string&)>& isAnswered);

} // namespace zl::planner
