#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Fewer keys: clips are taken at so many moments a second, or as they are, and keys that their neighbours
/// tell are left out. Says how many keys there were and are, and by how much anything is off at most.
struct ClipRate {
    PartNames of;
    double rate = 0; ///< a second
    bool thin = true;
    double place = 0.0003;      ///< metres
    double turn = 0.0034906585; ///< radians: 0.2°

    static constexpr StepInfo info{"clip-rate", Stage::Motion, "Rate", "Give clips fewer keys."};
    static constexpr auto fields = describe(
        field<&ClipRate::of>("of", "Clips").leastIs("every clip").help("Names, with * for any letters."),
        field<&ClipRate::rate>("rate", "Moments a second")
            .between(0, 240)
            .leastIs("as they are")
            .help("Curves become straight lines between these."),
        field<&ClipRate::thin>("thin", "Leave out what neighbours tell")
            .help("A key goes where the straight way between those beside it passes near enough."),
        field<&ClipRate::place>("place", "Off in place by at most")
            .metres()
            .between(0, 1000)
            .help("As the piece stands now."),
        field<&ClipRate::turn>("turn", "Off in turn by at most")
            .degrees()
            .between(0, 90)
            .help("Of each bone in the one above it."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
