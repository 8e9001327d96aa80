#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// How the triangles of a mesh hang together, by place (corners at equal places count as joined).
struct Topology {
    std::size_t openEdges = 0;           ///< edges with one triangle
    std::size_t nonManifoldEdges = 0;    ///< edges with three or more
    std::size_t disagreeingEdges = 0;    ///< two triangles that run along it in the same direction
    std::size_t degenerateTriangles = 0; ///< two equal corners, or no area
    std::size_t pieces = 0;              ///< parts that share no corner
    bool watertight = false;             ///< has triangles, and every edge has exactly two
};

Topology topologyOf(const Mesh& mesh);

/// Which piece each triangle belongs to (pieces share no corner), numbered from 0 in order of appearance.
/// `place` is as joinedPlaces gives it.
std::vector<std::uint32_t> pieceOfTriangle(const Mesh& mesh, const std::vector<std::uint32_t>& place,
                                           std::size_t* pieces = nullptr);

/// A directed edge of a triangle, by place. `key` is the same for both directions.
struct HalfEdge {
    std::uint64_t key;
    std::uint32_t triangle;
    bool forward; ///< from the lower place to the higher
};
/// All half edges of triangles without equal corners, sorted by key, then triangle.
std::vector<HalfEdge> sortedHalfEdges(const Mesh& mesh, const std::vector<std::uint32_t>& place);

} // namespace zl::geometry
