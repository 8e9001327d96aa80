// The only file that uses libimagequant, whose licence is the GNU GPL 3 (see NOTICES.md).
#include "core/texture/palette.h"

#include "core/base/error.h"

#include <libimagequant.h>

#include <memory>

namespace zl::texture {

namespace {

void require(bool worked) {
    if (!worked) throw Error("a palette could not be made", {}, "Make some memory free, then try again.");
}

} // namespace

Palette paletteOf(const Pixels& pixels, int most, bool dithered, bool alpha) {
    Pixels opaque;
    if (!alpha) {
        opaque = pixels;
        for (std::size_t p = 3; p < opaque.rgba.size(); p += 4) opaque.rgba[p] = 255;
    }
    const Pixels& from = alpha ? pixels : opaque;
    const std::unique_ptr<liq_attr, void (*)(liq_attr*)> way(liq_attr_create(), liq_attr_destroy);
    require(way != nullptr);
    liq_set_max_colors(way.get(), most);
    const std::unique_ptr<liq_image, void (*)(liq_image*)> image(
        liq_image_create_rgba(way.get(), from.rgba.data(), from.width, from.height, 0), liq_image_destroy);
    require(image != nullptr);
    liq_result* made = nullptr;
    require(liq_image_quantize(image.get(), way.get(), &made) == LIQ_OK);
    const std::unique_ptr<liq_result, void (*)(liq_result*)> result(made, liq_result_destroy);
    liq_set_dithering_level(result.get(), dithered ? 1.0f : 0.0f);
    Palette out;
    out.indices.resize(std::size_t(from.width) * std::size_t(from.height));
    require(liq_write_remapped_image(result.get(), image.get(), out.indices.data(), out.indices.size()) ==
            LIQ_OK);
    const liq_palette* palette = liq_get_palette(result.get());
    require(palette != nullptr);
    for (unsigned i = 0; i < palette->count; ++i) {
        const liq_color& c = palette->entries[i];
        out.colours.push_back({c.r, c.g, c.b, c.a});
    }
    return out;
}

} // namespace zl::texture
