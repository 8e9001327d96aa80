#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

namespace zl::geometry {

/// For each vertex, the first vertex at the same place: exactly the same when `tolerance` is 0, else within
/// `tolerance` (mesh units) of it. Vertices are visited in order and join the first earlier representative
/// found, so the result does not depend on threads. Vertices with NaN or infinite places stay alone.
std::vector<std::uint32_t> joinedPlaces(const std::vector<glm::vec3>& positions, float tolerance,
                                        const Progress& progress = {});

struct WeldResult {
    Mesh mesh;
    std::size_t cornersJoined = 0; ///< vertices that went away
};

/// Moves near vertices onto one place and joins those whose other attributes are equal too, so that UV seams
/// and hard edges stay. Vertices that no triangle uses go away. Triangles keep their order and material.
WeldResult weld(const Mesh& mesh, float tolerance, const Progress& progress = {});

} // namespace zl::geometry
