#include "core/platform/delivered_pictures.h"

#include "core/texture/picture_format.h"
#include "core/texture/picture_memory.h"

#include <algorithm>

namespace zl::platform {

namespace {

/// How large a packed picture comes out: as the largest of those in it, or as the sheet allows.
glm::ivec2 packedSize(const SheetPicture& picture, const Material& material, const Model& model) {
    glm::ivec2 size(1);
    for (const PictureRole wanted : picture.roles())
        for (const PictureRole role : {wanted, otherSayingOf(wanted)}) {
            const int image = material.image(role);
            if (image < 0) continue;
            size = glm::max(size, glm::ivec2(model.images[std::size_t(image)]->width,
                                             model.images[std::size_t(image)]->height));
            break;
        }
    return texture::shrunkTo(size, picture.mostEdge);
}

} // namespace

double DeliveredPicture::memory() const {
    return texture::memoryOf(size, texture::pictureFormat(format).bitsOnCard);
}

std::vector<DeliveredPicture> deliveredPictures(const Model& model, const Sheet& sheet) {
    std::vector<DeliveredPicture> out;
    if (sheet.surface.pictures.empty()) {
        for (const int index : usedImages(model)) {
            const Image& image = *model.images[std::size_t(index)];
            out.push_back({.name = image.name,
                           .image = index,
                           .size = {image.width, image.height},
                           .format = image.format,
                           .alpha = image.hasAlpha()});
        }
        return out;
    }
    for (const int index : usedMaterials(model)) {
        if (index < 0 || !model.materials[std::size_t(index)].leading()) continue;
        const Material& material = model.materials[std::size_t(index)];
        for (const SheetPicture& picture : sheet.surface.pictures)
            out.push_back({.name = picture.nameFor(material.name),
                           .material = index,
                           .size = packedSize(picture, material, model),
                           .format = picture.format,
                           .alpha = picture.hasAlpha()});
    }
    return out;
}

} // namespace zl::platform
