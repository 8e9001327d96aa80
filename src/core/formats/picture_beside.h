#pragma once
#include "core/files/source_file.h"
#include "core/model/image.h"

namespace zl::formats {

/// Reads a picture beside a model without decoding it; throws Error as pictureFromBytes() does.
std::shared_ptr<const Image> pictureBeside(const files::SourceFile& source,
                                           const files::SourceFile::Beside& file);

} // namespace zl::formats
