#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Leads the end of clips onto their beginning, so that they go round without a jump, and measures the jump
/// before and after. A whole that travels goes on travelling.
struct LoopClips {
    PartNames of;
    double over = 0.2; ///< seconds
    bool travels = false;

    static constexpr StepInfo info{"loop-clips", Stage::Motion, "Loop",
                                   "Close the end of a clip onto its beginning."};
    static constexpr auto fields = describe(
        field<&LoopClips::of>("of", "Clips").leastIs("every clip").help("Names, with * for any letters."),
        field<&LoopClips::over>("over", "Over the last")
            .between(0, 3600)
            .help("Seconds at its end in which it comes to be as at the beginning."),
        field<&LoopClips::travels>("travels", "It goes on from where it ends")
            .help("The place of the whole is left alone; all else closes."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
