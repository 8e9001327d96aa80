#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Moves the model so that its lowest point is `lift` metres above the floor (y = 0).
/// Leaves a model without triangles where it is and notes that it did.
struct StandOnFloor {
    double lift = 0.0;

    static constexpr StepInfo info{"stand-on-floor", Stage::Place, "Stand on the floor",
                                   "Move the model up or down until its lowest point is on the floor."};
    static constexpr auto fields = describe(field<&StandOnFloor::lift>("lift", "Keep above the floor")
                                                .metres()
                                                .between(0, 10)
                                                .help("Distance that stays between floor and model."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
