#pragma once
#include "core/geometry/world.h"
#include "core/model/image.h"

namespace zl::app {

/// How much light a thing takes from the floor below it: soft, darkest where it stands on it, faint below
/// what is high above. A cheap stand-in for light from a wide sky; what is below the floor casts none.
struct FloorShadow {
    int edge = 0;                   ///< pixels along each side
    std::vector<std::uint8_t> dark; ///< edge × edge, 255 for no light at all; rows along Z, then X
    glm::dvec2 least{0}, most{0};   ///< the square of floor that it covers, X and Z in metres
};

/// Of a mesh in world space, Y up. Linear in triangles and in the area they cover. Of more than `most`
/// triangles every so many is taken: what is left out lies within the blur.
FloorShadow floorShadowOf(const Mesh& mesh, const geometry::Bounds& bounds,
                          std::size_t most = ~std::size_t(0));

} // namespace zl::app
