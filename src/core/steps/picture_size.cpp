#include "core/steps/picture_size.h"

#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_memory.h"
#include "core/uv/pixel_lengths.h"

#include <bit>
#include <set>

namespace zl::steps {

namespace {

constexpr int longestEdge = 32768; // that a picture's edge may be

int powerOfTwo(int edge, PictureSize::Sides sides) {
    const auto up = int(std::bit_ceil(unsigned(edge))), down = int(std::bit_floor(unsigned(edge)));
    switch (sides) {
    case PictureSize::Sides::Up:
        return std::min(up, longestEdge);
    case PictureSize::Sides::Down:
        return down;
    case PictureSize::Sides::Nearest: // as factors go: 181 is nearer to 128, 182 to 256
        return double(edge) * edge < double(up) * down ? down : std::min(up, longestEdge);
    case PictureSize::Sides::AsTheyCome:
        break;
    }
    return edge;
}

/// Pixels along an edge that the platform takes; 0 where it says nothing.
int limitOf(const platform::Sheet* sheet) {
    int limit = 0;
    if (!sheet) return limit;
    for (const platform::RuleSpec* rule : sheet->rulesOf("picture-edge")) {
        const int most = int(std::clamp(rule->limit("most", longestEdge), 1.0, double(longestEdge)));
        limit = limit == 0 ? most : std::min(limit, most);
    }
    return limit;
}

} // namespace

Model PictureSize::apply(const Model& in, StepContext& context) const {
    Model out = in;
    const int limit = goal == Goal::Limit ? limitOf(context.sheet) : goal == Goal::Number ? number : 0;
    if (goal == Goal::Limit && limit == 0) context.fellShort("the platform says nothing of pictures' edges");
    double before = 0, after = 0;
    std::set<const Image*> coarser;
    auto facts = nlohmann::json::array();
    const int changed =
        changePictures(out, of, roles, context.progress,
                       [&](const std::shared_ptr<const Image>& image,
                           texture::PixelKind kind) -> std::shared_ptr<const Image> {
                           const int edge = std::max(image->width, image->height);
                           const double factor = goal == Goal::Share ? share
                                                 : limit > 0         ? std::min(1.0, double(limit) / edge)
                                                                     : 1.0;
                           const auto sideOf = [&](int was) {
                               const int plain = std::max(1, int(std::lround(was * factor)));
                               const int side = powerOfTwo(plain, sides);
                               return limit > 0 && side > limit ? int(std::bit_floor(unsigned(limit))) : side;
                           };
                           const int width = sideOf(image->width), height = sideOf(image->height);
                           before += texture::memoryOf({image->width, image->height});
                           after += texture::memoryOf({width, height});
                           if (width == image->width && height == image->height) return nullptr;
                           context.note(fmt::format("{}: {} × {} → {} × {} px", image->name, image->width,
                                                    image->height, width, height));
                           facts.push_back({{"name", image->name},
                                            {"before", {image->width, image->height}},
                                            {"after", {width, height}}});
                           auto made = texture::pictureFromPixels(
                               image->name, texture::resized(*texture::pixelsOf(image), width, height, kind),
                               image->hasAlpha());
                           if (width < image->width || height < image->height) coarser.insert(made.get());
                           return made;
                       });
    if (changed == 0 && context.shortfall.empty()) context.note("every picture is small enough");
    if (changed > 0) context.note(fmt::format("{} → {} of memory", showBytes(before), showBytes(after)));
    if (!coarser.empty())
        for (const auto& [image, length] : uv::pixelLengths(out))
            if (coarser.contains(out.images[std::size_t(image)].get()))
                context.lost = std::max(context.lost, length);
    context.facts["pictures"] = std::move(facts);
    return out;
}

} // namespace zl::steps
