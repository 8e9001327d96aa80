#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Takes skinned parts apart into stiff ones, one a bone.
struct RigidSegments {
    bool closed = true;
    double overlap = 0.8;

    static constexpr StepInfo info{
        "rigid-segments", Stage::Motion, "Rigid segments",
        "Give every triangle to the bone that has most of it, one stiff part a bone."};
    static constexpr auto fields = describe(
        field<&RigidSegments::closed>("closed", "Close the cuts")
            .help("Off, parts are open where they were cut."),
        field<&RigidSegments::overlap>("overlap", "Rounded about joints")
            .share()
            .between(0, 1)
            .help("How far an end goes on inside its neighbour, of a quarter round, so that no gap shows."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
