#include "core/motion/bone_turns.h"

#include "core/motion/attached.h"
#include "core/motion/pose.h"

#include "core/base/error.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtx/norm.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::motion {

namespace {

/// The shortest turn that takes one direction to another.
glm::dquat between(const glm::dvec3& from, const glm::dvec3& to) {
    const double lengths = glm::length(from) * glm::length(to);
    if (!(lengths > 0)) return {1, 0, 0, 0};
    const double cosine = glm::dot(from, to) / lengths;
    if (cosine < -1 + 1e-12) { // straight back: about any axis across it
        const glm::dvec3 across = glm::cross(
            from, std::abs(from.x) < 0.9 * glm::length(from) ? glm::dvec3(1, 0, 0) : glm::dvec3(0, 1, 0));
        return glm::angleAxis(glm::pi<double>(), glm::normalize(across));
    }
    const glm::dvec3 axis = glm::cross(from, to) / lengths;
    return glm::normalize(glm::dquat(1 + cosine, axis.x, axis.y, axis.z));
}

/// Turns a node in the world, on top of how it stands there.
void turnInWorld(BoneTurns& turns, int node, const glm::dmat4& world, const glm::dquat& by) {
    const glm::dquat own = turnIn(world);
    auto& turn = turns.try_emplace(node, 1, 0, 0, 0).first->second;
    turn = glm::normalize(turn * (glm::inverse(own) * by * own));
}

} // namespace

glm::dquat turnOf(double aboutX, double aboutY, double aboutZ) {
    return glm::angleAxis(aboutZ, glm::dvec3(0, 0, 1)) * glm::angleAxis(aboutY, glm::dvec3(0, 1, 0)) *
           glm::angleAxis(aboutX, glm::dvec3(1, 0, 0));
}

glm::dvec3 anglesOf(const glm::dquat& turn) {
    constexpr double half = glm::pi<double>();
    const glm::dmat3 m = glm::mat3_cast(turn);
    const double y = std::asin(glm::clamp(-m[0][2], -1.0, 1.0));
    if (std::abs(m[0][2]) > 1 - 1e-12) return {0, y, std::atan2(-m[1][0], m[1][1])};
    const glm::dvec3 one{std::atan2(m[1][2], m[2][2]), y, std::atan2(m[0][1], m[0][0])};
    const glm::dvec3 other{one.x > 0 ? one.x - half : one.x + half, (y > 0 ? half : -half) - y,
                           one.z > 0 ? one.z - half : one.z + half};
    return std::abs(one.x) + std::abs(one.z) <= std::abs(other.x) + std::abs(other.z) ? one : other;
}

glm::dquat held(const glm::dquat& turn, const TurnLimits& limits) {
    const glm::dvec3 angles = anglesOf(turn), within = glm::clamp(angles, limits.least, limits.most);
    return within == angles ? turn : turnOf(within.x, within.y, within.z);
}

std::vector<glm::dmat4> worldWith(const Model& model, const BoneTurns& turns) {
    std::vector<glm::dmat4> world;
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const Node& node = model.nodes[n];
        const auto turned = turns.find(int(n));
        const glm::dmat4 local =
            turned == turns.end() ? node.local : node.local * glm::mat4_cast(turned->second);
        world.push_back((node.parent < 0 ? model.placement : world[std::size_t(node.parent)]) * local);
    }
    return world;
}

Reached reached(const Model& model, BoneTurns turns, int end, const glm::dvec3& target,
                const std::optional<glm::dvec3>& pole) {
    const auto parentOf = [&](int node) { return node < 0 ? -1 : model.nodes[std::size_t(node)].parent; };
    const int middle = parentOf(end), top = parentOf(middle);
    if (top < 0)
        throw Error(
            fmt::format("the bone \"{}\" has no two bones above it", model.nodes.at(std::size_t(end)).name),
            model.name, "Reach with a hand or a foot.");
    auto world = worldWith(model, turns);
    const auto placeOf = [&](int node) { return glm::dvec3(world[std::size_t(node)][3]); };
    const glm::dvec3 a = placeOf(top), b = placeOf(middle), c = placeOf(end);
    const double upper = glm::distance(a, b), lower = glm::distance(b, c);
    const double wanted = glm::distance(a, target);
    if (!(upper > 0) || !(lower > 0) || !std::isfinite(wanted))
        return {std::move(turns), glm::distance(c, target)};
    const double far = std::clamp(wanted, std::abs(upper - lower), upper + lower);
    const glm::dvec3 way = wanted > 0 ? (target - a) / wanted : glm::normalize(c - a);
    // The joint between them: on the way by the cosine rule, and to the side of the pole.
    glm::dvec3 side = pole.value_or(b) - a;
    side -= way * glm::dot(side, way);
    if (glm::length(side) < 1e-9 * upper)
        side = glm::cross(way, std::abs(way.x) < 0.9 ? glm::dvec3(1, 0, 0) : glm::dvec3(0, 1, 0));
    const double along = far > 0 ? (upper * upper - lower * lower + far * far) / (2 * far) : 0;
    const double across = std::sqrt(std::max(0.0, upper * upper - along * along));
    const glm::dvec3 elbow = a + way * along + glm::normalize(side) * across, hand = a + way * far;
    turnInWorld(turns, top, world[std::size_t(top)], between(b - a, elbow - a));
    world = worldWith(model, turns);
    turnInWorld(turns, middle, world[std::size_t(middle)],
                between(placeOf(end) - placeOf(middle), hand - elbow));
    world = worldWith(model, turns);
    return {std::move(turns), glm::distance(placeOf(end), target)};
}

BoneTurns aimed(const Model& model, BoneTurns turns, int bone, const glm::dvec3& end,
                const glm::dvec3& target) {
    const glm::dmat4 world = worldWith(model, turns).at(std::size_t(bone));
    const glm::dvec3 from(world[3]), to(world * glm::dvec4(end, 1));
    turnInWorld(turns, bone, world, between(to - from, target - from));
    if (const auto& limits = model.nodes[std::size_t(bone)].turns) turns[bone] = held(turns[bone], *limits);
    return turns;
}

glm::dvec3 endOf(const Model& model, int bone) {
    const Node& node = model.nodes.at(std::size_t(bone));
    const glm::dvec3 way = glm::inverse(glm::dmat3(node.local)) * glm::dvec3(node.local[3]);
    std::optional<glm::dvec3> end;
    double straightest = -2;
    for (const int joint : jointsOf(model)) {
        if (model.nodes[std::size_t(joint)].parent != bone) continue;
        const glm::dvec3 there(model.nodes[std::size_t(joint)].local[3]);
        const double lengths = glm::length(there) * glm::length(way);
        const double straight = lengths > 0 ? glm::dot(there, way) / lengths : -1;
        if (straight > straightest) straightest = straight, end = there;
    }
    return end.value_or(0.6 * way);
}

Clip poseClip(const Model& model, const BoneTurns& turns, std::string name) {
    Clip clip;
    clip.name = std::move(name);
    for (const auto& [node, turn] : turns) {
        const glm::dquat whole = glm::normalize(turnIn(model.nodes[std::size_t(node)].local) * turn);
        clip.channels.push_back({node,
                                 Channel::Target::Rotation,
                                 Channel::Curve::Linear,
                                 {0.0f},
                                 {float(whole.x), float(whole.y), float(whole.z), float(whole.w)}});
    }
    return clip;
}

std::string otherSide(const std::string& bone) {
    static constexpr std::array<std::pair<std::string_view, std::string_view>, 3> sides{
        {{"left", "right"}, {"Left", "Right"}, {"LEFT", "RIGHT"}}};
    for (const auto& [left, right] : sides)
        for (const auto& [from, to] : {std::pair{left, right}, std::pair{right, left}})
            if (const auto at = bone.find(from); at != std::string::npos)
                return bone.substr(0, at) + std::string(to) + bone.substr(at + from.size());
    // A single letter at the end, set apart.
    if (bone.size() > 2 && std::string_view("._- ").find(bone[bone.size() - 2]) != std::string_view::npos) {
        static constexpr std::string_view letters = "lLrR", others = "rRlL";
        if (const auto at = letters.find(bone.back()); at != std::string_view::npos)
            return bone.substr(0, bone.size() - 1) + others[at];
    }
    return bone;
}

} // namespace zl::motion
