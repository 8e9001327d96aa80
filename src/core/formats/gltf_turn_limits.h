#pragma once
#include "core/formats/tinygltf.h"
#include "core/model/model.h"

namespace zl::formats {

// How far bones turn, as a node's `extras` in glTF: {"turnLimits": {"least": [x, y, z], "most": [x, y, z]}},
// in degrees, each from -180 to 180.

/// Nothing for a node that says nothing, or nothing that makes sense.
std::optional<TurnLimits> turnLimitsIn(const tinygltf::Value& extras);
tinygltf::Value turnLimitsValue(const TurnLimits& limits);

} // namespace zl::formats
