#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Makes another pose the one at rest, and keeps clips right.
struct RestPose {
    enum class Take { Clip, Bound, Level };
    Take take = Take::Clip;
    fields::ClipRef clip;
    double moment = 0;

    static constexpr StepInfo info{"rest-pose", Stage::Motion, "Rest pose",
                                   "Make another pose the one at rest, with clips kept right."};
    static constexpr Choice takes[] = {{"clip", "a moment of a clip or a pose"},
                                       {"bound", "how the bones were bound"},
                                       {"level", "arms level, legs straight"}};
    static constexpr auto fields = describe(field<&RestPose::take>("take", "Take")
                                                .oneOf(takes)
                                                .help("Parts keep their shape where bones go as bound."),
                                            field<&RestPose::clip>("clip", "Clip or pose")
                                                .leastIs("nothing yet")
                                                .when("take", "clip")
                                                .help("Made by Pose, say."),
                                            field<&RestPose::moment>("moment", "At")
                                                .between(0, 3600)
                                                .when("take", "clip")
                                                .help("Seconds into it."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
