#include "core/steps/carry_over_placement.h"

#include <glm/gtc/matrix_transform.hpp>

namespace zl::steps {

namespace {

/// A placement taken apart: x ↦ turn * (scale * x) + way. Steps that place scale evenly.
struct Apart {
    double scale = 1;
    glm::dmat3 turn{1.0};
    glm::dvec3 way{0};
};

Apart apartOf(const glm::dmat4& m) {
    Apart out;
    const glm::dmat3 linear(m);
    out.scale = std::cbrt(std::abs(glm::determinant(linear)));
    if (!(out.scale > 0) || !std::isfinite(out.scale))
        throw Error("a placement has no size", std::string(CarryOverPlacement::info.id),
                    "Look at the steps that scale it.");
    out.turn = linear / out.scale;
    out.way = glm::dvec3(m[3]);
    return out;
}

} // namespace

Model CarryOverPlacement::apply(const Model& in, StepContext& context) const {
    const Companion other = context.input(from);
    const Apart theirs = apartOf(other.model->travelled), own = apartOf(in.travelled);
    const double scale = size ? theirs.scale : own.scale;
    const glm::dmat3 turn = heading ? theirs.turn : own.turn;
    // The place of the drawing that lies in the origin stays there, or theirs comes there.
    const Apart& leading = origin ? theirs : own;
    const glm::dvec3 home = glm::inverse(leading.turn) * -leading.way / leading.scale;
    glm::dmat4 wanted(turn * scale);
    wanted[3] = glm::dvec4(-(turn * (scale * home)), 1);
    Model out = moved(in, wanted * glm::inverse(in.travelled));
    out.travelled = wanted; // without rounding, so that twins are told apart by nothing
    if (heading) out.headingKnown = other.model->headingKnown;
    context.note(fmt::format("as {}: scaled by {}, {} from the drawing's origin", other.name,
                             showMeasure(scale), context.showLength(glm::length(scale * home))));
    return out;
}

} // namespace zl::steps
