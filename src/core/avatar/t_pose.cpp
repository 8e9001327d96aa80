#include "core/avatar/t_pose.h"

#include "core/avatar/keys.h"
#include "core/base/error.h"
#include "core/motion/pose.h"

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtx/quaternion.hpp>

#include <algorithm>
#include <cmath>

namespace zl::avatar {

std::optional<OffTPose> offTPose(const Model& model) {
    const auto world = worldMatrices(model);
    const auto degreesOff = [&](const std::string& from, const std::string& to,
                                const glm::dvec3& axis) -> std::optional<double> {
        const int a = boneOf(model, from), b = boneOf(model, to);
        if (a < 0 || b < 0) return std::nullopt;
        const glm::dvec3 way = glm::dvec3(world[std::size_t(b)][3]) - glm::dvec3(world[std::size_t(a)][3]);
        const double length = glm::length(way);
        if (!(length > 0)) return std::nullopt;
        return glm::degrees(std::acos(std::clamp(glm::dot(way / length, axis), -1.0, 1.0)));
    };
    OffTPose out{-1, -1, {}, {}};
    for (const char* side : {"left", "right"}) {
        const std::string name = side;
        const glm::dvec3 aside(name == "left" ? 1 : -1, 0, 0);
        const auto arm = degreesOff(name + "UpperArm", name + "Hand", aside),
                   leg = degreesOff(name + "UpperLeg", name + "Foot", {0, -1, 0});
        if (!arm || !leg) return std::nullopt;
        if (*arm > out.armDegrees) out.armDegrees = *arm, out.arm = name;
        if (*leg > out.legDegrees) out.legDegrees = *leg, out.leg = name;
    }
    return out;
}

Clip tPose(const Model& model) {
    Model now = model;
    Clip out{"T-pose", {}};
    const auto stands = [&](int node) {
        glm::dmat4 world(1);
        for (; node >= 0; node = now.nodes[std::size_t(node)].parent)
            world = now.nodes[std::size_t(node)].local * world;
        return now.placement * world;
    };
    const auto found = [&](const std::string& role) {
        const int bone = boneOf(model, role);
        if (bone < 0)
            throw Error(fmt::format("has no bone for {}", role), model.name,
                        "Name it at the step Avatar set-up first.");
        return bone;
    };
    const auto point = [&](const std::string& from, const std::string& to, const glm::dvec3& way) {
        const int bone = found(from), next = found(to);
        const glm::dmat4 world = stands(bone);
        const glm::dvec3 at(world[3]), is = glm::dvec3(stands(next)[3]) - at;
        if (!(glm::length(is) > 0)) return;
        const glm::dmat4 turn = glm::mat4_cast(glm::rotation(glm::normalize(is), way));
        const int parent = now.nodes[std::size_t(bone)].parent;
        const glm::dmat4 above = parent >= 0 ? stands(parent) : now.placement;
        if (!(std::abs(glm::determinant(above)) > 0)) return;
        glm::dmat4& local = now.nodes[std::size_t(bone)].local;
        local = glm::inverse(above) * glm::translate(glm::dmat4(1), at) * turn *
                glm::translate(glm::dmat4(1), -at) * world;
        const glm::dquat q = glm::normalize(motion::turnIn(local));
        out.channels.push_back({bone,
                                Channel::Target::Rotation,
                                Channel::Curve::Linear,
                                {0},
                                {float(q.x), float(q.y), float(q.z), float(q.w)}});
    };
    for (const std::string side : {"left", "right"}) {
        const glm::dvec3 aside(side == "left" ? 1 : -1, 0, 0), down(0, -1, 0);
        point(side + "UpperArm", side + "LowerArm", aside), point(side + "LowerArm", side + "Hand", aside);
        point(side + "UpperLeg", side + "LowerLeg", down), point(side + "LowerLeg", side + "Foot", down);
    }
    return out;
}

} // namespace zl::avatar
