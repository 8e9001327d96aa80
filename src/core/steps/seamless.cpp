#include "core/steps/seamless.h"

#include "core/base/pattern.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/tiling.h"

#include <map>

namespace zl::steps {

namespace {

struct Axes {
    bool across = false, down = false;
};

/// The axes along which each picture is to be mended: where it, or another of the same material, shows where
/// it ends; for what lies on one another is mended in the same places, and what shows no seam is only
/// blurred.
std::map<const Image*, Axes> seamsOf(const Model& model, const PartNames& of, RolesMeant roles,
                                     const Progress& progress) {
    const NamePatterns wanted(of.patterns);
    std::map<const Image*, Axes> own, out;
    for (const Material& material : model.materials) {
        if (!wanted.match(material.name)) continue;
        Axes all;
        std::vector<const Image*> worn;
        for (const PictureRole role : allPictureRoles) {
            const PictureUse& use = material.picture(role);
            if (!use || (roles != RolesMeant::Every && std::size_t(roles) != std::size_t(role) + 1)) continue;
            const auto& image = model.images[std::size_t(use.image)];
            const auto [entry, fresh] = own.try_emplace(image.get());
            if (fresh) {
                progress.checkCancel();
                const texture::Tiling tiling = texture::tilingOf(*texture::pixelsOf(image));
                entry->second = {tiling.across.seam() > 0, tiling.down.seam() > 0};
            }
            all.across |= entry->second.across, all.down |= entry->second.down;
            worn.push_back(image.get());
        }
        for (const Image* image : worn) {
            Axes& axes = out[image];
            axes.across |= all.across, axes.down |= all.down;
        }
    }
    return out;
}

} // namespace

Model Seamless::apply(const Model& in, StepContext& context) const {
    Model out = in;
    auto facts = nlohmann::json::array();
    auto mended = seamsOf(in, of, roles, context.progress);
    for (auto& [image, axes] : mended) axes.across &= across, axes.down &= down;
    const int changed = changePictures(
        out, of, roles, context.progress,
        [&](const std::shared_ptr<const Image>& image,
            texture::PixelKind kind) -> std::shared_ptr<const Image> {
            if (!across && !down) return nullptr;
            const auto pixels = texture::pixelsOf(image);
            const Axes& wanted = mended[image.get()];
            if (!wanted.across && !wanted.down) {
                context.note(fmt::format("{} goes on already", image->name));
                return nullptr;
            }
            const texture::Tiling was = texture::tilingOf(*pixels);
            Pixels tiled = texture::madeToTile(*pixels, wanted.across, wanted.down, band, kind);
            const double before = was.seam(), after = texture::tilingOf(tiled).seam();
            context.note(fmt::format("{}: {} → {} of 255 apart at its borders", image->name,
                                     showNumber(before, 1), showNumber(after, 1)));
            facts.push_back({{"name", image->name}, {"before", before}, {"after", after}});
            return texture::pictureFromPixels(image->name, std::move(tiled), image->hasAlpha());
        });
    if (changed == 0) context.note("no picture was changed");
    context.facts["pictures"] = std::move(facts);
    return out;
}

} // namespace zl::steps
