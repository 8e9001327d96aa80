#pragma once
#include "core/steps/step.h"

namespace zl::steps {

/// Scales the model evenly about the origin, by a factor or so that a measure comes out as wanted.
/// Throws Error when the measure is zero on this model.
struct Size {
    enum class Way { Factor, Height, Width, Length, Points };

    Way way = Way::Height;
    double factor = 1.0;
    double measure = 1.0; ///< metres
    glm::dvec3 pointA{0.0}, pointB{0.0, 1.0, 0.0};
    PartNames part;

    static constexpr StepInfo info{"size", Stage::Place, "Size",
                                   "Scale by a factor, or say how large something is meant to be."};
    static constexpr Choice ways[] = {{"factor", "by a factor"},
                                      {"height", "the height is"},
                                      {"width", "the width is"},
                                      {"length", "the length is"},
                                      {"points", "between two points"}};
    static constexpr auto fields = describe(
        field<&Size::way>("by", "Size").oneOf(ways).help("Height is along Y, width along X, length along Z."),
        field<&Size::factor>("factor", "Factor")
            .between(1e-6, 1e6)
            .when("by", "factor")
            .help("2 makes it twice as large."),
        field<&Size::measure>("measure", "Is to be")
            .metres()
            .between(1e-6, 1e6)
            .when("by", "height width length points")
            .help("The measure after this step; other units can be typed, like 2.2 m or 7 ft."),
        field<&Size::part>("part", "Measured on")
            .leastIs("all of it")
            .when("by", "height width length")
            .help("Parts, with * for any letters, separated by commas. Empty is all of it."),
        field<&Size::pointA>("from", "From")
            .when("by", "points")
            .help("First point, in metres, before this step."),
        field<&Size::pointB>("to", "To")
            .when("by", "points")
            .help("Second point, in metres, before this step."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
