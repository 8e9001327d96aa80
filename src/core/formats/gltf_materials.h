#pragma once
#include "core/formats/tinygltf.h"
#include "core/model/model.h"

#include <functional>
#include <vector>

namespace zl::formats {

/// The materials of a glTF file, in its order, with their pictures by role: metal and roughness are channels
/// of one picture, and the alpha of the colour's picture is the opacity where the material says that it
/// counts. `images` are those of the model, into which `pictureOf` gives a texture's, -1 for none.
std::vector<Material> readGltfMaterials(const tinygltf::Model& source,
                                        const std::vector<std::shared_ptr<const Image>>& images,
                                        const std::function<int(int texture)>& pictureOf);

} // namespace zl::formats
