#pragma once
#include "core/motion/cut_loops.h"

#include <optional>

namespace zl::motion {

/// The end of a segment, rounded about its joint so that no gap shows when it is bent: from every corner of
/// its border a line runs along a ball about `joint` towards the pole in the direction `out`, `share` of the
/// way there, while its distance from the joint becomes the mean one. Lengths are the mesh's.
struct RoundedJoint {
    /// A corner of the border as it is seen from the joint.
    struct Rim {
        double azimuth;  ///< radians about `out`
        double fromPole; ///< radians
        double distance;
    };

    glm::dvec3 joint{0}, out{0, 1, 0}, across{1, 0, 0}; ///< directions of length 1
    double share = 0, mean = 0;
    bool closed = true;   ///< whether a flat end closes what the rounding leaves
    std::vector<Rim> rim; ///< by rising azimuth

    /// How far `place` stands off from the rounded end: 0 within it, and where the segment's own body is.
    double standsOff(const glm::dvec3& place) const;
    Rim seen(const glm::dvec3& place) const;
    /// On the line from a border's corner: `t` from 0 at the border to 1 where the rounding ends.
    glm::dvec3 along(const Rim& from, double t) const;
};

/// Where the border of a segment is to be rounded about `joint`; nothing where the joint does not lie within
/// the border, so that there is no ball.
std::optional<RoundedJoint> roundedJoint(const Mesh& mesh, const CutLoop& loop, const glm::dvec3& joint,
                                         double share, bool closed);

/// Adds to `segment` what closes a border of `mesh`: rounded where `rounded` says so, then, with `closed`,
/// flat. New corners take all else from the border's.
void closeBorder(Mesh& segment, std::vector<Wear>& wear, const Mesh& mesh, const CutLoop& loop,
                 const RoundedJoint* rounded, bool closed);

} // namespace zl::motion
