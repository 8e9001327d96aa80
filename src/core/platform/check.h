#pragma once
#include "core/base/progress.h"
#include "core/platform/rule.h"

namespace zl::platform {

struct RuleResult {
    std::string id;
    std::string label;
    Severity severity = Severity::Must;
    State state = State::Fits;
    Finding finding;
    std::string message;
    std::vector<std::string> mends;
};

/// How a model stands against one platform.
struct FitReport {
    std::string platform;
    std::vector<RuleResult> rules;

    /// Every `must` rule holds.
    bool fits() const;
    std::size_t brokenMusts() const;
    const RuleResult* rule(std::string_view id) const;
    /// The rule to name when there is room for one: the first broken `must`, then the first broken `should`,
    /// then the one nearest its limit. Null for a sheet without rules.
    const RuleResult* tightest() const;
};

/// Share of a limit from which a rule that holds is called tight.
inline constexpr double tightShare = 0.85;

/// Whether rules of its are about scenes of solids.
bool takesScenes(const Sheet& sheet);

/// The sheet with those rules alone that are about models of this sort, and as rules about all of them.
Sheet asFor(const Model& model, const Sheet& sheet);

/// Checks `model` against every rule of `sheet` that is about models of its sort; `sizes` holds its other
/// sizes, for rules about those.
FitReport check(const Model& model, const Sheet& sheet, const Progress& progress = {},
                const Sizes& sizes = {});

/// "fits", "tight", "broken".
std::string_view stateName(State state);
std::string_view severityName(Severity severity);

} // namespace zl::platform
