#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Carries an avatar's whole set-up over from another piece.
struct TakeSetup {
    struct Pair {
        fields::BoneRef theirs, own;

        static constexpr auto fields =
            describe(field<&Pair::theirs>("theirs", "Bone of the other").help("By its name."),
                     field<&Pair::own>("own", "Goes to").leastIs("none"));
    };
    ModelRef from;
    std::vector<Pair> pairs;

    static constexpr StepInfo info{"take-setup", Stage::Motion, "Take the set-up from",
                                   "Give this piece everything that makes another one an avatar."};
    static constexpr auto fields =
        describe(field<&TakeSetup::from>("from", "Other piece").help("An avatar that is set up already."),
                 field<&TakeSetup::pairs>("pairs", "Bones")
                     .help("For those that names, hierarchy and places do not bring together rightly."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
