#pragma once
#include "core/files/source_file.h"
#include "core/model/model.h"

#include <filesystem>

struct aiScene;

namespace zl::formats {

/// What Assimp read, as a Model in the library's own numbers and axes; the frame is the caller's to set.
/// `path` is the file's, beside which pictures are looked for. Throws Error for a bone that is no node.
Model assimpScene(const aiScene& scene, files::SourceFile& source);

} // namespace zl::formats
