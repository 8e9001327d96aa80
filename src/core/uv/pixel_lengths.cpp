#include "core/uv/pixel_lengths.h"

#include "core/uv/uv_faces.h"

namespace zl::uv {

std::map<int, double> pixelLengths(const Model& model) {
    struct Worn {
        double area = 0, pixels = 0;
    };
    std::map<int, Worn> worn;
    for (const UvFace& face : uvFaces(model).faces) {
        if (face.material < 0) continue;
        const PictureUse* use = model.materials[std::size_t(face.material)].leading();
        if (!use || use->image < 0) continue;
        const glm::dvec2 pixels = leadingPixels(model, face.material);
        Worn& own = worn[use->image];
        own.area += double(face.area);
        own.pixels += 0.5 * std::abs(doubleUvArea(face)) * pixels.x * pixels.y;
    }
    std::map<int, double> out;
    for (const auto& [image, own] : worn)
        if (own.pixels > 0) out[image] = std::sqrt(own.area / own.pixels);
    return out;
}

} // namespace zl::uv
