#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Brings bones, what clips move, what is above these, and the whole to scale 1; nothing is seen elsewhere,
/// at rest or in clips.
struct ScaleRig {
    static constexpr StepInfo info{"scale-rig", Stage::Motion, "Scale the rig",
                                   "Bring bones, and what clips move, to scale 1, with clips kept right."};
    static constexpr auto fields = describe();

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
