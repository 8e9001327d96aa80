#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Lets corners hang on fewer bones, with weights that together are 1.
struct CornerWeights {
    PartNames of;
    int most = 4;
    double least = 0.01;

    static constexpr StepInfo info{"corner-weights", Stage::Motion, "Weights",
                                   "Let each corner hang on few bones, with weights that are 1 together."};
    static constexpr auto fields = describe(
        field<&CornerWeights::of>("of", "Parts").leastIs("every part").help("Names, with * for any letters."),
        field<&CornerWeights::most>("most", "Bones a corner")
            .count()
            .between(1, 4)
            .help("The lightest are let go first."),
        field<&CornerWeights::least>("least", "At least")
            .share()
            .between(0, 0.5)
            .help("A bone that has less of a corner lets it go."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
