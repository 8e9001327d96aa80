#pragma once
#include "core/formats/tinygltf.h"
#include "core/model/model.h"

#include <functional>
#include <map>
#include <string>
#include <vector>

namespace zl::formats {

/// Puts a model's materials with their textures and pictures into a glTF file. A picture that is held
/// otherwise than glTF wants it (opacity of its own, metal and roughness apart, gloss) is put together anew;
/// what glTF has no place for (height, specular colour, parts of one picture that lie on different UVs) is
/// told as dropped.
class GltfMaterialWriter {
public:
    /// Puts a picture's bytes, of the kind that `to.mimeType` says, where the file has its pictures, and says
    /// in `to` where that is.
    using PutBytes = std::function<void(tinygltf::Image& to, const std::string& bytes)>;

    GltfMaterialWriter(const Model& model, tinygltf::Model& out, PutBytes putBytes)
        : model_(model), out_(out), putBytes_(std::move(putBytes)) {}

    void write(std::vector<std::string>* dropped);

    /// A picture's number among the file's images.
    int image(const std::shared_ptr<const Image>& image);
    /// The number of a texture of it.
    int texture(const std::shared_ptr<const Image>& picture, const Sampler& as = {});

private:
    /// A picture with the use that says where it lies; no picture for none.
    struct Placed {
        std::shared_ptr<const Image> image;
        PictureUse use;
    };
    void writeMaterial(const Material& material);
    Placed plain(const Material& material, PictureRole role) const;
    Placed colour(const Material& material);
    Placed metalRough(const Material& material);
    Placed occlusion(const Material& material);
    void say(const Material& material, PictureRole role, const std::string& why = {});

    void point(auto& info, const Placed& picture);
    int sampler(const Sampler& sampler);

    const Model& model_;
    tinygltf::Model& out_;
    PutBytes putBytes_;
    std::vector<std::string>* dropped_ = nullptr;
    std::map<std::shared_ptr<const Image>, int> images_;       ///< as indices into the file's images
    std::map<std::string, std::shared_ptr<const Image>> made_; ///< by what they were put together from
    std::vector<Sampler> samplers_;                            ///< in the file's order
    std::map<std::pair<int, int>, int> textures_;              ///< by image and sampler
};

} // namespace zl::formats
