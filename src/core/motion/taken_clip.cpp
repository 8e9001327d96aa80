#include "core/motion/taken_clip.h"

#include "core/motion/pose.h"
#include "core/motion/posed.h"

#include <algorithm>
#include <limits>
#include <map>
#include <set>

namespace zl::motion {

namespace {

double tall(const Model& model, const std::vector<int>& bones) {
    const auto world = worldMatrices(model);
    double low = std::numeric_limits<double>::max(), high = std::numeric_limits<double>::lowest();
    for (const int bone : bones)
        low = std::min(low, world[std::size_t(bone)][3].y),
        high = std::max(high, world[std::size_t(bone)][3].y);
    return high - low;
}

/// The turns of all nodes in the world.
std::vector<glm::dquat> turnsOf(const std::vector<glm::dmat4>& world) {
    std::vector<glm::dquat> out;
    for (const glm::dmat4& matrix : world) out.push_back(glm::normalize(turnIn(matrix)));
    return out;
}

struct Kept {
    Channel turn, place;
};

} // namespace

double heightRatio(const Model& from, const Model& to, const BoneMap& bones) {
    std::vector<int> own, other;
    for (const BoneMatch& match : bones.matches) own.push_back(match.from), other.push_back(match.to);
    if (own.size() < 2) return 1;
    const double a = tall(from, own), b = tall(to, other);
    return a > 1e-9 && b > 1e-9 ? b / a : 1;
}

Clip takenClip(const Model& from, const Clip& clip, const Model& to, const BoneMap& bones) {
    std::set<int> turning, moving;
    std::set<double> moments;
    for (const Channel& channel : clip.channels) {
        if (channel.target == Channel::Target::Rotation) turning.insert(channel.node);
        if (channel.target == Channel::Target::Translation) moving.insert(channel.node);
        if (channel.node >= 0 && channel.target != Channel::Target::Weights)
            for (const double time : poseTimes(clip, channel.node)) moments.insert(time);
    }
    const auto restFrom = worldMatrices(from), restTo = worldMatrices(to);
    const auto restTurnsFrom = turnsOf(restFrom), restTurnsTo = turnsOf(restTo);
    const double ratio = heightRatio(from, to, bones);
    std::map<int, int> matched; // by node of `to`, in their order
    for (const BoneMatch& match : bones.matches) matched[match.to] = match.from;

    std::map<int, Kept> kept;
    for (const auto& [node, own] : matched)
        kept[node] = {{node, Channel::Target::Rotation, Channel::Curve::Linear, {}, {}},
                      {node, Channel::Target::Translation, Channel::Curve::Linear, {}, {}}};
    for (const double time : moments) {
        const auto pose = posed(from, clip, time);
        const auto turnsNow = turnsOf(pose.world);
        // World turns of `to` from above to below: what has no match goes with what is above it.
        std::vector<glm::dquat> world(to.nodes.size());
        for (std::size_t n = 0; n < to.nodes.size(); ++n) {
            const int parent = to.nodes[n].parent;
            const glm::dquat above =
                parent >= 0 ? world[std::size_t(parent)] : glm::normalize(turnIn(to.placement));
            const glm::dquat local = glm::normalize(turnIn(to.nodes[n].local));
            const auto found = matched.find(int(n));
            if (found == matched.end()) {
                world[n] = above * local;
                continue;
            }
            const auto own = std::size_t(found->second);
            world[n] = turnsNow[own] * glm::inverse(restTurnsFrom[own]) * restTurnsTo[n];
            Kept& to_ = kept[int(n)];
            if (turning.contains(int(own))) {
                glm::dquat q = glm::normalize(glm::inverse(above) * world[n]);
                const auto& values = to_.turn.values;
                if (values.size() >= 4) { // the short way
                    const auto* v = &values[values.size() - 4];
                    if (q.x * double(v[0]) + q.y * double(v[1]) + q.z * double(v[2]) + q.w * double(v[3]) < 0)
                        q = -q;
                }
                to_.turn.times.push_back(float(time));
                for (const double v : {q.x, q.y, q.z, q.w}) to_.turn.values.push_back(float(v));
            }
            if (!moving.contains(int(own))) continue;
            // How far it went from rest in the world, seen from what is above it.
            const int parentOwn = from.nodes[own].parent;
            const glm::dmat4 aboveNow = parentOwn >= 0 ? pose.world[std::size_t(parentOwn)] : from.placement;
            const glm::dmat4 aboveRest = parentOwn >= 0 ? restFrom[std::size_t(parentOwn)] : from.placement;
            const glm::dvec3 went = glm::dvec3(glm::inverse(aboveNow) * pose.world[own][3]) -
                                    glm::dvec3(glm::inverse(aboveRest) * restFrom[own][3]);
            const glm::dvec3 inWorld = glm::dmat3(aboveRest) * went * ratio;
            const glm::dmat4 aboveTo = parent >= 0 ? restTo[std::size_t(parent)] : to.placement;
            const glm::dvec3 place =
                glm::dvec3(to.nodes[n].local[3]) + glm::inverse(glm::dmat3(aboveTo)) * inWorld;
            to_.place.times.push_back(float(time));
            for (int k = 0; k < 3; ++k) to_.place.values.push_back(float(place[k]));
        }
    }
    Clip out{clip.name, {}};
    if (const glm::dmat3 own(to.placement); std::abs(glm::determinant(own)) > 0)
        out.way = ratio * (glm::inverse(own) * glm::dmat3(from.placement) * clip.way);
    for (auto& [node, channels] : kept)
        for (Channel* channel : {&channels.turn, &channels.place})
            if (!channel->times.empty()) out.channels.push_back(std::move(*channel));
    return out;
}

} // namespace zl::motion
