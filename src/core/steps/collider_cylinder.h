#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives the model an upright cylinder for physics, in place of any collider it had. Its bottom is always
/// level with the model's lowest point. `sides` flat faces give 4·sides − 4 triangles.
struct ColliderCylinder {
    enum class Around { Foot, Everything, Numbers };

    Around around = Around::Foot;
    double inset = 0.05; ///< share of the radius taken off
    double height = 0;   ///< metres; 0 is the model's own, or follows from the foot
    bool low = false;    ///< without a height: a quarter as high as it is wide, so that it stands
    double radius = 0.5, centreX = 0, centreZ = 0;
    int sides = 32;

    static constexpr StepInfo info{"collider-cylinder", Stage::Contact, "Collider: cylinder",
                                   "An upright cylinder that physics uses in place of the model."};
    static constexpr Choice arounds[] = {
        {"foot", "the foot"}, {"everything", "everything"}, {"numbers", "these numbers"}};
    static constexpr auto fields =
        describe(field<&ColliderCylinder::around>("around", "Around")
                     .oneOf(arounds)
                     .help("The smallest circle around the lowest slice, or around all seen from above."),
                 field<&ColliderCylinder::inset>("inset", "Inset")
                     .share()
                     .between(0, 0.9)
                     .when("around", "foot everything")
                     .help("How much smaller than that, so that figures can stand close."),
                 field<&ColliderCylinder::radius>("radius", "Radius")
                     .metres()
                     .between(1e-6, 1e6)
                     .when("around", "numbers")
                     .help("Of the circle."),
                 field<&ColliderCylinder::centreX>("x", "Middle, X")
                     .metres()
                     .between(-1e6, 1e6)
                     .when("around", "numbers")
                     .help("Middle of the circle."),
                 field<&ColliderCylinder::centreZ>("z", "Middle, Z")
                     .metres()
                     .between(-1e6, 1e6)
                     .when("around", "numbers")
                     .help("Middle of the circle."),
                 field<&ColliderCylinder::height>("height", "Height")
                     .metres()
                     .between(0, 1e6)
                     .leastIs("by itself")
                     .help("0 is as high as the model, or low where that is ticked."),
                 field<&ColliderCylinder::low>("low", "Low, so that it stands")
                     .help("Without a height: a quarter as high as it is wide, for a tall body falls over."),
                 field<&ColliderCylinder::sides>("sides", "Sides")
                     .between(6, 64)
                     .help("Flat faces around; 32 make 124 triangles."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
