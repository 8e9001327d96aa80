#include "core/steps/turn_channels.h"

#include "core/base/pattern.h"
#include "core/texture/pack_channels.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"

namespace zl::steps {

namespace {

texture::PackedChannel channelOf(const Pixels& pixels, TurnChannels::Holds holds) {
    using Holds = TurnChannels::Holds;
    if (holds == Holds::White || holds == Holds::Black)
        return {.otherwise = holds == Holds::White ? 1.0f : 0.0f};
    const std::size_t which = std::size_t(holds) % 4;
    return {.from = &pixels,
            .channel = PictureChannel(std::size_t(PictureChannel::Red) + which),
            .turnedOver = std::size_t(holds) >= 4};
}

} // namespace

Model TurnChannels::apply(const Model& in, StepContext& context) const {
    Model out = in;
    const bool turns = meaning == Meaning::AsBefore;
    const auto from = meaning == Meaning::GlossToRoughness ? PictureRole::Gloss : PictureRole::Roughness;
    const auto to = meaning == Meaning::GlossToRoughness ? PictureRole::Roughness : PictureRole::Gloss;
    const RolesMeant meant = turns ? roles : RolesMeant(std::size_t(from) + 1);
    const bool same =
        red == Holds::Red && green == Holds::Green && blue == Holds::Blue && alpha == Holds::Alpha;
    if (turns && same) {
        context.note("every channel is what it was");
        return in;
    }
    const int changed = changePictures(
        out, of, meant, context.progress,
        [&](const std::shared_ptr<const Image>& image, texture::PixelKind) -> std::shared_ptr<const Image> {
            const auto pixels = texture::pixelsOf(image);
            const bool had = image->hasAlpha();
            const auto held =
                turns ? std::array{red, green, blue, alpha}
                      : std::array{Holds::NotRed, Holds::NotGreen, Holds::NotBlue, Holds::NotAlpha};
            std::array<texture::PackedChannel, 4> channels;
            for (std::size_t k = 0; k < 4; ++k) channels[k] = channelOf(*pixels, held[k]);
            if (!turns && !had) channels[3] = {};
            const bool alphaNow = turns ? alpha != Holds::White && (had || alpha != Holds::Alpha) : had;
            return texture::pictureFromPixels(image->name, texture::packedChannels(channels), alphaNow);
        });
    if (!turns) {
        const NamePatterns wanted(of.patterns);
        for (Material& material : out.materials)
            if (wanted.match(material.name) && material.picture(from)) {
                if (from == PictureRole::Roughness && material.roughness != 1)
                    context.fellShort(fmt::format("the roughness {} of \"{}\" beside its picture is lost",
                                                  showNumber(material.roughness, 3), material.name));
                const PictureUse use = material.picture(from);
                material.picture(from) = {};
                material.wear(to, use);
            }
    }
    context.note(changed == 0 ? std::string("there is no such picture")
                              : fmt::format("{} changed", showCount(changed, "picture", "pictures")));
    return out;
}

} // namespace zl::steps
