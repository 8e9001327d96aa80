#include "core/geometry/corner_weights.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::geometry {

namespace {

struct Pull {
    std::uint16_t joint = 0;
    double weight = 0;
};

/// A corner's bones, the heaviest first, each once; how many there are.
std::size_t pullsOf(const Mesh& mesh, std::size_t v, std::array<Pull, 4>& out) {
    std::size_t count = 0;
    for (int k = 0; k < 4; ++k) {
        const double weight = double(mesh.weights[v][k]);
        if (!(weight > 0) || !std::isfinite(weight)) continue;
        const std::uint16_t joint = mesh.joints[v][k];
        const auto end = out.begin() + std::ptrdiff_t(count);
        const auto same = std::find_if(out.begin(), end, [&](const Pull& p) { return p.joint == joint; });
        if (same != end)
            same->weight += weight;
        else
            out[count++] = {joint, weight};
    }
    std::stable_sort(out.begin(), out.begin() + std::ptrdiff_t(count),
                     [](const Pull& a, const Pull& b) { return a.weight > b.weight; });
    return count;
}

} // namespace

LimitedWeights withFewWeights(const Mesh& mesh, const WeightLimit& limit) {
    constexpr double same = 1e-6;
    LimitedWeights out{.mesh = mesh};
    if (mesh.weights.empty() || mesh.joints.empty()) return out;
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        std::array<Pull, 4> pulls;
        const std::size_t count = pullsOf(mesh, v, pulls);
        double all = 0, kept = 0;
        for (std::size_t k = 0; k < count; ++k) all += pulls[k].weight;
        if (!(all > 0) || !std::isfinite(all)) continue;
        std::size_t stays = 0;
        for (; stays < count; ++stays) {
            if (stays > 0 && (int(stays) >= limit.most || pulls[stays].weight < limit.least * all)) break;
            kept += pulls[stays].weight;
        }
        glm::u16vec4 joints(0);
        glm::vec4 weights(0);
        for (std::size_t k = 0; k < stays; ++k)
            joints[int(k)] = pulls[k].joint, weights[int(k)] = float(pulls[k].weight / kept);
        const double lost = 1 - kept / all;
        out.mostLost = std::max(out.mostLost, lost);
        out.changed += lost > same || std::abs(all - 1) > 1e-4;
        out.mesh.joints[v] = joints, out.mesh.weights[v] = weights;
    }
    return out;
}

Mesh withJoints(const Mesh& mesh, const std::function<int(int)>& other) {
    Mesh out = mesh;
    for (glm::u16vec4& joints : out.joints)
        for (int k = 0; k < 4; ++k) joints[k] = std::uint16_t(other(joints[k]));
    return withFewWeights(out, {}).mesh;
}

} // namespace zl::geometry
