#include "core/formats/written_pictures.h"

#include "core/base/unique_names.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"

namespace zl::formats {

WrittenPictures writtenPictures(const Model& model, const std::string& folder) {
    WrittenPictures out;
    UniqueNames taken = uniqueFileNames();
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

WrittenPictures picturesBeside(const Model& model, const WriteOptions& options) {
    if (options.written) return {options.written->names, {}};
    return writtenPictures(model, options.pictureFolder);
}

} // namespace zl::formats
