#pragma once
#include "core/model/model.h"
#include "core/package/package.h"

namespace zl::package {

/// The bytes of a row mesh with the shape of `model`, as it stands in the world, put in: in the axes of the
/// old one, its groups in the old order with their names and materials, each filled with the triangles of the
/// material of that name (its own name, or that of the material resource). A group that the model no longer
/// has stays, empty. Throws Refused for a material that no group has, Error when `old` is no row mesh.
std::string withGeometryOf(const Model& model, const std::string& old, const Package& package,
                           const std::string& where);

} // namespace zl::package
