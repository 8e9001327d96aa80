#pragma once
#include "core/model/model.h"

#include <pugixml.hpp>

#include <string>
#include <vector>

/// Bones and clips of a COLLADA 1.4.1 document. Morph targets are left out although the format has a word for
/// them: widely used readers lose the whole mesh over it.
namespace zl::formats::collada {

/// Whether the node's mesh hangs on bones, as a Model can promise it and the format can say it.
bool hangsOnBones(const Model& model, const Node& node);
/// The id of the skin through which such a node shows its mesh.
std::string skinId(std::size_t node);

/// Adds the skins of all nodes whose meshes hang on bones.
void writeSkins(pugi::xml_node root, const Model& model);

/// Adds every clip as keyed matrices of the nodes that it moves; `rootMatrix` stands before those of nodes
/// without a parent, as in the scene.
void writeClips(pugi::xml_node root, const Model& model, const glm::dmat4& rootMatrix);

/// What of the model's motion those leave out, in words for the user.
std::vector<std::string> droppedMotion(const Model& model);

} // namespace zl::formats::collada
