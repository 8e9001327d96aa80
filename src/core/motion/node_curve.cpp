#include "core/motion/node_curve.h"

#include "core/motion/pose.h"
#include "core/motion/posed.h"

#include <glm/gtc/quaternion.hpp>

#include <algorithm>
#include <cmath>

namespace zl::motion {

NodeCurve curveOf(const Model& model, const Clip& clip, int node, int samples) {
    NodeCurve out;
    const double length = lengthOf(clip);
    if (node < 0 || node >= int(model.nodes.size()) || !(length > 0)) return out;
    std::vector<int> chain;
    for (int n = node; n >= 0; n = model.nodes[std::size_t(n)].parent) chain.push_back(n);
    Clip own;
    for (const Channel& channel : clip.channels)
        if (std::ranges::find(chain, channel.node) != chain.end()) own.channels.push_back(channel);
    const int count = std::max(2, samples);
    glm::dvec3 began(0);
    glm::dquat held(1, 0, 0, 0);
    for (int i = 0; i < count; ++i) {
        const double at = length * i / (count - 1);
        glm::dmat4 world(1);
        const glm::dmat4 local = localAt(model, own, node, at);
        world = local;
        for (std::size_t k = 1; k < chain.size(); ++k) world = localAt(model, own, chain[k], at) * world;
        const glm::dvec3 place(model.placement * world[3]);
        const glm::dquat turn = turnIn(local);
        if (i == 0) began = place, held = turn;
        out.ways.push_back(place - began);
        const double cosine = std::clamp(std::abs(glm::dot(turn, held)), 0.0, 1.0);
        out.turns.push_back(glm::degrees(2 * std::acos(cosine)));
    }
    return out;
}

} // namespace zl::motion
