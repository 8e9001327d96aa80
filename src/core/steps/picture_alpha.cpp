#include "core/steps/picture_alpha.h"

#include "core/base/pattern.h"
#include "core/texture/bled_colours.h"
#include "core/texture/pack_channels.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"

namespace zl::steps {

namespace {

std::shared_ptr<const Image> withoutAlpha(const std::shared_ptr<const Image>& image) {
    if (!image->hasAlpha()) return nullptr;
    Pixels pixels = *texture::pixelsOf(image);
    for (std::size_t p = 3; p < pixels.rgba.size(); p += 4) pixels.rgba[p] = 255;
    return texture::pictureFromPixels(image->name, std::move(pixels), false);
}

} // namespace

Model PictureAlpha::apply(const Model& in, StepContext& context) const {
    if (way == Way::From && picture.name.empty()) {
        context.note("no picture is chosen");
        return in;
    }
    Model out = in;
    const NamePatterns wanted(of.patterns);
    const auto isMeant = [&](const Material& m) { return wanted.match(m.name); };
    std::shared_ptr<const Pixels> other;
    if (way == Way::From) other = texture::pixelsOf(out.images[std::size_t(context.imageIn(out, picture))]);
    if (way == Way::Drop)
        for (Material& material : out.materials) {
            PictureUse& opacity = material.picture(PictureRole::Opacity);
            if (!isMeant(material) || opacity.image != material.image(PictureRole::Colour) ||
                opacity.channel != PictureChannel::Alpha)
                continue;
            opacity = {};
            if (material.baseColour.a >= 1) material.alpha = Material::Alpha::Opaque;
        }
    std::size_t bled = 0;
    const int changed = changePictures(
        out, of, RolesMeant::Colour, context.progress,
        [&](const std::shared_ptr<const Image>& image, texture::PixelKind) -> std::shared_ptr<const Image> {
            if (way == Way::Drop) return withoutAlpha(image);
            Pixels pixels = *texture::pixelsOf(image);
            if (way == Way::From)
                pixels = texture::packedChannels({{{&pixels, PictureChannel::Red},
                                                   {&pixels, PictureChannel::Green},
                                                   {&pixels, PictureChannel::Blue},
                                                   {other.get(), taken}}},
                                                 {pixels.width, pixels.height});
            if (bleed) bled += texture::bleedColours(pixels);
            return texture::pictureFromPixels(image->name, std::move(pixels), true);
        });
    if (way == Way::From)
        for (Material& material : out.materials)
            if (const PictureUse& colour = material.picture(PictureRole::Colour);
                isMeant(material) && colour) {
                PictureUse use = colour;
                use.channel = PictureChannel::Alpha;
                material.wear(PictureRole::Opacity, use);
            }
    context.note(fmt::format("{} {}", showCount(changed, "picture", "pictures"),
                             way == Way::Drop   ? "without alpha now"
                             : way == Way::Keep ? "with alpha as it was"
                                                : "with another alpha now"));
    if (bled > 0)
        context.note(fmt::format("{} got the colour of their neighbours",
                                 showCount(long(bled), "clear pixel", "clear pixels")));
    return out;
}

} // namespace zl::steps
