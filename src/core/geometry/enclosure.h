#pragma once
#include "core/geometry/ray_scene.h"

#include <span>

namespace zl::geometry {

/// How many pieces (each closed) enclose `piece`: a ray from one of its points crosses the surface of an
/// enclosing piece an odd number of times. `pieceOf` names the piece of each of the scene's triangles.
/// An odd number means that the piece's surface bounds a hollow.
int enclosingPieces(const RayScene& scene, const Mesh& mesh, std::span<const std::uint32_t> pieceOf,
                    std::uint32_t firstTriangle);

} // namespace zl::geometry
