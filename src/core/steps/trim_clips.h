#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Keeps the part of clips between two moments, which becomes the whole of them. Curves stay what they are.
struct TrimClips {
    PartNames of;
    double from = 0, to = 0; ///< seconds

    static constexpr StepInfo info{"trim-clips", Stage::Motion, "Trim", "Keep only a part of a clip."};
    static constexpr auto fields = describe(
        field<&TrimClips::of>("of", "Clips").leastIs("every clip").help("Names, with * for any letters."),
        field<&TrimClips::from>("from", "From").between(0, 36000).help("Seconds from its beginning."),
        field<&TrimClips::to>("to", "To")
            .between(0, 36000)
            .leastIs("its end")
            .help("Seconds from its beginning."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
