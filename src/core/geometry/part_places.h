#pragma once
#include "core/geometry/world.h"

namespace zl::geometry {

/// By which of its places a part is put somewhere: the middle of its bounds, its node's origin, the middle of
/// its lowest side, or the middle of another side of its bounds in world space (left is +X, front +Z).
enum class By { Centre, Origin, Foot, Top, Left, Right, Front, Back };

/// A node with all that hangs below it.
std::vector<int> withBelow(const Model& model, int node);
/// World bounds of what some nodes show.
Bounds boundsOf(const Model& model, const std::vector<int>& nodes);
/// That place of a node with what hangs below it, in the world; its origin where it shows nothing.
glm::dvec3 placeOf(const Model& model, int node, const std::vector<int>& shown, By by);

/// Which of `others` each of `places` belongs to, found by where they are among their like (front or rear,
/// left or right): both sets are brought to one box, and the nearest pairs are taken first. -1 for those left
/// over.
std::vector<int> pairedByPlace(const std::vector<glm::dvec3>& places, const std::vector<glm::dvec3>& others);

} // namespace zl::geometry
