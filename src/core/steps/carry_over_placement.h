#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Places the model as the recipe of another piece places its model, so that twins that were drawn in one
/// frame stay together: by Model::travelled, how the steps so far have moved each. Size, heading and origin
/// can be taken singly. Throws Error when the other piece is not to be had.
struct CarryOverPlacement {
    ModelRef from;
    bool size = true;
    bool heading = true;
    bool origin = true;

    static constexpr StepInfo info{"carry-over-placement", Stage::Place, "Carry over placement",
                                   "Take size, heading and origin from another piece."};
    static constexpr auto fields =
        describe(field<&CarryOverPlacement::from>("from", "From")
                     .help("The piece whose recipe places it here; this one is placed alike."),
                 field<&CarryOverPlacement::size>("size", "Size").help("Scaled as much as that one."),
                 field<&CarryOverPlacement::heading>("heading", "Heading").help("Turned as that one."),
                 field<&CarryOverPlacement::origin>("origin", "Origin")
                     .help("The same place of the drawing becomes the origin."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
