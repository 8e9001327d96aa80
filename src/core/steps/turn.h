#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Turns the model about the world's axes through the origin: first about X, then Y, then Z. Positive angles
/// turn counter-clockwise as seen from the axis' tip. Quarter turns are exact.
struct Turn {
    double aboutX = 0, aboutY = 0, aboutZ = 0; ///< radians

    static constexpr StepInfo info{"turn", Stage::Place, "Turn",
                                   "Turn the model by quarter turns or any angle."};
    static constexpr auto fields = describe(
        field<&Turn::aboutX>("x", "About X")
            .degrees()
            .between(-360, 360)
            .help("Tips the model forward or back."),
        field<&Turn::aboutY>("y", "About Y (up)").degrees().between(-360, 360).help("Turns it on the spot."),
        field<&Turn::aboutZ>("z", "About Z").degrees().between(-360, 360).help("Tips it to the side."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
