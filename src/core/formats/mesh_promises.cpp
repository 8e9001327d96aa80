#include "core/formats/mesh_promises.h"

#include "core/base/error.h"
#include "core/base/units.h"

#include <fmt/format.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

#include <cmath>

namespace zl::formats {

namespace {

/// Whether `holds(i)` for every i below `count`, asked in parallel.
bool holdsForAll(std::size_t count, const auto& holds) {
    using Range = tbb::blocked_range<std::size_t>;
    return tbb::parallel_reduce(
        Range(0, count, 1 << 16), true,
        [&](const Range& range, bool all) {
            for (std::size_t i = range.begin(); all && i != range.end(); ++i) all = holds(i);
            return all;
        },
        std::logical_and());
}

bool finite(const glm::vec3& p) {
    return std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(p.z);
}

void checkLengths(const Mesh& mesh) {
    const std::size_t n = mesh.positions.size();
    const auto check = [&](std::size_t length, std::string_view what) {
        if (length != 0 && length != n)
            throw Error(fmt::format("has {} {} for {} corners", length, what, n), mesh.name,
                        "Export the model again.");
    };
    check(mesh.normals.size(), "normals");
    check(mesh.tangents.size(), "tangents");
    for (const auto& set : mesh.uvSets) check(set.size(), "UVs");
    check(mesh.colours.size(), "colours");
    check(mesh.joints.size(), "joints");
    check(mesh.weights.size(), "weights");
    for (const MorphTarget& morph : mesh.morphs) check(morph.positions.size(), "morph offsets");
    if (mesh.indices.size() % 3 != 0) throw Error("has indices that do not make whole triangles", mesh.name);
}

bool cornersKeepPromises(const Mesh& mesh) {
    const std::size_t n = mesh.positions.size();
    return holdsForAll(n, [&](std::size_t i) { return finite(mesh.positions[i]); }) &&
           holdsForAll(mesh.indices.size(), [&](std::size_t i) { return mesh.indices[i] < n; });
}

bool partsCoverAll(const Mesh& mesh) {
    std::size_t covered = 0;
    for (const MeshPart& part : mesh.parts) {
        if (part.firstTriangle != covered) return false;
        covered += part.triangleCount;
    }
    return covered == mesh.triangleCount();
}

std::string countOf(std::size_t triangles) {
    return showCount(static_cast<long long>(triangles), "triangle", "triangles");
}

/// Only usable corners, and the triangles that stand on three of them.
Mesh onUsableCorners(const Mesh& mesh, std::vector<std::string>& warnings) {
    const std::size_t n = mesh.positions.size();
    std::size_t outOfRange = 0, notFinite = 0;
    const auto materials = triangleMaterials(mesh);
    std::vector<std::uint32_t> indices;
    std::vector<int> kept;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const std::uint32_t* c = &mesh.indices[3 * t];
        if (c[0] >= n || c[1] >= n || c[2] >= n) {
            ++outOfRange;
        } else if (!finite(mesh.positions[c[0]]) || !finite(mesh.positions[c[1]]) ||
                   !finite(mesh.positions[c[2]])) {
            ++notFinite;
        } else {
            indices.insert(indices.end(), c, c + 3);
            kept.push_back(materials[t]);
        }
    }
    std::vector<std::uint32_t> keep, newIndex(n, ~0u);
    for (std::uint32_t i = 0; i < n; ++i)
        if (finite(mesh.positions[i])) {
            newIndex[i] = static_cast<std::uint32_t>(keep.size());
            keep.push_back(i);
        }
    for (std::uint32_t& i : indices) i = newIndex[i];
    if (outOfRange > 0)
        warnings.push_back(fmt::format("left out {}: no such corners in the file", countOf(outOfRange)));
    if (notFinite > 0)
        warnings.push_back(
            fmt::format("left out {}: corners that are not numbers (NaN or infinite)", countOf(notFinite)));
    else if (keep.size() < n)
        warnings.emplace_back("left out corners that are not numbers (NaN or infinite)");
    return withVertices(mesh, keep, std::move(indices), kept);
}

} // namespace

bool keepsPromises(const Mesh& mesh) {
    checkLengths(mesh);
    return cornersKeepPromises(mesh) && partsCoverAll(mesh);
}

Mesh mendedMesh(Mesh mesh, std::vector<std::string>& warnings) {
    checkLengths(mesh);
    if (!partsCoverAll(mesh)) // first, for the other mend trusts them
        mesh.parts = {{0, static_cast<std::uint32_t>(mesh.triangleCount()),
                       mesh.parts.empty() ? -1 : mesh.parts[0].material}};
    return cornersKeepPromises(mesh) ? mesh : onUsableCorners(mesh, warnings);
}

} // namespace zl::formats
