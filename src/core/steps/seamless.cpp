#include "core/steps/seamless.h"

#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/tiling.h"

namespace zl::steps {

Model Seamless::apply(const Model& in, StepContext& context) const {
    Model out = in;
    auto facts = nlohmann::json::array();
    const int changed = changePictures(
        out, of, roles, context.progress,
        [&](const std::shared_ptr<const Image>& image,
            texture::PixelKind kind) -> std::shared_ptr<const Image> {
            if (!across && !down) return nullptr;
            const auto pixels = texture::pixelsOf(image);
            Pixels tiled = texture::madeToTile(*pixels, across, down, band, kind);
            const double before = texture::tilingOf(*pixels).seam(), after = texture::tilingOf(tiled).seam();
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
