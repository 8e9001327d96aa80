#pragma once
#include "core/base/units.h"
#include "core/files/resource_key.h"
#include "core/model/model.h"

namespace zl::formats {

/// A run of triangles of a row mesh and its material: a resource of the same package.
struct RowGroup {
    std::string name;            ///< of the group
    files::ResourceKey material; ///< number 0 for none
    std::uint32_t firstTriangle = 0, triangleCount = 0;
    std::size_t nameAt = 0, keyAt = 0; ///< where in the bytes the name's length and the key stand
};

/// What stands in front of a row mesh's arrays (docs/formats/row-package.md).
struct RowMeshHead {
    Up up = Up::Z;
    std::uint32_t corners = 0, triangles = 0;
    std::vector<RowGroup> groups;
    std::size_t arraysAt = 0;
};

/// Throws Error naming `where` for bytes that are no row mesh, or whose counts cannot be true.
RowMeshHead rowMeshHead(std::string_view bytes, const std::string& where);

/// A row mesh of `mesh`, whose corners are in metres in the axes that `up` names, with normals; a mesh
/// without UVs gets zeros. The groups cover its triangles in order.
std::string rowMeshBytes(const Mesh& mesh, Up up, const std::vector<RowGroup>& groups);

/// The bytes with another name and key in each group, and all else as it was. `groups` are as many.
std::string withRowGroups(std::string_view bytes, const std::string& where,
                          const std::vector<RowGroup>& groups);

} // namespace zl::formats
