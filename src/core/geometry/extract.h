#pragma once
#include "core/model/mesh.h"

#include <functional>

namespace zl::geometry {

/// The triangles of a mesh that `wanted` names, in their order, with only the corners they use. `materials` holds
/// one entry a triangle of the whole mesh.
Mesh extracted(const Mesh& mesh, const std::vector<int>& materials, const std::function<bool(std::size_t)>& wanted);

} // namespace zl::geometry
