#pragma once
#include "core/model/mesh.h"

namespace zl::selection {

// Marks of triangles, one a triangle of one mesh, made more or fewer along how its triangles hang together.
// Corners at equal places count as one unless it says otherwise. Each takes about as long as the mesh is
// large.

/// What hangs together with the marked triangles.
std::vector<char> grownToLooseParts(const Mesh& mesh, std::vector<char> marks);
/// What is reached from the marked ones without crossing an edge bent by more than `angle` radians, or one
/// that not exactly two triangles share.
std::vector<char> grownToCreases(const Mesh& mesh, std::vector<char> marks, double angle);
/// What is reached from the marked ones across edges whose two ends lie at the same UVs on both sides. A mesh
/// without that set of UVs is one island a loose part.
std::vector<char> grownToIslands(const Mesh& mesh, std::vector<char> marks, std::size_t uvSet = 0);

/// With the triangles that touch a marked one in a corner.
std::vector<char> grown(const Mesh& mesh, const std::vector<char>& marks);
/// Without the triangles that touch one that is not marked. What ends at an open edge stays there.
std::vector<char> shrunk(const Mesh& mesh, const std::vector<char>& marks);
/// With a border that runs straighter: a triangle goes over to the other side when at least two of its
/// neighbours across edges are there.
std::vector<char> smoothed(const Mesh& mesh, const std::vector<char>& marks);

/// Who keeps a triangle all of whose corners lie on the border between marked and others.
enum class Border { AsChosen, Inside, Outside };
std::vector<char> withBorder(const Mesh& mesh, std::vector<char> marks, Border border);

} // namespace zl::selection
