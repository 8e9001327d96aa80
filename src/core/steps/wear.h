#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Puts other pieces on a figure's bones: each follows its bone in every clip. Two that claim the same place
/// are said; one that is not shown is left out. Throws Error when a piece is not to be had, or for a bone
/// that the figure has not.
struct Wear {
    struct Item {
        ModelRef item;
        fields::BoneRef bone;
        std::string place;    ///< what it claims: "shoulder, left"
        glm::dvec3 offset{0}; ///< metres from the bone's joint, along the world's axes at rest
        double turn = 0;      ///< radians about the vertical
        bool shown = true;

        static constexpr auto fields =
            describe(field<&Item::item>("item", "Item"), field<&Item::bone>("bone", "Bone"),
                     field<&Item::place>("place", "Place"), field<&Item::offset>("offset", "Offset"),
                     field<&Item::turn>("turn", "Turn").degrees().between(-360, 360),
                     field<&Item::shown>("shown", "Shown"));
    };
    std::vector<Item> items;

    static constexpr StepInfo info{"wear", Stage::Motion, "Put on",
                                   "Hang other pieces on the figure's bones."};
    static constexpr auto fields =
        describe(field<&Wear::items>("items", "Worn")
                     .help("Which piece on which bone; the place that it claims, if any."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

/// Sets other pieces down beside: each at its place, or, without one, in a row along X with a hand's breadth
/// between. One whose place overlaps what is there is moved on along X until it is free, and it is said.
struct SetBeside {
    struct Item {
        ModelRef item;
        bool placed = false; ///< false: in the row
        glm::dvec3 at{0};    ///< where its own origin comes to
        double turn = 0;     ///< radians about the vertical

        static constexpr auto fields = describe(
            field<&Item::item>("item", "Item"), field<&Item::placed>("placed", "At its place"),
            field<&Item::at>("at", "Place"), field<&Item::turn>("turn", "Turn").degrees().between(-360, 360));
    };
    std::vector<Item> items;

    static constexpr StepInfo info{"set-beside", Stage::Place, "Set beside",
                                   "Set other pieces down beside this one, never inside it."};
    static constexpr auto fields =
        describe(field<&SetBeside::items>("items", "Beside").help("Which piece; where, or in a row."));

    StepInputs inputs() const { return {.sheet = true}; }
    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
