#pragma once
#include "core/uv/uv_faces.h"

namespace zl::uv {

/// How strongly each triangle of a mesh bends, in radians a metre: the largest turn of the normal along one
/// of its edges. Flat and hard-edged faces have 0; a mesh without normals gets its own first.
std::vector<float> bendOf(const Mesh& mesh, const glm::dmat4& toWorld);

/// Where the relief of height pictures lies. Games that move a picture's pixels by their height (parallax)
/// reckon with flat ground, so relief on what curves swims.
struct Relief {
    double onCurves = 0;              ///< share of all relief that lies on faces that bend
    bool any = false;                 ///< whether there is a height picture that says something
    std::vector<std::uint32_t> faces; ///< curved ones with relief; indices into UvFaces::faces
};

/// Relief is the mean distance of heights from their picture's mean, times the area that they lie on; curved
/// is what bends by `bend` radians a metre or more. `faces` must be those of `model`.
Relief reliefOf(const Model& model, const UvFaces& faces, double bend);

} // namespace zl::uv
