#pragma once
#include "core/geometry/normals.h"
#include "core/steps/step.h"

namespace zl::steps {

/// Computes normals anew: smooth where faces meet at less than an angle, or hard everywhere; or turns parts
/// inside out.
struct Normals {
    enum class How { Smooth, Hard, TurnOver };

    PartNames parts;
    How how = How::Smooth;
    double angle = 0.6981317007977318; ///< 40°
    geometry::NormalWeight weight = geometry::NormalWeight::Angle;

    static constexpr StepInfo info{"normals", Stage::Surface, "Normals",
                                   "Make edges look smooth or hard, or turn parts inside out."};
    static constexpr Choice hows[] = {
        {"smooth", "smooth up to an angle"}, {"hard", "hard everywhere"}, {"turn-over", "turned inside out"}};
    static constexpr Choice weights[] = {
        {"angle", "by its angle"}, {"area", "by its area"}, {"angle-and-area", "by angle and area"}};
    static constexpr auto fields = describe(
        field<&Normals::parts>("parts", "On").leastIs("every part").help("Names, with * for any letters."),
        field<&Normals::how>("how", "Edges").oneOf(hows).help("How faces look where they meet."),
        field<&Normals::angle>("angle", "Smooth up to")
            .degrees()
            .between(0, 180)
            .when("how", "smooth")
            .help("Faces that meet at more keep a hard edge."),
        field<&Normals::weight>("weight", "Each face counts")
            .oneOf(weights)
            .when("how", "smooth")
            .help("By its area, large flat faces stay flat to the eye beside rounded edges."));

    Model apply(const Model& in, StepContext& context) const;
};

} // namespace zl::steps
