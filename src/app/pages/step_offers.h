#pragma once
#include "app/session.h"

namespace zl::app {

/// A step that a stage offers while it has none.
struct StepOffer {
    std::string step;
    std::vector<platform::RuleResult>
        mends; ///< the broken limits that it may mend, those that must hold first
};

/// The steps of a stage, those first that mend what must hold, then those that mend what should.
std::vector<StepOffer> stepOffers(steps::Stage stage, const CrossingState& state);

/// Parameters with which an offered step mends the first of its limits that it can; its usual ones where
/// there is none. Looks at the whole model, so not on the window's thread.
nlohmann::json paramsFor(const StepOffer& offer, const Model& model, const platform::Sheet& sheet);

} // namespace zl::app
