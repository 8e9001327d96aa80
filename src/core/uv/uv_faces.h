#pragma once
#include "core/model/model.h"

namespace zl::uv {

/// One triangle as it lies on its material's leading picture.
struct UvFace {
    int node = -1;
    std::uint32_t triangle = 0;
    int material = -1;
    std::array<glm::vec2, 3> at{}; ///< placed UVs, origin top left
    float area = 0;                ///< in world space, m²
};

/// The triangles of a model that lie on pictures, and those that do not.
struct UvFaces {
    std::vector<UvFace> faces; ///< by node, then in the mesh's order
    std::size_t bare = 0; ///< triangles without the UV set that their material looks up, or with no numbers
    std::vector<int> bareNodes;
};

/// Every shown triangle's UVs, with the placement of its material's leading picture put into them (those of
/// the first set where a material has no picture).
UvFaces uvFaces(const Model& model);

/// Twice the area on the picture, in UV squares; negative for a triangle that is counter-clockwise as the
/// picture is seen (rows from the top), which is how an unmirrored picture lies on a front face.
inline double doubleUvArea(const UvFace& face) {
    const glm::dvec2 a(face.at[0]), b = glm::dvec2(face.at[1]) - a, c = glm::dvec2(face.at[2]) - a;
    return b.x * c.y - b.y * c.x;
}

/// Pixels of a material's leading picture; 0 by 0 without one.
glm::ivec2 leadingPixels(const Model& model, int material);

} // namespace zl::uv
