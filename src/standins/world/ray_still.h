#pragma once
#include "standins/world/arena.h"
#include "standins/world/shading.h"

namespace zl::standins::world {

/// What stands on an arena as its shading has it, through the middle of each pixel (rays by Embree), without
/// a window or a graphics card. Alpha is 0 where nothing is.
Picture rayStill(const Shading& shading, const std::vector<Drawn>& drawn, const Lens& lens);

/// The box around what stands there.
std::pair<glm::vec3, glm::vec3> boxAround(const Shading& shading, const std::vector<Drawn>& drawn);

} // namespace zl::standins::world
