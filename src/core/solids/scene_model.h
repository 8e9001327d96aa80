#pragma once
#include "core/model/model.h"
#include "core/solids/scene.h"

namespace zl::solids {

/// What shows a solid: its mesh, about the solid's own middle, a run of triangles for each face.
struct Part {
    Number solid = 0;
    std::shared_ptr<const Mesh> mesh;
    std::vector<int> faces; ///< the Face of each run
};

/// The scene that a model shows. A model that shows other meshes is not this scene any more.
struct Shown {
    Scene scene;
    std::vector<Part> parts; ///< in the order of the solids' numbers
    bool lit = false;        ///< its pictures show the light of the scene, so no other is to fall on them
};

/// The pictures that a scene names, by name; one that is not there is left out with a warning.
using Pictures = std::map<std::string, std::shared_ptr<const Image>>;

/// The scene as a model: a node for each group, and one for each solid within its group. Faces that look
/// alike share a material. With `lit` its pictures show all light there is. Throws Error as demandScene()
/// does, and for one without a solid.
Model modelOf(Scene scene, const std::string& name, const Pictures& pictures = {}, bool lit = false);

/// A material that shows a picture as it is, whatever light there is.
Material litMaterial(const std::string& name, int image);

/// Null where the model is no scene of solids, or was one and was changed in another way since. Moved and
/// grown as a whole it is one still: node matrices say how.
const Shown* shownBy(const Model& model);

/// The node that shows a part of what shownBy() gives, in the order of the parts.
std::vector<int> nodesOf(const Model& model);

/// The files of pictures that it names, each once.
std::vector<std::string> picturesOf(const Scene& scene);

} // namespace zl::solids
