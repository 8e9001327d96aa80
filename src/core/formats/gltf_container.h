#pragma once
#include "core/formats/tinygltf.h"

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace zl::formats {

/// A glTF or GLB file taken apart: its JSON as tinygltf holds it, buffers read, pictures still encoded.
struct GltfContainer {
    tinygltf::Model content;
    std::string warning;
    std::vector<std::filesystem::path> asked; ///< every file beside the model that it names, there or not
};

/// Throws Error for what is no glTF 2.0, names a file that is missing, or needs an extension that is not
/// known here; the error says which. Offsets, counts and references are not checked: GltfData does that.
GltfContainer openGltf(const std::filesystem::path& path);

/// Whether all that a file says by this extension comes into the model.
bool keepsExtension(std::string_view name);

} // namespace zl::formats
