#pragma once
#include "standins/world/shape.h"

#include <glm/gtc/quaternion.hpp>

#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace zl::standins::world::doll {

// The stand-ins' own grown-up figure as a jointed doll: 24 bones, 1.78 m tall, its left at +X.

/// How far each bone is turned in its parent: by name. Bones stand along the world's axes at rest.
using Turns = std::map<std::string, glm::quat>;

constexpr double metres = 1.78;

/// The names of the bones, in their order.
std::vector<std::string_view> bones();
/// A limb for each bone, in the bone's own coordinates; some bones have none.
std::vector<Shape> limbs();
/// Where the bones are when they are turned so; a bone that is not named is at rest.
std::vector<glm::mat4> posed(const Turns& turns);
/// A bone's place in the order, or -1.
int boneNamed(std::string_view name);

} // namespace zl::standins::world::doll
