#include "core/steps/picture_bytes.h"

#include "core/base/pattern.h"
#include "core/platform/small_pictures.h"
#include "core/steps/changed_pictures.h"
#include "core/texture/fitted_picture.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"

#include <algorithm>

namespace zl::steps {

namespace {

/// So many others are offered beside what was taken.
constexpr std::size_t mostOffered = 2;

std::string wordsOf(const texture::SmallChoice& choice) {
    return fmt::format("{} × {} px, {}, {} bytes, off by {} of 255", choice.width, choice.height,
                       texture::infoOf(choice.format).name, showNumber(double(choice.bytes), 0),
                       showNumber(choice.error, 1));
}

} // namespace

Model PictureBytes::apply(const Model& in, StepContext& context) const {
    std::size_t within = std::size_t(most);
    if (most == 0 && context.sheet) within = platform::smallPictureBytes(*context.sheet).value_or(0);
    if (within == 0)
        throw Error("nothing says how many bytes a picture may take", {}, "Give a number of bytes.");

    Model out = in;
    context.facts["pictures"] = nlohmann::json::array();
    const int changed = changePictures(
        out, {}, RolesMeant::Colour, context.progress,
        [&](const std::shared_ptr<const Image>& image, texture::PixelKind) -> std::shared_ptr<const Image> {
            const auto pixels = texture::pixelsOf(image);
            const auto chosen = std::ranges::find_if(choices, [&](const Chosen& row) {
                return matchPattern(row.picture, image->name).has_value();
            });
            if (chosen == choices.end() && image->pixels &&
                texture::bytesHeld(texture::smallestFor(*pixels), pixels->width, pixels->height) <= within)
                return nullptr;
            auto all = texture::smallChoices(*pixels, within, dithered, context.progress);
            if (all.empty())
                throw Error(fmt::format("{} bytes are too few for any format", within), image->name,
                            "Let pictures take more bytes.");
            texture::SmallChoice best = all.front();
            if (chosen != choices.end() && (chosen->as != As::Best || chosen->edge > 0)) {
                const auto format =
                    chosen->as == As::Best ? best.format : texture::SmallFormat(int(chosen->as) - 1);
                const auto largest = std::ranges::find(all, format, &texture::SmallChoice::format);
                const int edge = chosen->edge > 0 || largest == all.end()
                                     ? std::max(chosen->edge, 1)
                                     : std::max(largest->width, largest->height);
                best = texture::smallChoice(*pixels, format, edge, dithered);
            }
            nlohmann::json told = nlohmann::json::array();
            std::size_t offered = 0;
            for (const auto& choice : all) {
                const auto& info = texture::infoOf(choice.format);
                told.push_back({{"format", info.id},
                                {"width", choice.width},
                                {"height", choice.height},
                                {"bytes", choice.bytes},
                                {"error", choice.error},
                                {"taken", choice.format == best.format && choice.width == best.width}});
                if (choice.format == best.format || offered++ >= mostOffered) continue;
                PictureBytes other = *this;
                std::erase_if(other.choices, [&](const Chosen& row) { return row.picture == image->name; });
                other.choices.push_back({image->name, As(int(choice.format) + 1), 0});
                context.offer(fmt::format("{}: {}", image->name, wordsOf(choice)),
                              {{"choices", fields::printed(fields, &other)["choices"]}});
            }
            context.facts["pictures"].push_back({{"name", image->name}, {"choices", std::move(told)}});
            context.note(fmt::format("{}: {}", image->name, wordsOf(best)));
            if (best.bytes > within)
                context.fellShort(fmt::format("{} takes {} bytes of {} so", image->name, best.bytes, within));
            bool alpha = false;
            for (std::size_t p = 3; p < best.pixels.rgba.size(); p += 4) alpha |= best.pixels.rgba[p] != 255;
            return texture::pictureFromPixels(image->name, std::move(best.pixels), alpha);
        });
    if (changed == 0) context.note(fmt::format("every picture takes at most {} bytes", within));
    return out;
}

} // namespace zl::steps
