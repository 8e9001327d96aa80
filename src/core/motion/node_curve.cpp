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
    const std::vector<int> chain = chainOf(model, node);
    Clip own;
    for (const Channel& channel : clip.channels)
        if (std::ranges::find(chain, channel.node) != chain.end()) own.channels.push_back(channel);
    const int count = std::max(2, samples);
    glm::dvec3 began(0);
    glm::dquat held(1, 0, 0, 0);
    for (int i = 0; i < count; ++i) {
        const double at = length * i / (count - 1);
        const glm::dvec3 place(worldAt(model, own, chain, at)[3]);
        const glm::dquat turn = turnIn(localAt(model, own, node, at));
        if (i == 0) began = place, held = turn;
        out.ways.push_back(place - began);
        const double cosine = std::clamp(std::abs(glm::dot(turn, held)), 0.0, 1.0);
        out.turns.push_back(glm::degrees(2 * std::acos(cosine)));
    }
    return out;
}

} // namespace zl::motion
