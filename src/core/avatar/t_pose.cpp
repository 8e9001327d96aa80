#include "core/avatar/t_pose.h"

#include "core/avatar/keys.h"

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

} // namespace zl::avatar
