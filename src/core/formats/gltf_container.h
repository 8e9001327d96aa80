#pragma once
#include "core/files/source_file.h"
#include "core/formats/tinygltf.h"

#include <string>
#include <string_view>

namespace zl::formats {

/// A glTF or GLB file taken apart: its JSON as tinygltf holds it, buffers read, pictures still encoded.
struct GltfContainer {
    tinygltf::Model content;
    std::string warning;
};

/// Throws Error for what is no glTF 2.0, names a file that is missing, or needs an extension that is not
/// known here; the error says which. Offsets, counts and references are not checked: GltfData does that.
GltfContainer openGltf(files::SourceFile& source);

/// Whether all that a file says by this extension comes into the model.
bool keepsExtension(std::string_view name);

} // namespace zl::formats
