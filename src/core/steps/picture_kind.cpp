#include "core/steps/picture_kind.h"

#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

namespace zl::steps {

namespace {

/// By how much channels differ, of 255: on the mean of all pixels, and at most.
std::string differenceOf(const Pixels& before, const Pixels& after, bool alpha) {
    double sum = 0;
    int most = 0;
    const std::size_t channels = alpha ? 4 : 3;
    for (std::size_t p = 0; p < before.rgba.size(); p += 4)
        for (std::size_t k = 0; k < channels; ++k) {
            const int by = std::abs(before.rgba[p + k] - after.rgba[p + k]);
            sum += by, most = std::max(most, by);
        }
    if (most == 0) return "nothing lost";
    return fmt::format("off by {} of 255 on the mean, {} at most",
                       showNumber(sum / double(before.rgba.size() / 4 * channels), 2), most);
}

} // namespace

Model PictureKind::apply(const Model& in, StepContext& context) const {
    Model out = in;
    const texture::PictureFormat& format = texture::pictureFormat(kinds[std::size_t(kind)].id);
    const int changed = changePictures(
        out, of, roles, context.progress,
        [&](const std::shared_ptr<const Image>& image,
            texture::PixelKind pixelKind) -> std::shared_ptr<const Image> {
            if (image->format == format.id) return nullptr;
            const std::string stem = image->name.substr(0, image->name.rfind('.'));
            const auto before = texture::pixelsOf(image);
            auto bytes = format.write(*before, image->hasAlpha(), pixelKind);
            const std::size_t size = bytes.size();
            auto made = texture::pictureFromBytes(stem + std::string(format.extension), std::move(bytes));
            context.note(fmt::format("{}: {}, {}, {}", made->name, format.name, showBytes(double(size)),
                                     differenceOf(*before, *texture::pixelsOf(made), image->hasAlpha())));
            if (image->hasAlpha() && !made->hasAlpha())
                context.fellShort(fmt::format("the alpha of {} is lost", image->name));
            return made;
        });
    if (changed == 0) context.note("every picture is of that kind");
    return out;
}

} // namespace zl::steps
