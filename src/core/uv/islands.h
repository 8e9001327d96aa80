#pragma once
#include "core/uv/uv_faces.h"

namespace zl::uv {

/// Triangles of one object and one material that hang together on the picture: they share a place of the
/// surface with the same UV.
struct UvIsland {
    int node = -1;
    int material = -1;
    std::vector<std::uint32_t> faces; ///< indices into UvFaces::faces, rising
    glm::dvec2 least{1e300}, most{-1e300};
    double uvArea = 0;   ///< in UV squares
    double area = 0;     ///< on the model, m²
    double mirrored = 0; ///< share of the UV area that lies mirrored on the surface
    /// How much longer pixels are one way than the other, on the surface: 1 for squares, means by area.
    double stretch = 1;
    double density = 0; ///< pixels along a metre; 0 without a picture

    bool isMirrored() const { return mirrored > 0.5; }
    /// Past the picture's borders by more than rounding.
    bool isOutside() const;
};

/// Stretch from which on an island is pointed out.
inline constexpr double muchStretch = 2.0;

/// The islands of `faces`, which must be those of `model`, in the order of their first triangles.
std::vector<UvIsland> islandsOf(const Model& model, const UvFaces& faces);

/// How far beyond 0 and 1 a UV may be and still count as on the border.
inline constexpr double borderSlack = 1e-4;

} // namespace zl::uv
