#pragma once
#include "core/model/model.h"

#include <functional>

namespace zl::uv {

/// Marks of triangles by node; an empty list for nodes of which none is marked (as selection::Chosen has
/// them).
using MarkedFaces = std::vector<std::vector<char>>;

/// What becomes of the places on a material's leading picture, in UV squares, for triangles of a node.
using UvMap = std::function<glm::dmat3(int node, int material)>;

/// The model with the UVs of marked triangles moved: every UV set that a role of their material uses is
/// changed so that what its pictures show moves as `map` moves it, whatever placement the material has.
/// Corners that marked triangles share with others become two. Tangents of changed meshes go, for they follow
/// the UVs. Triangles without UVs stay as they are. Throws Error where a placement cannot be turned back
/// (a scale of 0).
Model withMovedUvs(const Model& model, const MarkedFaces& marked, const UvMap& map);

} // namespace zl::uv
