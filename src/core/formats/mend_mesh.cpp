#include "core/formats/mend_mesh.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/utf8.h"
#include "core/model/finite.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::formats {

namespace {

void checkLengths(const Mesh& mesh) {
    const std::size_t n = mesh.positions.size();
    const auto check = [&](std::size_t length, std::string_view what) {
        if (length != 0 && length != n)
            throw Error(fmt::format("has {} {} for {} corners", length, what, n), asUtf8(mesh.name),
                        "Export the model again.");
    };
    check(mesh.normals.size(), "normals");
    check(mesh.tangents.size(), "tangents");
    for (const auto& set : mesh.uvSets) check(set.size(), "UVs");
    check(mesh.colours.size(), "colours");
    check(mesh.joints.size(), "joints");
    check(mesh.weights.size(), "weights");
    for (const MorphTarget& morph : mesh.morphs) {
        check(morph.positions.size(), "morph offsets");
        check(morph.normals.size(), "morph normals");
    }
    if (mesh.indices.size() % 3 != 0)
        throw Error("has indices that do not make whole triangles", asUtf8(mesh.name));
}

std::string countOf(std::size_t triangles) {
    return showCount(static_cast<long long>(triangles), "triangle", "triangles");
}

void coverAll(Mesh& mesh) {
    if (!mesh.surfaces.empty()) mesh.surfaces.resize(mesh.triangleCount(), -1);
    std::size_t covered = 0;
    bool whole = true;
    for (const MaterialRun& run : mesh.runs) {
        whole &= run.firstTriangle == covered;
        covered += run.triangleCount;
    }
    if (whole && covered == mesh.triangleCount()) return;
    mesh.runs = {{0, static_cast<std::uint32_t>(mesh.triangleCount()),
                  mesh.runs.empty() ? -1 : mesh.runs[0].material}};
}

/// Attributes that are no numbers become something usual; corners are another matter.
void mendAttributes(Mesh& mesh, std::vector<std::string>& warnings) {
    const auto mend = [&](auto& values, const auto& usual, std::string_view what) {
        std::size_t odd = 0;
        for (auto& value : values)
            if (!isFinite(value)) value = usual, ++odd;
        if (odd > 0) warnings.push_back(fmt::format("{} {} are no numbers (NaN or infinite)", odd, what));
    };
    mend(mesh.normals, glm::vec3(0, 1, 0), "normals");
    mend(mesh.tangents, glm::vec4(1, 0, 0, 1), "tangents");
    for (auto& set : mesh.uvSets) mend(set, glm::vec2(0), "UVs");
    mend(mesh.colours, glm::vec4(1), "colours");
    mend(mesh.weights, glm::vec4(0), "bone weights");
    for (MorphTarget& morph : mesh.morphs) {
        morph.positions.resize(mesh.positions.size(), glm::vec3(0)); // a target may move nothing at all
        mend(morph.positions, glm::vec3(0), "morph offsets");
        mend(morph.normals, glm::vec3(0), "morph normals");
    }
    if (mesh.joints.empty() != mesh.weights.empty()) {
        mesh.joints.clear(), mesh.weights.clear();
        warnings.emplace_back("bones without weights, or weights without bones, are left out");
    }
}

/// Only usable corners, and the triangles that stand on three of them.
Mesh onUsableCorners(const Mesh& mesh, std::vector<std::string>& warnings) {
    const std::size_t n = mesh.positions.size();
    std::size_t outOfRange = 0, notFinite = 0;
    const auto wear = triangleWear(mesh);
    std::vector<std::uint32_t> indices;
    std::vector<Wear> kept;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const std::uint32_t* c = &mesh.indices[3 * t];
        if (c[0] >= n || c[1] >= n || c[2] >= n) {
            ++outOfRange;
        } else if (!isFinite(mesh.positions[c[0]]) || !isFinite(mesh.positions[c[1]]) ||
                   !isFinite(mesh.positions[c[2]])) {
            ++notFinite;
        } else {
            indices.insert(indices.end(), c, c + 3);
            kept.push_back(wear[t]);
        }
    }
    std::vector<char> used(n, indices.empty() ? 1 : 0);
    for (const std::uint32_t i : indices) used[i] = 1;
    std::vector<std::uint32_t> keep, newIndex(n, ~0u);
    std::size_t stray = 0; // nobody sees them, and each size and floor would be measured by them
    for (std::uint32_t i = 0; i < n; ++i) {
        if (!isFinite(mesh.positions[i])) continue;
        if (!used[i]) {
            ++stray;
            continue;
        }
        newIndex[i] = static_cast<std::uint32_t>(keep.size());
        keep.push_back(i);
    }
    if (outOfRange == 0 && notFinite == 0 && keep.size() == n) return mesh;
    for (std::uint32_t& i : indices) i = newIndex[i];
    if (outOfRange > 0)
        warnings.push_back(fmt::format("left out {}: no such corners in the file", countOf(outOfRange)));
    if (notFinite > 0)
        warnings.push_back(
            fmt::format("left out {}: corners that are not numbers (NaN or infinite)", countOf(notFinite)));
    else if (keep.size() + stray < n)
        warnings.emplace_back("left out corners that are not numbers (NaN or infinite)");
    if (stray > 0)
        warnings.push_back(fmt::format("left out {} that no face stands on",
                                       showCount(static_cast<long long>(stray), "corner", "corners")));
    return withVertices(mesh, keep, std::move(indices), kept);
}

} // namespace

bool hasStrayCorners(const Mesh& mesh) {
    if (mesh.indices.empty()) return false;
    std::vector<char> used(mesh.positions.size());
    for (const std::uint32_t i : mesh.indices)
        if (i < used.size()) used[i] = 1;
    return std::ranges::find(used, 0) != used.end();
}

Mesh mendedMesh(Mesh mesh, std::vector<std::string>& warnings) {
    checkLengths(mesh);
    coverAll(mesh); // first, for the other mends trust the runs
    mendAttributes(mesh, warnings);
    return onUsableCorners(mesh, warnings);
}

} // namespace zl::formats
