#include "core/deliver/block_pictures.h"

#include "core/base/unique_names.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"

#include <filesystem>
#include <set>

namespace zl::deliver {

std::vector<OutFile> blockPictures(Model& model, const Progress& progress) {
    std::vector<OutFile> out;
    UniqueNames names;
    std::set<int> used;
    for (const int m : usedMaterials(model))
        if (m >= 0)
            if (const PictureUse& use = model.materials[std::size_t(m)].picture(PictureRole::Colour))
                used.insert(use.image);
    for (const int index : used) {
        progress.report(double(out.size()) / double(used.size()), "packing pictures");
        progress.checkCancel();
        auto& held = model.images[std::size_t(index)];
        Image named = *held;
        named.name = names.made(fileNameFrom(std::filesystem::path(held->name).stem().string()));
        const auto pixels = texture::pixelsOf(held);
        bool alpha = false;
        for (std::size_t p = 3; p < pixels->rgba.size() && !alpha; p += 4) alpha = pixels->rgba[p] < 255;
        out.push_back({named.name, texture::writeDds(*pixels, alpha)});
        held = std::make_shared<const Image>(std::move(named));
    }
    return out;
}

} // namespace zl::deliver
