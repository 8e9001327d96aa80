#include "core/geometry/reshape.h"

#include "core/geometry/normals.h"

#include <glm/gtc/quaternion.hpp>
#include <tbb/parallel_for.h>

#include <cassert>
#include <cmath>

namespace zl::geometry {

namespace {

/// What the faces around each corner look to, by area.
std::vector<glm::vec3> facesAround(const Mesh& mesh) {
    std::vector<glm::vec3> sums(mesh.vertexCount(), glm::vec3(0));
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::vec3 normal = faceNormal(mesh, t);
        for (int k = 0; k < 3; ++k) sums[mesh.indices[3 * t + std::size_t(k)]] += normal;
    }
    return sums;
}

/// The shortest turn from one direction to another; none where either is not known.
glm::quat turnBetween(const glm::vec3& from, const glm::vec3& to) {
    const float lengths = glm::length(from) * glm::length(to);
    if (!(lengths > 0) || !std::isfinite(lengths)) return {1, 0, 0, 0};
    const float cosine = glm::dot(from, to) / lengths;
    if (cosine < -0.9999f) return {1, 0, 0, 0}; // turned inside out: no turn says how
    const glm::vec3 axis = glm::cross(from, to) / lengths;
    return glm::normalize(glm::quat(1 + cosine, axis.x, axis.y, axis.z));
}

} // namespace

Mesh reshaped(const Mesh& mesh, const std::vector<double>& weights, const glm::dvec3& move,
              const glm::dvec3& scale, const glm::dvec3& centre) {
    assert(weights.size() == mesh.vertexCount());
    Mesh out = mesh;
    tbb::parallel_for(std::size_t(0), mesh.vertexCount(), [&](std::size_t v) {
        const glm::dvec3 p(mesh.positions[v]);
        out.positions[v] = glm::vec3(p + weights[v] * (move + (scale - 1.0) * (p - centre)));
    });
    if (mesh.normals.empty()) return out;
    const auto before = facesAround(mesh), after = facesAround(out);
    tbb::parallel_for(std::size_t(0), mesh.vertexCount(), [&](std::size_t v) {
        const glm::quat turn = turnBetween(before[v], after[v]);
        out.normals[v] = turn * mesh.normals[v];
        if (!mesh.tangents.empty())
            out.tangents[v] = glm::vec4(turn * glm::vec3(mesh.tangents[v]), mesh.tangents[v].w);
    });
    return out;
}

double rangeWeight(double value, double low, double high, double falloff) {
    const double beyond = value < low ? low - value : value > high ? value - high : 0;
    if (beyond <= 0) return 1;
    if (!(falloff > 0) || beyond >= falloff) return 0;
    const double t = 1 - beyond / falloff;
    return t * t * (3 - 2 * t);
}

} // namespace zl::geometry
