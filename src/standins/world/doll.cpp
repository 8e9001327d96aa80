#include "standins/world/doll.h"

#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace zl::standins::world::doll {

namespace {

struct Bone {
    std::string_view name;
    int parent;
    glm::vec3 place;   ///< at rest
    float thick, thin; ///< radii of the limb at its joint and at its end; 0 for none
    glm::vec3 end{0};  ///< of the limb, from the joint
};

constexpr std::array<Bone, 24> list{{
    {"root", -1, {0, 0, 0}, 0, 0},
    {"hips", 0, {0, 0.952f, 0}, 0.135f, 0.115f, {0, 0.125f, 0}},
    {"spine", 1, {0, 1.077f, 0}, 0.115f, 0.13f, {0, 0.164f, 0}},
    {"chest", 2, {0, 1.241f, 0}, 0.145f, 0.115f, {0, 0.17f, 0}},
    {"neck", 3, {0, 1.470f, 0}, 0.052f, 0.048f, {0, 0.075f, 0}},
    {"head", 4, {0, 1.545f, 0.011f}, 0.085f, 0.1f, {0, 0.13f, 0.01f}},
    {"shoulder.left", 3, {0.039f, 1.424f, 0}, 0.06f, 0.055f, {0.146f, -0.007f, 0}},
    {"upperarm.left", 6, {0.185f, 1.417f, 0}, 0.052f, 0.042f, {0.132f, -0.278f, -0.007f}},
    {"forearm.left", 7, {0.317f, 1.139f, -0.007f}, 0.042f, 0.03f, {0.096f, -0.24f, 0.028f}},
    {"hand.left", 8, {0.413f, 0.899f, 0.021f}, 0.036f, 0.03f, {0.032f, -0.094f, 0.015f}},
    {"fingers.left", 9, {0.445f, 0.805f, 0.036f}, 0.028f, 0.018f, {0.02f, -0.06f, 0.008f}},
    {"shoulder.right", 3, {-0.039f, 1.424f, 0}, 0.06f, 0.055f, {-0.146f, -0.007f, 0}},
    {"upperarm.right", 11, {-0.185f, 1.417f, 0}, 0.052f, 0.042f, {-0.132f, -0.278f, -0.007f}},
    {"forearm.right", 12, {-0.317f, 1.139f, -0.007f}, 0.042f, 0.03f, {-0.096f, -0.24f, 0.028f}},
    {"hand.right", 13, {-0.413f, 0.899f, 0.021f}, 0.036f, 0.03f, {-0.032f, -0.094f, 0.015f}},
    {"fingers.right", 14, {-0.445f, 0.805f, 0.036f}, 0.028f, 0.018f, {-0.02f, -0.06f, 0.008f}},
    {"thigh.left", 1, {0.094f, 0.917f, 0}, 0.085f, 0.06f, {0.013f, -0.415f, 0.011f}},
    {"shin.left", 16, {0.107f, 0.502f, 0.011f}, 0.058f, 0.04f, {0.003f, -0.424f, -0.022f}},
    {"foot.left", 17, {0.11f, 0.078f, -0.011f}, 0.05f, 0.036f, {0.007f, -0.04f, 0.13f}},
    {"toes.left", 18, {0.117f, 0.036f, 0.125f}, 0.036f, 0.026f, {0.002f, -0.008f, 0.06f}},
    {"thigh.right", 1, {-0.094f, 0.917f, 0}, 0.085f, 0.06f, {-0.013f, -0.415f, 0.011f}},
    {"shin.right", 20, {-0.107f, 0.502f, 0.011f}, 0.058f, 0.04f, {-0.003f, -0.424f, -0.022f}},
    {"foot.right", 21, {-0.11f, 0.078f, -0.011f}, 0.05f, 0.036f, {-0.007f, -0.04f, 0.13f}},
    {"toes.right", 22, {-0.117f, 0.036f, 0.125f}, 0.036f, 0.026f, {-0.002f, -0.008f, 0.06f}},
}};

/// A round limb from the joint to `end`, closed by half balls.
Shape limb(const Bone& bone) {
    constexpr int around = 14, cap = 5;
    const float length = glm::length(bone.end);
    const glm::vec3 along = bone.end / length;
    const glm::vec3 u =
        glm::normalize(glm::cross(std::abs(along.x) < 0.9f ? glm::vec3(1, 0, 0) : glm::vec3(0, 1, 0), along));
    const glm::vec3 v = glm::cross(along, u);
    std::vector<glm::vec2> profile; // along, radius
    for (int i = 0; i <= cap; ++i) {
        const float a = glm::half_pi<float>() * float(i) / cap;
        profile.emplace_back(-bone.thick * std::cos(a), bone.thick * std::sin(a));
    }
    for (int i = 0; i <= cap; ++i) {
        const float a = glm::half_pi<float>() * float(i) / cap;
        profile.emplace_back(length + bone.thin * std::sin(a), bone.thin * std::cos(a));
    }
    Shape out;
    for (const glm::vec2& p : profile)
        for (int k = 0; k < around; ++k) {
            const float a = glm::two_pi<float>() * float(k) / around;
            out.positions.push_back(along * p.x + (u * std::cos(a) + v * std::sin(a)) * p.y);
        }
    for (std::uint32_t ring = 0; ring + 1 < profile.size(); ++ring)
        for (std::uint32_t k = 0; k < around; ++k) {
            const std::uint32_t a = ring * around + k, b = ring * around + (k + 1) % around;
            for (const std::uint32_t i : {a, b, a + around, b, b + around, a + around})
                out.indices.push_back(i);
        }
    addMissingNormals(out);
    return out;
}

} // namespace

std::vector<std::string_view> bones() {
    std::vector<std::string_view> out;
    for (const Bone& bone : list) out.push_back(bone.name);
    return out;
}

std::vector<Shape> limbs() {
    std::vector<Shape> out;
    for (const Bone& bone : list) out.push_back(bone.thick > 0 ? limb(bone) : Shape{});
    return out;
}

std::vector<glm::mat4> posed(const Turns& turns) {
    std::vector<glm::mat4> out;
    for (const Bone& bone : list) {
        const glm::vec3 from = bone.parent < 0 ? glm::vec3(0) : list[std::size_t(bone.parent)].place;
        glm::mat4 own = glm::translate(glm::mat4(1.0f), bone.place - from);
        if (const auto turn = turns.find(std::string(bone.name)); turn != turns.end())
            own *= glm::mat4_cast(turn->second);
        out.push_back(bone.parent < 0 ? own : out[std::size_t(bone.parent)] * own);
    }
    return out;
}

int boneNamed(std::string_view name) {
    const auto found = std::ranges::find(list, name, &Bone::name);
    return found == list.end() ? -1 : int(found - list.begin());
}

} // namespace zl::standins::world::doll
