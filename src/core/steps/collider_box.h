#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives the model a box for physics, in place of any collider it had. Its bottom is always level with the
/// model's lowest point.
struct ColliderBox {
    enum class Around { Foot, Everything, Numbers };

    Around around = Around::Foot;
    double inset = 0.05; ///< share of the width and depth taken off in all
    double height = 0;   ///< metres; 0 is the model's own, or follows from the foot
    bool low = false;    ///< without a height: a quarter as high as it is wide, so that it stands
    double left = -0.5, right = 0.5, back = -0.5, front = 0.5; ///< metres from the origin, along X and Z

    static constexpr StepInfo info{"collider-box", Stage::Contact, "Collider: box",
                                   "A box that physics uses in place of the model."};
    static constexpr Choice arounds[] = {
        {"foot", "the foot"}, {"everything", "everything"}, {"numbers", "these numbers"}};
    static constexpr auto fields =
        describe(field<&ColliderBox::around>("around", "Around")
                     .oneOf(arounds)
                     .help("The foot is the outline of the lowest slice."),
                 field<&ColliderBox::inset>("inset", "Inset")
                     .share()
                     .between(0, 0.9)
                     .when("around", "foot everything")
                     .help("How much smaller than that, so that figures can stand close."),
                 field<&ColliderBox::left>("left", "Left")
                     .metres()
                     .between(-1e6, 1e6)
                     .when("around", "numbers")
                     .help("Smallest X."),
                 field<&ColliderBox::right>("right", "Right")
                     .metres()
                     .between(-1e6, 1e6)
                     .when("around", "numbers")
                     .help("Largest X."),
                 field<&ColliderBox::back>("back", "Back")
                     .metres()
                     .between(-1e6, 1e6)
                     .when("around", "numbers")
                     .help("Smallest Z."),
                 field<&ColliderBox::front>("front", "Front")
                     .metres()
                     .between(-1e6, 1e6)
                     .when("around", "numbers")
                     .help("Largest Z."),
                 field<&ColliderBox::height>("height", "Height")
                     .metres()
                     .between(0, 1e6)
                     .leastIs("by itself")
                     .help("0 is as high as the model, or low where that is ticked."),
                 field<&ColliderBox::low>("low", "Low, so that it stands")
                     .help("Without a height: a quarter as high as it is wide, for a tall body falls over."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
