#pragma once
#include "core/steps/bone_pairs.h"

namespace zl::steps {

/// Carries an avatar's whole set-up over from another piece.
struct TakeSetup {
    ModelRef from;
    std::vector<BonePair> pairs;

    static constexpr StepInfo info{"take-setup", Stage::Motion, "Take the set-up from",
                                   "Give this piece everything that makes another one an avatar."};
    static constexpr auto fields =
        describe(field<&TakeSetup::from>("from", "Other piece").help("An avatar that is set up already."),
                 field<&TakeSetup::pairs>("pairs", "Bones")
                     .help("For those that names, hierarchy and places do not bring together rightly."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
