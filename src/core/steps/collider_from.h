#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Takes the body of another piece, one that is kept for many: a round base, say. It comes under the middle
/// of this one's foot, its bottom level with the lowest point, in place of any body that there is.
struct ColliderFrom {
    ModelRef from;
    double inset = 0; ///< share of its width and depth taken off in all

    static constexpr StepInfo info{"collider-from", Stage::Contact, "Body of another piece",
                                   "A body that several pieces share, such as a round base."};
    static constexpr auto fields =
        describe(field<&ColliderFrom::from>("from", "Piece")
                     .help("Whose body it is; a change of it comes here by itself."),
                 field<&ColliderFrom::inset>("inset", "Inset")
                     .share()
                     .between(0, 0.9)
                     .help("How much smaller, so that things can stand close."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
