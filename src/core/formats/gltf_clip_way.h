#pragma once
#include "core/formats/tinygltf.h"

#include <glm/glm.hpp>

namespace zl::formats {

/// A clip's way (Clip::way) as glTF keeps it among an animation's extras: `way`, three numbers in metres in
/// the scene's space. 0 where the extras say nothing of it, or no numbers.
glm::dvec3 clipWayIn(const tinygltf::Value& extras);
tinygltf::Value clipWayValue(const glm::dvec3& way);

} // namespace zl::formats
