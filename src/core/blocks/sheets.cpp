#include "core/blocks/sheets.h"

#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/geometry/winding_number.h"

#include <algorithm>

namespace zl::blocks {

namespace {

constexpr double behind = 0.5, encloses = 0.75;
/// Of its area: a closed part's faces together face nowhere.
constexpr double closed = 1e-3;
constexpr std::size_t probes = 200;

Mesh partOf(const Mesh& mesh, const std::vector<std::size_t>& triangles) {
    Mesh out;
    for (const std::size_t t : triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            out.indices.push_back(std::uint32_t(out.positions.size()));
            out.positions.push_back(mesh.positions[mesh.indices[3 * t + k]]);
        }
    return out;
}

glm::dvec3 twiceNormal(const Mesh& mesh, std::size_t t) {
    const glm::dvec3 a(mesh.positions[mesh.indices[3 * t]]);
    return glm::cross(glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) - a,
                      glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]]) - a);
}

bool isSheet(const Mesh& mesh, const std::vector<std::size_t>& triangles) {
    glm::dvec3 sum(0);
    double area = 0;
    for (const std::size_t t : triangles)
        sum += twiceNormal(mesh, t), area += glm::length(twiceNormal(mesh, t));
    if (glm::length(sum) <= closed * area) return false;
    const geometry::WindingNumber winding(partOf(mesh, triangles));
    double within = 0, all = 0;
    const std::size_t stride = std::max<std::size_t>(1, triangles.size() / probes);
    for (std::size_t i = 0; i < triangles.size(); i += stride) {
        const std::size_t t = triangles[i];
        const glm::dvec3 normal = twiceNormal(mesh, t);
        const double own = glm::length(normal);
        if (!(own > 0)) continue;
        glm::dvec3 middle(0);
        for (std::size_t k = 0; k < 3; ++k)
            middle += glm::dvec3(mesh.positions[mesh.indices[3 * t + k]]) / 3.0;
        within += own * (winding.at(middle - normal / own * behind) >= encloses);
        all += own;
    }
    return within < all / 2;
}

} // namespace

Sides sidesOf(const Mesh& mesh, const Progress& progress) {
    std::size_t pieces = 0;
    const auto piece = geometry::pieceOfTriangle(mesh, geometry::joinedPlaces(mesh.positions, 0), &pieces);
    std::vector<std::vector<std::size_t>> of(pieces);
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) of[piece[t]].push_back(t);
    Sides out;
    out.bodies.positions = out.sheets.positions = mesh.positions;
    for (const auto& triangles : of) {
        progress.checkCancel();
        const bool sheet = isSheet(mesh, triangles);
        out.sheetParts += sheet;
        Mesh& to = sheet ? out.sheets : out.bodies;
        for (const std::size_t t : triangles)
            for (std::size_t k = 0; k < 3; ++k) to.indices.push_back(mesh.indices[3 * t + k]);
    }
    return out;
}

} // namespace zl::blocks
