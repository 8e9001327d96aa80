#pragma once
#include "core/formats/tinygltf.h"
#include "core/model/model.h"

#include <functional>
#include <string>
#include <vector>

namespace zl::formats {

/// The materials of a glTF file, in its order.
struct GltfMaterials {
    std::vector<Material> materials;
    std::vector<int> uvSets; ///< for each, the TEXCOORD set that its pictures lie on
    std::vector<std::string> dropped;
};

/// A material here has one UV set and one placement (KHR_texture_transform) for all its pictures: those of
/// its colour picture, or of the first that it has. A picture that lies otherwise is dropped and told.
/// `pictureOf` gives a texture's picture as an index into Model::images, -1 for none.
GltfMaterials readGltfMaterials(const tinygltf::Model& source,
                                const std::function<int(int texture)>& pictureOf);

} // namespace zl::formats
