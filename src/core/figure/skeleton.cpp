#include "core/figure/figure.h"

#include "core/base/error.h"
#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>

namespace zl::figure {

std::span<const Kind> allKinds() {
    static constexpr std::array<Kind, 4> kinds{{{"kid", "child", 1.22, 1.02, 1.42, 0.90},
                                                {"grown-a", "grown-up, build A", 1.78, 1.00, 1.00, 1.00},
                                                {"grown-b", "grown-up, build B", 1.82, 1.22, 1.00, 1.00},
                                                {"elder", "elder", 1.66, 1.06, 1.04, 0.95}}};
    return kinds;
}

const Kind& kindNamed(std::string_view id) {
    for (const Kind& kind : allKinds())
        if (kind.id == id) return kind;
    throw Error(fmt::format("there is no figure \"{}\"", id), {},
                "Use one of " + inARow(allKinds(), &Kind::id) + ".");
}

std::vector<Joint> jointsOf(const Kind& kind) {
    // Of a grown-up of one metre; those of the left side, mirrored for the right.
    struct Drawn {
        std::string_view name, parent;
        glm::dvec3 place;
    };
    static constexpr std::array<Drawn, 24> drawn{{
        {"root", "", {0, 0, 0}},
        {"hips", "root", {0, 0.535, 0}},
        {"spine", "hips", {0, 0.605, 0}},
        {"chest", "spine", {0, 0.697, 0}},
        {"neck", "chest", {0, 0.826, 0}},
        {"head", "neck", {0, 0.868, 0.006}},
        {"shoulder.left", "chest", {0.022, 0.800, 0}},
        {"upperarm.left", "shoulder.left", {0.104, 0.796, 0}},
        {"forearm.left", "upperarm.left", {0.178, 0.640, -0.004}},
        {"hand.left", "forearm.left", {0.232, 0.505, 0.012}},
        {"fingers.left", "hand.left", {0.250, 0.452, 0.020}},
        {"shoulder.right", "chest", {-0.022, 0.800, 0}},
        {"upperarm.right", "shoulder.right", {-0.104, 0.796, 0}},
        {"forearm.right", "upperarm.right", {-0.178, 0.640, -0.004}},
        {"hand.right", "forearm.right", {-0.232, 0.505, 0.012}},
        {"fingers.right", "hand.right", {-0.250, 0.452, 0.020}},
        {"thigh.left", "hips", {0.053, 0.515, 0}},
        {"shin.left", "thigh.left", {0.060, 0.282, 0.006}},
        {"foot.left", "shin.left", {0.062, 0.044, -0.006}},
        {"toes.left", "foot.left", {0.066, 0.014, 0.070}},
        {"thigh.right", "hips", {-0.053, 0.515, 0}},
        {"shin.right", "thigh.right", {-0.060, 0.282, 0.006}},
        {"foot.right", "shin.right", {-0.062, 0.044, -0.006}},
        {"toes.right", "foot.right", {-0.066, 0.014, 0.070}},
    }};
    // Degrees about X (forward and back), Y (about the vertical) and Z (aside), of the left side.
    struct Turns {
        std::string_view bone;
        glm::dvec3 least, most;
    };
    static constexpr std::array<Turns, 13> turns{{
        {"spine", {-30, -40, -30}, {60, 40, 30}},
        {"chest", {-20, -35, -25}, {35, 35, 25}},
        {"neck", {-35, -40, -25}, {35, 40, 25}},
        {"head", {-45, -60, -30}, {45, 60, 30}},
        {"shoulder", {-25, -30, -20}, {25, 30, 40}},
        {"upperarm", {-180, -100, -60}, {60, 100, 170}},
        {"forearm", {-150, -110, -30}, {5, 110, 30}},
        {"hand", {-80, -60, -80}, {80, 60, 80}},
        {"fingers", {-100, -10, -20}, {15, 10, 20}},
        {"thigh", {-130, -50, -30}, {45, 50, 60}},
        {"shin", {-5, -20, -10}, {150, 20, 10}},
        {"foot", {-45, -30, -30}, {45, 30, 30}},
        {"toes", {-60, -5, -10}, {40, 5, 10}},
    }};
    const auto turnsOf = [](std::string_view bone) -> std::optional<TurnLimits> {
        const auto found = std::ranges::find(turns, bone.substr(0, bone.find('.')), &Turns::bone);
        if (found == turns.end()) return std::nullopt;
        glm::dvec3 least = glm::radians(found->least), most = glm::radians(found->most);
        if (bone.ends_with(".right")) {
            std::swap(least.y, most.y), std::swap(least.z, most.z);
            least.y = -least.y, most.y = -most.y, least.z = -least.z, most.z = -most.z;
        }
        return TurnLimits{least, most};
    };
    constexpr double hips = 0.535, neck = 0.826;
    std::vector<Joint> joints;
    for (const Drawn& d : drawn) {
        const auto parent = std::ranges::find(drawn, d.parent, &Drawn::name);
        glm::dvec3 place = d.place;
        // Shorter legs leave more of the height to the trunk.
        const double waist = hips * kind.legs;
        place.y =
            place.y <= hips ? place.y * kind.legs : waist + (place.y - hips) * (neck - waist) / (neck - hips);
        if (place.y > waist) place.x *= 0.6 + 0.4 * kind.girth; // broader shoulders, arms farther out
        joints.push_back({d.name, parent == drawn.end() ? -1 : int(parent - drawn.begin()),
                          place * kind.height, turnsOf(d.name)});
    }
    return joints;
}

} // namespace zl::figure
