#include "core/geometry/normals.h"

#include "core/geometry/weld.h"

#include <tbb/parallel_for.h>

#include <cmath>

namespace zl::geometry {

glm::vec3 faceNormal(const Mesh& mesh, std::size_t triangle) {
    const glm::vec3& a = mesh.positions[mesh.indices[3 * triangle]];
    return glm::cross(mesh.positions[mesh.indices[3 * triangle + 1]] - a,
                      mesh.positions[mesh.indices[3 * triangle + 2]] - a);
}

Mesh withNormals(const Mesh& mesh, double creaseRadians, NormalWeight weight) {
    const std::size_t corners = mesh.indices.size();
    const auto place = joinedPlaces(mesh.positions, 0);
    std::vector<glm::vec3> face(mesh.triangleCount());
    std::vector<float> says(corners);
    tbb::parallel_for(std::size_t(0), face.size(), [&](std::size_t t) {
        // Double: a sliver's cross product underflows in single precision.
        const glm::dvec3 p[3] = {mesh.positions[mesh.indices[3 * t]], mesh.positions[mesh.indices[3 * t + 1]],
                                 mesh.positions[mesh.indices[3 * t + 2]]};
        const glm::dvec3 n = glm::cross(p[1] - p[0], p[2] - p[0]);
        const double length = glm::length(n);
        face[t] = length > 0 ? glm::vec3(n / length) : glm::vec3(0.0f);
        for (int k = 0; k < 3; ++k) {
            const glm::dvec3 u = p[(k + 1) % 3] - p[k], v = p[(k + 2) % 3] - p[k];
            const double angle = std::atan2(glm::length(glm::cross(u, v)), glm::dot(u, v));
            says[3 * t + k] = float((weight == NormalWeight::Area ? 1 : angle) *
                                    (weight == NormalWeight::Angle ? 1 : length));
        }
    });
    // Corners around each place.
    std::vector<std::uint32_t> start(mesh.positions.size() + 1, 0), around(corners);
    for (const std::uint32_t i : mesh.indices) ++start[place[i] + 1];
    for (std::size_t i = 1; i < start.size(); ++i) start[i] += start[i - 1];
    std::vector<std::uint32_t> fill(start.begin(), start.end() - 1);
    for (std::uint32_t c = 0; c < corners; ++c) around[fill[place[mesh.indices[c]]]++] = c;

    const float cosCrease = static_cast<float>(std::cos(creaseRadians));
    std::vector<glm::vec3> normal(corners);
    tbb::parallel_for(std::size_t(0), corners, [&](std::size_t c) {
        const std::uint32_t p = place[mesh.indices[c]];
        const glm::vec3& own = face[c / 3];
        glm::vec3 sum(0.0f);
        // A hub with thousands of triangles would cost its square; a sample of it gives the same picture.
        const std::uint32_t step = 1 + (start[p + 1] - start[p]) / 256;
        for (std::uint32_t i = start[p]; i < start[p + 1]; i += step) {
            const glm::vec3& other = face[around[i] / 3];
            if (glm::dot(own, other) >= cosCrease) sum += other * says[around[i]];
        }
        sum = glm::dot(sum, sum) > 0 ? glm::normalize(sum) : own;
        normal[c] = glm::dot(sum, sum) > 0 ? sum : glm::vec3(0, 1, 0);
    });

    // Split vertices whose corners ended with different normals; a chain per old vertex.
    std::vector<std::uint32_t> head(mesh.positions.size(), ~0u), next, keep, indices(corners);
    std::vector<glm::vec3> kept;
    for (std::size_t c = 0; c < corners; ++c) {
        const std::uint32_t v = mesh.indices[c];
        std::uint32_t found = head[v];
        while (found != ~0u && glm::dot(kept[found], normal[c]) < 0.99999f) found = next[found];
        if (found == ~0u) {
            found = static_cast<std::uint32_t>(keep.size());
            keep.push_back(v);
            kept.push_back(normal[c]);
            next.push_back(head[v]);
            head[v] = found;
        }
        indices[c] = found;
    }
    Mesh out = withVertices(mesh, keep, std::move(indices), triangleWear(mesh));
    out.normals = std::move(kept);
    out.tangents.clear();
    return out;
}

Mesh turnedInsideOut(Mesh mesh) {
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
        std::swap(mesh.indices[3 * t + 1], mesh.indices[3 * t + 2]);
    for (glm::vec3& normal : mesh.normals) normal = -normal;
    for (glm::vec4& tangent : mesh.tangents) tangent.w = -tangent.w;
    for (MorphTarget& morph : mesh.morphs)
        for (glm::vec3& normal : morph.normals) normal = -normal;
    mesh.cut = {};
    return mesh;
}

} // namespace zl::geometry
