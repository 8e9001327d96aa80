#include "core/steps/picture_kind.h"

#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

namespace zl::steps {

Model PictureKind::apply(const Model& in, StepContext& context) const {
    Model out = in;
    const texture::PictureFormat& format = texture::pictureFormat(kinds[std::size_t(kind)].id);
    const int changed = changePictures(
        out, of, roles, context.progress,
        [&](const std::shared_ptr<const Image>& image,
            texture::PixelKind pixelKind) -> std::shared_ptr<const Image> {
            if (image->format == format.id) return nullptr;
            const std::string stem = image->name.substr(0, image->name.rfind('.'));
            auto bytes = format.write(*texture::pixelsOf(image), image->hasAlpha(), pixelKind);
            const std::size_t size = bytes.size();
            auto made = texture::pictureFromBytes(stem + std::string(format.extension), std::move(bytes));
            context.note(fmt::format("{}: {}, {}", made->name, format.name, showBytes(double(size))));
            if (image->hasAlpha() && !made->hasAlpha())
                context.fellShort(fmt::format("the alpha of {} is lost", image->name));
            return made;
        });
    if (changed == 0) context.note("every picture is of that kind");
    return out;
}

} // namespace zl::steps
