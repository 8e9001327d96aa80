#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Leaves nodes where they are, with what moves them, and shows nothing of them or of what hangs below.
struct Hide {
    PartNames of;

    static constexpr StepInfo info{"hide", Stage::Motion, "Hide",
                                   "Keep a part or a bone, and show nothing of what hangs on it."};
    static constexpr auto fields = describe(field<&Hide::of>("of", "Parts and bones")
                                                .leastIs("nothing yet")
                                                .help("Names, with * for any letters."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
