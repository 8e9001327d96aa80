#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Chooses the point of the model that becomes the origin. The foot is the outline of the lowest 2 % of the
/// height, not the box of everything, so a spear or a wing does not pull the origin away from the feet.
struct Origin {
    enum class At { Foot, Centre, Point, Stay };

    At at = At::Foot;
    glm::dvec3 point{0.0};

    static constexpr StepInfo info{"origin", Stage::Place, "Origin",
                                   "Choose the point that the platform moves and turns the model about."};
    static constexpr Choice places[] = {{"foot", "under the foot's middle"},
                                        {"centre", "centre of everything"},
                                        {"point", "a picked point"},
                                        {"stay", "where it is"}};
    static constexpr auto fields = describe(
        field<&Origin::at>("at", "Origin at")
            .oneOf(places)
            .help("Under the foot also stands the model on the floor."),
        field<&Origin::point>("point", "Point").when("at", "point").help("In metres, before this step."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
