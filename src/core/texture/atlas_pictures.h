#pragma once
#include "core/base/progress.h"
#include "core/texture/atlas_layout.h"
#include "core/texture/worn_look.h"

namespace zl::texture {

/// One look and the stretch of places (on its leading picture) that its tile shows.
struct AtlasSource {
    WornLook look;
    glm::vec2 from{0}, to{1};
    double area = 0; ///< square metres of the model that wear it
};

/// A material whose pictures stand for all sources. Its picture indices go into `images`.
struct PaintedAtlas {
    Material material;
    std::vector<std::shared_ptr<const Image>> images;
    std::vector<std::string> leftOut;
};

/// Paints every role that any of the looks has, and those whose factors differ, as PNG pictures: colour (with
/// opacity where anything is see-through), normal, occlusion, roughness and metalness as the red, green and
/// blue of one picture, emission, height, specular. `colourOnly` paints the colour alone and takes means, by
/// area, for the rest. The padding shows what the looks show there, so that nothing bleeds. Throws Cancelled.
PaintedAtlas paintAtlas(std::vector<AtlasSource>& sources, const AtlasLayout& layout, int padding,
                        bool colourOnly, const std::string& name, const Progress& progress);

} // namespace zl::texture
