#pragma once
#include "core/model/model.h"

#include <map>
#include <optional>

namespace zl::motion {

/// How bones are turned on top of how they are at rest, each about its own axes: by node.
using BoneTurns = std::map<int, glm::dquat>;

/// A turn about a bone's X, then Y, then Z, in radians.
glm::dquat turnOf(double aboutX, double aboutY, double aboutZ);

/// The three angles of turnOf() that make up a turn, in radians: of the two triples that do, the one that
/// tips less. With Y at a right angle X is none.
glm::dvec3 anglesOf(const glm::dquat& turn);
/// A turn held to how far a bone goes.
glm::dquat held(const glm::dquat& turn, const TurnLimits& limits);

/// Where every node is with its bones turned so (forward kinematics): world matrices, placement included.
std::vector<glm::dmat4> worldWith(const Model& model, const BoneTurns& turns);

/// What reaching came to.
struct Reached {
    BoneTurns turns;
    double shortBy = 0; ///< metres that the end stays away from the target
};
/// Turns the two bones above `end` (upper arm and forearm for a hand) so that it comes to `target`, a place
/// in the world, with the joint between them on the side of `pole` (by the cosine rule); without a pole, on
/// the side where it is. The end keeps how it is turned in its parent. A target that is too far or too near
/// is reached for as well as can be. Throws Error when `end` has no two bones above it.
Reached reached(const Model& model, BoneTurns turns, int end, const glm::dvec3& target,
                const std::optional<glm::dvec3>& pole = std::nullopt);

/// Turns a bone the shortest way, so that its `end` (in its own coordinates) comes to lie in the direction of
/// `target` (a place in the world), but no farther than its limits.
BoneTurns aimed(const Model& model, BoneTurns turns, int bone, const glm::dvec3& end,
                const glm::dvec3& target);
/// Where a bone ends, in its own coordinates: at the joint below that goes on straightest; one with none
/// below goes on as the one above, not quite as far.
glm::dvec3 endOf(const Model& model, int bone);

/// The pose as a clip of one key, at 0 s.
Clip poseClip(const Model& model, const BoneTurns& turns, std::string name);

/// The name of the bone on the other side: "hand.left" and "hand.right", also "_L", "Left" and the like; the
/// same name for one in the middle.
std::string otherSide(const std::string& bone);

} // namespace zl::motion
