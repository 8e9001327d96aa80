#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

#include <functional>

namespace zl::geometry {

// Objects taken apart and put together. Each leaves every triangle where it is in world space, keeps names
// where there is one to keep, and follows node numbers in skins and clips.

using NodeTest = std::function<bool(const Node&)>;

enum class SplitBy { LoosePart, Material };

/// Gives each loose part (triangles that share no corner by place), or each material, of the chosen objects
/// an object of its own beside the first, named after it with a number or the material's name; below it where
/// a clip moves it or bones hang on it, so that all of it moves alike. Keys of morph weights are given to
/// each.
Model splitObjects(const Model& model, SplitBy by, const NodeTest& chosen, const Progress& progress = {});

/// The chosen nodes become objects at the top, out of their groups, staying in place.
Model liftedOut(const Model& model, const NodeTest& chosen);

/// The chosen objects as one, called `name` (that of the first when empty), at the first's place, with all
/// their attributes, materials and morph targets. Left out are objects on bones, for bones of several skins
/// do not fit into one, those that are moved otherwise than the first, and those whose morph weights a clip
/// drives. Nothing happens to fewer than two. `notes`, when given, receives what was left out and why.
Model joinedObjects(const Model& model, const NodeTest& chosen, const std::string& name,
                    std::vector<std::string>* notes = nullptr);

/// Takes out nodes that show nothing: `empty` ones with nothing below, and wrappers whose children move up
/// with their place kept. Bones and animated nodes stay. `removed`, when given, receives which went.
Model withoutWrappers(const Model& model, std::vector<int>* removed = nullptr);

/// The model without the nodes that `gone` marks; none of them may have children left. Meshes that no node
/// shows go too.
Model withoutNodes(const Model& model, const std::vector<char>& gone);

} // namespace zl::geometry
