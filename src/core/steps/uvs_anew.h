#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Gives parts new UVs: thrown on from a box, a plane or round a cylinder at a scale in metres, or laid flat
/// in islands that are packed side by side, one square a material. Throws Error when the selection cannot be
/// made out or the islands are too many.
struct UvsAnew {
    enum class By { Box, Cylinder, Plane, Islands };
    enum class Axis { X, Y, Z };
    enum class Only { Bare, All };

    Selection faces;
    Only only = Only::Bare;
    By by = By::Box;
    Axis axis = Axis::Y;
    double size = 1; ///< metres that a picture is wide
    double angle = 1.0471975511965976;
    double padding = 0.005;

    static constexpr StepInfo info{"uvs-anew", Stage::Surface, "UVs anew",
                                   "Give parts UVs that have none, or new ones."};
    static constexpr Choice bys[] = {{"box", "a box: each side straight on"},
                                     {"cylinder", "a cylinder: around and along"},
                                     {"plane", "a plane: all from one side"},
                                     {"islands", "flat islands, packed side by side"}};
    static constexpr Choice axes[] = {
        {"x", "X, from the side"}, {"y", "Y, from above"}, {"z", "Z, from the front"}};
    static constexpr Choice onlies[] = {{"bare", "those without UVs"}, {"all", "all of them"}};
    static constexpr auto fields = describe(
        field<&UvsAnew::faces>("faces", "On").leastIs("everything").help("Select it in the view."),
        field<&UvsAnew::only>("only", "Of these").oneOf(onlies).help("What is given new ones."),
        field<&UvsAnew::by>("by", "From").oneOf(bys).help("How the surface is laid onto the picture."),
        field<&UvsAnew::axis>("axis", "Along")
            .oneOf(axes)
            .when("by", "cylinder plane")
            .help("An axis of the world."),
        field<&UvsAnew::size>("size", "Picture is wide")
            .metres()
            .between(0.0001, 100000)
            .when("by", "box cylinder plane")
            .help("How much of the surface one picture covers."),
        field<&UvsAnew::angle>("angle", "Bends up to")
            .degrees()
            .between(1, 85)
            .when("by", "islands")
            .help("How far a face may turn away from its island."),
        field<&UvsAnew::padding>("padding", "Between islands")
            .share()
            .between(0, 0.1)
            .when("by", "islands")
            .help("Of the square; pictures bleed into it."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
