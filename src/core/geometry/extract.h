#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

#include <functional>

namespace zl::geometry {

/// The triangles of a mesh that `wanted` names, in their order, with only the corners they use. `wear` has
/// an entry for each triangle of the whole mesh.
Mesh extracted(const Mesh& mesh, const std::vector<Wear>& wear,
               const std::function<bool(std::size_t)>& wanted);

/// The triangles of a mesh that `triangles` names (rising) with the corners that they use, both in the order
/// in which the mesh has them, whatever their materials.
Mesh inOwnOrder(const Mesh& mesh, const std::vector<std::uint32_t>& triangles);

/// The mesh taken apart into `count` meshes by the number that `group` gives each triangle; takes about as
/// long as the mesh is large, however many there are.
std::vector<Mesh> takenApart(const Mesh& mesh, const std::vector<std::uint32_t>& group, std::size_t count,
                             const Progress& progress = {});

} // namespace zl::geometry
