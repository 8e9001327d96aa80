#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// Where a node goes in the course of a clip.
struct Travel {
    int node = -1;
    std::vector<double> times;      ///< seconds, in order; straight lines between them follow the clip
    std::vector<glm::dvec3> places; ///< in the world, metres, one for each time

    /// From the first place to the last.
    glm::dvec3 drift() const { return places.empty() ? glm::dvec3(0) : places.back() - places.front(); }
    /// The same along the ground alone.
    double groundDrift() const;
    double seconds() const { return times.empty() ? 0 : times.back() - times.front(); }
};

/// The node that carries the whole: of those that a clip moves from place to place the lowest that has all
/// bones and all rigid parts below it that any of them has. -1 where the clip moves none so.
int carrierOf(const Model& model, const Clip& clip);

/// The way of a node, of the one that carries the whole for -1; without places where there is none.
Travel travelOf(const Model& model, const Clip& clip, int node = -1);

/// Which of the world's axes (X to the right, Y up, Z forward) a movement is taken out of, and whether all of
/// it goes or only a steady part: a straight way from the first place to the last, so that bobbing stays.
struct Standing {
    glm::bvec3 axes{true, false, true};
    bool steadyPartOnly = true;
};

/// The clip with that taken out of one node's movement. What hangs below the node keeps its place relative to
/// it exactly. Where nothing above the node moves, keys stay where they are and curves what they are; else
/// the movement becomes straight lines between samples of `perSecond`.
Clip standing(const Model& model, const Clip& clip, int node, const Standing& how, double perSecond = 120);

} // namespace zl::motion
