#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// Appends a corner at `position` whose attributes lie between those of corners `a` and `b` (0 is a, 1 is b):
/// normals and tangents at unit length, the four heaviest bones of both, colours, UVs and morphs in
/// proportion. Returns its number.
std::uint32_t addCornerBetween(Mesh& mesh, std::uint32_t a, std::uint32_t b, float share,
                               const glm::vec3& position);

} // namespace zl::geometry
