#pragma once
#include "core/package/package.h"

#include <optional>

namespace zl::package {

/// A group of a geometry, and what it wears.
struct WornGroup {
    std::string name;
    std::optional<std::size_t> material; ///< places in Package::resources
    std::optional<std::size_t> colour;   ///< its material's colour picture
};

/// In the geometry's order. Throws Error for bytes that are no geometry.
std::vector<WornGroup> wornGroups(const Package& package, const Resource& geometry);

/// Another picture for the colour of a material: a resource's bytes with nothing changed but that reference.
/// Throws Error for a material that is broken.
std::string withColour(const Resource& material, const ResourceKey& picture);

} // namespace zl::package
