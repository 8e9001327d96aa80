#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Leaves the piece as it stands at rest or at a moment of a clip, for a platform on which nothing moves:
/// clips, bones, weights and shapes to blend to go. `facts` has bones and clips that went.
struct StandStill {
    fields::ClipRef clip;
    double moment = 0;

    static constexpr StepInfo info{"stand-still", Stage::Motion, "Stand still",
                                   "Keep the shape as it stands, and take out all that could move it."};
    static constexpr auto fields = describe(
        field<&StandStill::clip>("clip", "As in").leastIs("at rest").help("A clip, or a pose made by Pose."),
        field<&StandStill::moment>("moment", "At").between(0, 3600).help("Seconds into the clip."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
