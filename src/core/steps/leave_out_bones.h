#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Makes bones nodes that carry nothing: what hung on them hangs on the nearest bone above that stays.
struct LeaveOutBones {
    enum class Which { Unused, Named };
    Which which = Which::Unused;
    PartNames bones;

    static constexpr StepInfo info{"leave-out-bones", Stage::Motion, "Leave out bones",
                                   "Let what hangs on some bones hang on those above them."};
    static constexpr Choice whiches[] = {{"unused", "that nothing hangs on"}, {"named", "by their names"}};
    static constexpr auto fields =
        describe(field<&LeaveOutBones::which>("which", "Bones")
                     .oneOf(whiches)
                     .help("They stay as nodes, which clips move, and carry nothing."),
                 field<&LeaveOutBones::bones>("bones", "Names")
                     .when("which", "named")
                     .help("With * for any letters."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
