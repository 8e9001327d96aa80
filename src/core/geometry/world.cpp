#include "core/geometry/world.h"

#include "core/geometry/corners_apart.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_reduce.h>

#include <cmath>
#include <limits>

namespace zl::geometry {

void forEachShownMesh(const Model& model,
                      const std::function<void(int, const Mesh&, const glm::dmat4&)>& visit) {
    const auto world = worldMatrices(model);
    for (std::size_t i = 0; i < model.nodes.size(); ++i)
        if (model.nodes[i].isShown())
            visit(static_cast<int>(i), *model.meshes[model.nodes[i].mesh], world[i]);
}

namespace {

/// Whether a matrix takes every axis onto an axis, so that a box stays one.
bool keepsBoxes(const glm::dmat4& m) {
    for (int r = 0; r < 3; ++r) {
        int used = 0;
        for (int c = 0; c < 3; ++c) used += m[c][r] != 0;
        if (used > 1) return false;
    }
    return m[0][3] == 0 && m[1][3] == 0 && m[2][3] == 0 && m[3][3] == 1;
}

template <class Points>
Points boundsOf(const std::vector<glm::vec3>& positions, const Points& none, const auto& add) {
    using Range = tbb::blocked_range<std::size_t>;
    return tbb::parallel_reduce(
        Range(0, positions.size(), 1 << 15), none,
        [&](const Range& range, Points points) {
            for (std::size_t i = range.begin(); i != range.end(); ++i) add(points, positions[i]);
            return points;
        },
        [](Points a, const Points& b) {
            a.min = glm::min(a.min, b.min), a.max = glm::max(a.max, b.max);
            return a;
        });
}

} // namespace

Bounds meshBounds(const Mesh& mesh, const glm::dmat4& matrix) {
    if (!keepsBoxes(matrix))
        return boundsOf(mesh.positions, Bounds{}, [&](Bounds& bounds, const glm::vec3& p) {
            bounds.add(glm::dvec3(matrix * glm::dvec4(p, 1.0)));
        });
    // Of the mesh's own numbers, which takes a fifth of the time; the box then goes where its corners go.
    struct Box {
        glm::vec3 min{std::numeric_limits<float>::max()}, max{std::numeric_limits<float>::lowest()};
    };
    const Box own = boundsOf(mesh.positions, Box{}, [](Box& box, const glm::vec3& p) {
        box.min = glm::min(box.min, p), box.max = glm::max(box.max, p);
    });
    Bounds bounds;
    if (mesh.positions.empty()) return bounds;
    bounds.add(glm::dvec3(matrix * glm::dvec4(own.min, 1.0)));
    bounds.add(glm::dvec3(matrix * glm::dvec4(own.max, 1.0)));
    return bounds;
}

Bounds worldBounds(const Model& model) {
    Bounds bounds;
    forEachShownMesh(model,
                     [&](int, const Mesh& mesh, const glm::dmat4& m) { bounds.add(meshBounds(mesh, m)); });
    return bounds;
}

Bounds fileBounds(const Model& model) {
    Model plain = model;
    plain.placement = glm::dmat4(1.0);
    return worldBounds(plain);
}

glm::dmat3 normalMatrixOf(const glm::dmat3& linear) {
    const double side = glm::determinant(linear) < 0 ? -1 : 1;
    return {side * glm::cross(linear[1], linear[2]), side * glm::cross(linear[2], linear[0]),
            side * glm::cross(linear[0], linear[1])};
}

Mesh transformed(const Mesh& mesh, const glm::dmat4& matrix) {
    Mesh out = mesh;
    const glm::dmat3 linear(matrix);
    const bool mirrors = glm::determinant(linear) < 0.0;
    const glm::dmat3 normalMatrix = normalMatrixOf(linear);
    tbb::parallel_for(std::size_t(0), out.positions.size(), [&](std::size_t i) {
        out.positions[i] = glm::vec3(matrix * glm::dvec4(mesh.positions[i], 1.0));
        if (!out.normals.empty()) {
            const glm::dvec3 n = normalMatrix * glm::dvec3(mesh.normals[i]);
            const double length = glm::length(n);
            if (length > 0) out.normals[i] = glm::vec3(n / length);
        }
        if (!out.tangents.empty()) {
            const glm::dvec3 t = linear * glm::dvec3(mesh.tangents[i]);
            const double length = glm::length(t);
            if (length > 0)
                out.tangents[i] =
                    glm::vec4(glm::vec3(t / length), mirrors ? -mesh.tangents[i].w : mesh.tangents[i].w);
        }
    });
    for (MorphTarget& morph : out.morphs) {
        for (glm::vec3& p : morph.positions) p = glm::vec3(linear * glm::dvec3(p));
        const double length = std::cbrt(std::abs(glm::determinant(linear)));
        const double scale =
            length > 0 ? 1 / (length * length) : 0; // offsets keep their share of a unit normal
        for (glm::vec3& n : morph.normals) n = glm::vec3(normalMatrix * glm::dvec3(n) * scale);
    }
    if (mirrors)
        for (std::size_t t = 0; t + 2 < out.indices.size(); t += 3)
            std::swap(out.indices[t + 1], out.indices[t + 2]);
    return out;
}

Mesh withPlacedUvs(Mesh mesh, const std::vector<Material>& materials) {
    if (mesh.uvSets.empty()) return mesh;
    const auto useOf = [&](int material) -> const PictureUse* {
        const PictureUse* use = material < 0 ? nullptr : materials[std::size_t(material)].leading();
        return use && (!use->placement.isPlain() || use->uvSet != 0) ? use : nullptr;
    };
    std::vector<const PictureUse*> ways{nullptr}; // that UVs lie, each once; the first is as they are
    std::vector<int> wayOf(mesh.triangleCount(), 0);
    for (const MaterialRun& run : mesh.runs) {
        const PictureUse* use = useOf(run.material);
        const auto same = std::ranges::find_if(ways, [&](const PictureUse* known) {
            return known == use ||
                   (known && use && known->placement == use->placement && known->uvSet == use->uvSet);
        });
        const auto way = int(same - ways.begin());
        if (same == ways.end()) ways.push_back(use);
        std::fill_n(wayOf.begin() + run.firstTriangle, run.triangleCount, way);
    }
    if (ways.size() == 1) return mesh;
    std::vector<int> wayOfCorner(mesh.vertexCount(), -1);
    bool shared = false;
    for (std::size_t c = 0; c < mesh.indices.size(); ++c) {
        int& way = wayOfCorner[mesh.indices[c]];
        shared |= way >= 0 && way != wayOf[c / 3];
        way = wayOf[c / 3];
    }
    if (shared) {
        mesh = cornersApart(mesh, wayOf, triangleWear(mesh));
        wayOfCorner.assign(mesh.vertexCount(), -1);
        for (std::size_t c = 0; c < mesh.indices.size(); ++c) wayOfCorner[mesh.indices[c]] = wayOf[c / 3];
    }
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        const PictureUse* use = wayOfCorner[v] < 0 ? nullptr : ways[std::size_t(wayOfCorner[v])];
        if (!use) continue;
        const auto set = std::size_t(use->uvSet);
        mesh.uvSets[0][v] = use->placement.of(mesh.uvSets[set < mesh.uvSets.size() ? set : 0][v]);
    }
    return mesh;
}

Mesh flattened(const Model& model, std::vector<int>* nodeOfTriangle) {
    Mesh out;
    bool allNormals = true, anyUv = false;
    forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4&) {
        allNormals &= !mesh.normals.empty();
        anyUv |= !mesh.uvSets.empty();
    });
    if (anyUv) out.uvSets.emplace_back();
    if (nodeOfTriangle) nodeOfTriangle->clear();
    forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& matrix) {
        const Mesh placed = withPlacedUvs(transformed(mesh, matrix), model.materials);
        const auto firstVertex = static_cast<std::uint32_t>(out.positions.size());
        out.positions.insert(out.positions.end(), placed.positions.begin(), placed.positions.end());
        if (allNormals) out.normals.insert(out.normals.end(), placed.normals.begin(), placed.normals.end());
        if (anyUv) {
            auto& uv = out.uvSets[0];
            if (placed.uvSets.empty())
                uv.resize(out.positions.size(), glm::vec2(0.0f));
            else
                uv.insert(uv.end(), placed.uvSets[0].begin(), placed.uvSets[0].end());
        }
        const std::size_t at = out.indices.size();
        out.indices.resize(at + placed.indices.size());
        for (std::size_t i = 0; i < placed.indices.size(); ++i)
            out.indices[at + i] = placed.indices[i] + firstVertex;
        dressEnd(out, placed);
        if (nodeOfTriangle) nodeOfTriangle->resize(out.triangleCount(), node);
    });
    return out;
}

} // namespace zl::geometry
