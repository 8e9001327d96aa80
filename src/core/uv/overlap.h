#pragma once
#include "core/uv/uv_faces.h"

namespace zl::uv {

/// Triangles that lie on the same part of a picture as others.
struct Overlap {
    double share = 0; ///< of the area of the picture that is used, how much is used twice or more
    std::vector<std::uint32_t> faces; ///< indices into UvFaces::faces, rising
};

/// Looks at `edge` by `edge` points of each material's picture; what is thinner than a point is not seen.
/// Pictures repeat, so two triangles a whole picture apart overlap. A triangle that is larger than the
/// picture overlaps itself. What comes after a picture has been covered 64 times over counts as overlapping
/// unseen.
Overlap overlapOf(const UvFaces& faces, int edge = 1024);

} // namespace zl::uv
