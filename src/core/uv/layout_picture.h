#pragma once
#include "core/model/image.h"
#include "core/uv/islands.h"

namespace zl::uv {

/// How a layout is drawn.
struct LayoutLook {
    int size = 1024;      ///< pixels along the longer edge, which follow the picture's
    bool picture = false; ///< the picture lies below
    bool names = true;    ///< parts are named on their largest islands
};

/// A colour for the `i`th of several parts, none like its neighbours; 0–255.
glm::ivec3 partColour(std::size_t i);

/// How a material's parts lie on its picture, ready to be painted on: islands in one colour a part, their
/// triangles' edges thin, their borders strong, what is beyond the picture's borders left out. Names are as
/// far as they are of plain letters. `faces` and `islands` must be those of `model`.
Pixels layoutPicture(const Model& model, const UvFaces& faces, const std::vector<UvIsland>& islands,
                     int material, const LayoutLook& look);

/// The same as SVG: a group for each part, called like it, a path for each island.
std::string layoutSvg(const Model& model, const UvFaces& faces, const std::vector<UvIsland>& islands,
                      int material, const LayoutLook& look);

} // namespace zl::uv
