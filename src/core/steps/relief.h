#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Makes height pictures stronger or weaker about their mean, and fades them where the surface that wears
/// them curves. What flat and curved faces share of a picture is faded for both, and said.
struct ReliefStrength {
    PartNames of;
    double strength = 1;
    bool fade = true;
    double bend = 1.0471975511965976; ///< radians a metre
    double left = 0;                  ///< share of the relief that stays on curves

    static constexpr StepInfo info{"relief", Stage::Surface, "Relief",
                                   "How deep height goes, and where it fades out."};
    static constexpr auto fields = describe(
        field<&ReliefStrength::of>("of", "On")
            .leastIs("every material")
            .help("Names, with * for any letters."),
        field<&ReliefStrength::strength>("strength", "Strength")
            .share()
            .between(0, 10)
            .help("Of the height as it is, about its mean."),
        field<&ReliefStrength::fade>("fade", "Fade on curves").help("Relief swims where the surface curves."),
        field<&ReliefStrength::bend>("bend", "Curves from")
            .degrees()
            .between(0.1, 36000)
            .when("fade", "yes")
            .help("How far the surface turns along a metre."),
        field<&ReliefStrength::left>("left", "Left there")
            .share()
            .between(0, 1)
            .when("fade", "yes")
            .help("Of the relief, where the surface curves."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
