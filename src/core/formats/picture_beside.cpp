#include "core/formats/picture_beside.h"

#include "core/texture/picture_file.h"

namespace zl::formats {

std::shared_ptr<const Image> pictureBeside(const files::SourceFile& source,
                                           const files::SourceFile::Beside& file) {
    return texture::pictureFromBytes(file.name, std::string(source.bytes(file).text()));
}

} // namespace zl::formats
