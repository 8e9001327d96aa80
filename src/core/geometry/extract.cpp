#include "core/geometry/extract.h"

#include <span>

namespace zl::geometry {

namespace {

constexpr std::uint32_t nowhere = ~0u;

/// Triangles given by number, as a mesh. `newIndex` holds `nowhere` for every corner, before and after.
Mesh ofTriangles(const Mesh& mesh, const std::vector<Wear>& wear, std::span<const std::uint32_t> triangles,
                 std::vector<std::uint32_t>& newIndex) {
    std::vector<std::uint32_t> indices, keep;
    std::vector<Wear> kept;
    indices.reserve(3 * triangles.size());
    kept.reserve(triangles.size());
    for (const std::uint32_t t : triangles) {
        kept.push_back(wear[t]);
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t old = mesh.indices[3 * std::size_t(t) + k];
            if (newIndex[old] == nowhere) {
                newIndex[old] = static_cast<std::uint32_t>(keep.size());
                keep.push_back(old);
            }
            indices.push_back(newIndex[old]);
        }
    }
    for (const std::uint32_t old : keep) newIndex[old] = nowhere;
    return withVertices(mesh, keep, std::move(indices), kept);
}

} // namespace

Mesh extracted(const Mesh& mesh, const std::vector<Wear>& wear,
               const std::function<bool(std::size_t)>& wanted) {
    std::vector<std::uint32_t> triangles, newIndex(mesh.vertexCount(), nowhere);
    for (std::uint32_t t = 0; t < mesh.triangleCount(); ++t)
        if (wanted(t)) triangles.push_back(t);
    return ofTriangles(mesh, wear, triangles, newIndex);
}

Mesh inOwnOrder(const Mesh& mesh, const std::vector<std::uint32_t>& triangles) {
    std::vector<std::uint32_t> newIndex(mesh.vertexCount(), nowhere), keep, indices;
    for (const std::uint32_t t : triangles)
        for (std::size_t k = 0; k < 3; ++k) newIndex[mesh.indices[3 * std::size_t(t) + k]] = 0;
    for (std::uint32_t v = 0; v < newIndex.size(); ++v)
        if (newIndex[v] != nowhere) newIndex[v] = std::uint32_t(keep.size()), keep.push_back(v);
    indices.reserve(3 * triangles.size());
    for (const std::uint32_t t : triangles)
        for (std::size_t k = 0; k < 3; ++k) indices.push_back(newIndex[mesh.indices[3 * std::size_t(t) + k]]);
    const auto wear = triangleWear(mesh);
    std::vector<Wear> kept;
    kept.reserve(triangles.size());
    for (const std::uint32_t t : triangles) kept.push_back(wear[t]);
    Mesh out = withVertices(mesh, keep, std::move(indices), std::vector<Wear>(triangles.size()));
    dress(out, kept);
    return out;
}

std::vector<Mesh> takenApart(const Mesh& mesh, const std::vector<std::uint32_t>& group, std::size_t count,
                             const Progress& progress) {
    std::vector<std::uint32_t> start(count + 1, 0), sorted(group.size()),
        newIndex(mesh.vertexCount(), nowhere);
    for (const std::uint32_t g : group) ++start[g + 1];
    for (std::size_t g = 0; g < count; ++g) start[g + 1] += start[g];
    std::vector<std::uint32_t> fill(start.begin(), start.end() - 1);
    for (std::uint32_t t = 0; t < group.size(); ++t) sorted[fill[group[t]]++] = t;
    const auto wear = triangleWear(mesh);
    std::vector<Mesh> out;
    out.reserve(count);
    for (std::size_t g = 0; g < count; ++g) {
        if (g % 256 == 0) progress.report(double(g) / double(count));
        out.push_back(
            ofTriangles(mesh, wear, std::span(sorted).subspan(start[g], start[g + 1] - start[g]), newIndex));
    }
    return out;
}

} // namespace zl::geometry
