#pragma once
#include "core/model/model.h"

#include <functional>

namespace zl::geometry {

/// Axis-aligned bounds; empty until something is added.
struct Bounds {
    glm::dvec3 min{1e300};
    glm::dvec3 max{-1e300};

    bool empty() const { return min.x > max.x; }
    void add(const glm::dvec3& point) {
        min = glm::min(min, point);
        max = glm::max(max, point);
    }
    void add(const Bounds& other) {
        min = glm::min(min, other.min);
        max = glm::max(max, other.max);
    }
    /// Zero for empty bounds.
    glm::dvec3 size() const { return empty() ? glm::dvec3(0.0) : max - min; }
    glm::dvec3 centre() const { return empty() ? glm::dvec3(0.0) : (min + max) * 0.5; }
};

/// Calls `visit(node index, mesh, node-to-world matrix)` for every node that shows a mesh.
void forEachShownMesh(
    const Model& model,
    const std::function<void(int node, const Mesh& mesh, const glm::dmat4& toWorld)>& visit);

/// Bounds in metres of every corner that a shown mesh has.
Bounds worldBounds(const Model& model);
/// Bounds in the file's own numbers: what worldBounds would be without placement.
Bounds fileBounds(const Model& model);
Bounds meshBounds(const Mesh& mesh, const glm::dmat4& matrix = glm::dmat4(1.0));

/// What takes normals along when `linear` takes positions: its cofactors, which are the inverse transpose but
/// for a length that unit normals lose anyway, and which exist for a flattening matrix too.
glm::dmat3 normalMatrixOf(const glm::dmat3& linear);

/// The mesh with `matrix` put into its positions, normals (by cofactors), tangents and morphs. Under a
/// mirroring matrix every triangle is turned round, so that front faces stay in front.
Mesh transformed(const Mesh& mesh, const glm::dmat4& matrix);

/// The first UV set as pictures are looked up: that which each part's material names (the leading one of its
/// pictures), with the placement put into it. A corner that parts with different placements share becomes one
/// for each; corners that no triangle uses go then.
Mesh withPlacedUvs(Mesh mesh, const std::vector<Material>& materials);

/// All shown meshes as one in world space (UVs with their placement): positions, normals (when every mesh has
/// them), first UV set (zero where a mesh has none), parts by material. Clips and skins stay behind.
/// `nodeOfTriangle`, when given, receives the node that each triangle came from.
Mesh flattened(const Model& model, std::vector<int>* nodeOfTriangle = nullptr);

} // namespace zl::geometry
