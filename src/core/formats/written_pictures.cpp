#include "core/formats/written_pictures.h"

#include "core/base/unique_names.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"

#include <fmt/format.h>

namespace zl::formats {

WrittenPictures writtenPictures(const Model& model, const std::string& folder) {
    WrittenPictures out;
    // The extension belongs behind the number, so names are told apart with it.
    UniqueNames taken([](const std::string& name, int number) {
        const std::size_t dot = name.rfind('.');
        return fmt::format("{}-{}{}", name.substr(0, dot), number, name.substr(dot));
    });
    for (const int image : usedImages(model)) {
        const Image& picture = *model.images[image];
        const std::string extension(texture::pictureFormat(picture.format).extension);
        const std::string name =
            taken.made(fileNameFrom(std::filesystem::path(picture.name).stem().string()) + extension);
        out.names[image] = folder + name;
        out.files.push_back({folder + name, *texture::encodedOf(model.images[image])});
    }
    return out;
}

} // namespace zl::formats
