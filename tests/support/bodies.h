#pragma once
#include "core/geometry/clean.h"
#include "core/geometry/merge_meshes.h"
#include "core/geometry/solids.h"
#include "core/geometry/topology.h"
#include "core/geometry/world.h"

#include <catch2/catch.hpp>
#include <glm/gtc/constants.hpp>

namespace zl {

/// How far any corner stands out of any face's plane, as a share of the size: 0 for a convex body. By the
/// definition, with no help of what made it; faces that are lines have no plane.
inline double sticksOut(const Mesh& body) {
    const double size = glm::length(geometry::meshBounds(body).size());
    double most = 0;
    for (std::size_t t = 0; t < body.triangleCount(); ++t) {
        glm::dvec3 p[3];
        for (std::size_t k = 0; k < 3; ++k) p[k] = body.positions[body.indices[3 * t + k]];
        const glm::dvec3 normal = glm::cross(p[1] - p[0], p[2] - p[0]);
        if (glm::length(normal) < 1e-12 * size * size) continue;
        for (const glm::vec3& q : body.positions)
            most = std::max(most, glm::dot(glm::dvec3(q) - p[0], glm::normalize(normal)) / size);
    }
    return most;
}

inline Mesh boxes(std::initializer_list<std::pair<glm::dvec3, glm::dvec3>> list) {
    std::vector<Mesh> all;
    for (const auto& [least, most] : list) all.push_back(geometry::boxMesh(least, most));
    return geometry::merged(all);
}

/// A ring about Y, as fine as asked.
inline Mesh ring(double large, double small, int around, int across) {
    Mesh out;
    for (int i = 0; i < around; ++i)
        for (int k = 0; k < across; ++k) {
            const double a = 2 * glm::pi<double>() * i / around, b = 2 * glm::pi<double>() * k / across;
            const double r = large + small * std::cos(b);
            out.positions.emplace_back(r * std::cos(a), small * std::sin(b), r * std::sin(a));
        }
    const auto at = [&](int i, int k) { return std::uint32_t((i % around) * across + k % across); };
    for (int i = 0; i < around; ++i)
        for (int k = 0; k < across; ++k)
            for (const std::uint32_t v :
                 {at(i, k), at(i, k + 1), at(i + 1, k), at(i + 1, k), at(i, k + 1), at(i + 1, k + 1)})
                out.indices.push_back(v);
    out.runs = {{0, std::uint32_t(out.triangleCount()), -1}};
    return out;
}

inline void checkBody(const Mesh& body, std::size_t corners) {
    CHECK(body.vertexCount() <= corners);
    CHECK(sticksOut(body) < 1e-6);
    CHECK(geometry::signedVolume(body) > 0);
    CHECK(body.triangleCount() == 2 * body.vertexCount() - 4); // Euler, for a closed body of triangles
    CHECK(geometry::topologyOf(body).openEdges == 0);
}

} // namespace zl
