#pragma once
#include "core/formats/tinygltf.h"
#include "core/model/model.h"

#include <functional>

namespace zl::formats {

// Avatars: VRM 1.0 (VRMC_vrm, VRMC_springBone, VRMC_node_constraint), an open standard on glTF 2.0. Version 0
// (the extension VRM) is read.

/// Where things of a file went in the model that was read from it.
struct GltfPlaces {
    const tinygltf::Model& source;
    const std::vector<int>& nodes; ///< by the file's node: the model's; -1 for what is in no scene
    std::function<std::shared_ptr<const Image>(int image)> picture;
};

/// Gives the model its set-up where the file has one. What refers to nothing, or says what the standard does
/// not know, is left out and said in `dropped`.
void readAvatar(const GltfPlaces& from, Model& model);

/// The parts of it, for files of version 1.0 and of version 0.
void readVrm1(const nlohmann::json& vrm, const GltfPlaces& from, Model& model);
void readVrm0(const nlohmann::json& vrm, const GltfPlaces& from, Model& model);
void readSprings(const nlohmann::json& springs, const GltfPlaces& from, Model& model, Avatar& avatar);
void readConstraints(const GltfPlaces& from, Model& model, Avatar& avatar);

/// Gives a key to a node of a model that was just read: one more than its index, so that keys are found
/// without a search.
int keyGiven(Model& model, int node);

/// The key of the node that a file means by a number; 0 where it is not there.
int keyIn(const nlohmann::json& object, const char* member, const GltfPlaces& from, Model& model);

/// Puts a model's set-up into a glTF whose nodes and materials are the model's own, in their order. `dropped`
/// receives what refers to parts that are gone. `image` gives a picture's number among the file's images.
void writeAvatar(const Model& model, tinygltf::Model& to,
                 const std::function<int(const std::shared_ptr<const Image>&)>& image,
                 std::vector<std::string>* dropped);

} // namespace zl::formats
