#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

#include <glm/gtc/quaternion.hpp>

#include <algorithm>
#include <array>
#include <map>
#include <optional>

namespace zl::standins::mirror {

/// The game's limits, and what its avatars must have, by the standard's names. They are stated here a second
/// time on purpose: a game does not ask the product.
namespace limits {
inline constexpr std::size_t triangles = 70'000, materials = 16, nodes = 20'000;
inline constexpr std::array bones{"hips",          "spine",         "head",          "leftUpperLeg",
                                  "leftLowerLeg",  "leftFoot",      "rightUpperLeg", "rightLowerLeg",
                                  "rightFoot",     "leftUpperArm",  "leftLowerArm",  "leftHand",
                                  "rightUpperArm", "rightLowerArm", "rightHand"};
inline constexpr std::array faces{"happy", "angry", "sad", "surprised", "aa", "blink"};
} // namespace limits

/// A bone or a part, by place, turn and scale under the one above it.
struct Node {
    std::string name;
    int above = -1;
    glm::vec3 place{0}, scale{1};
    glm::quat turn{1, 0, 0, 0};
};
struct Bind {
    int node = 0;
    glm::mat4 matrix{1.0f};
};
/// What one part shows in one material.
struct Part {
    int node = 0, skin = -1, material = -1;
    std::vector<glm::vec3> places, normals;
    std::vector<glm::vec2> uvs;
    std::vector<glm::uvec4> joints;
    std::vector<glm::vec4> weights;
    std::vector<std::uint32_t> corners;
    std::vector<std::vector<glm::vec3>> morphs;
};
struct Face {
    struct Morph {
        int node = 0;
        std::size_t index = 0;
        float weight = 1;
    };
    struct Colour {
        int material = 0;
        glm::vec3 to{1};
    };
    std::string name;
    bool preset = true, binary = false;
    std::vector<Morph> morphs;
    std::vector<Colour> colours;
    std::string blink = "none", look = "none", mouth = "none"; ///< what it does to those
};
struct Look {
    struct Range {
        float most = 90, gives = 10;
        /// What so many degrees aside come to.
        float given(float degrees) const { return most > 0 ? std::min(degrees / most, 1.0f) * gives : 0; }
    };
    bool byBones = true;
    glm::vec3 eyes{0}; ///< from the head bone
    Range inward, outward, up, down;
};
struct Ball {
    int node = 0;
    glm::vec3 from{0}, to{0};
    float radius = 0;
};
/// A bone that swings about the one above it, its tail where the next one begins.
struct Swinging {
    int node = 0, next = -1;
    float radius = 0, stiffness = 1, gravity = 0, drag = 0.5f;
    glm::vec3 gravityTo{0, -1, 0};
    std::vector<int> balls;
};
struct Material {
    std::string name;
    glm::vec3 colour{1};
    std::optional<world::Picture> picture;
};

/// An avatar as the game holds it: metres, Y up, facing +Z.
struct Figure {
    std::string file, name, version;
    std::vector<std::string> authors;
    std::string licence, wearer;
    std::vector<Node> nodes; ///< what is above comes first
    std::vector<Part> parts;
    std::vector<std::vector<Bind>> skins;
    std::vector<Material> materials;
    std::map<std::string, int, std::less<>> bones; ///< node by role
    std::vector<Face> faces;
    std::optional<Look> look;
    std::vector<Ball> balls;
    std::vector<Swinging> swinging;
    std::size_t triangles = 0, bytes = 0;

    int bone(std::string_view role) const {
        const auto found = bones.find(role);
        return found == bones.end() ? -1 : found->second;
    }
};

/// Loads the one .vrm of a folder and refuses as the game does.
std::optional<Figure> loadFigure(const std::filesystem::path& folder, TryReport& report);

/// What the figure does at a moment.
struct Doing {
    std::map<std::string, float> faces; ///< how much of each, 0 to 1
    glm::vec2 look{0};                  ///< degrees to its left and up
    std::map<int, glm::quat> turns;     ///< of nodes, in place of their own
};

/// How much of each face is seen: binary ones wholly or not, eyes and mouth out of the way of those that
/// override them.
std::map<std::string, float> seenFaces(const Figure& figure, const Doing& doing);

/// The world matrix of every node.
std::vector<glm::mat4> standing(const Figure& figure, const Doing& doing);

/// A part's corners, with morph targets `seen` and bones at `world`.
world::Shape posed(const Figure& figure, const Part& part, const std::map<std::string, float>& seen,
                   const std::vector<glm::mat4>& world);

/// Lets bones swing (VRMC_springBone 1.0, its own algorithm: a Verlet step towards where the bone points at
/// rest, held at the bone's length and out of balls).
class Swing {
public:
    explicit Swing(const Figure& figure);
    /// One step of time; gives the turns of bones that swing into `doing`.
    void step(const Figure& figure, Doing& doing, float seconds);
    bool any() const { return !bones_.empty(); }

private:
    struct State {
        glm::vec3 now{0}, before{0}; ///< of the tail, in the world
        glm::vec3 axis{0, 1, 0};     ///< to the tail, in the bone's own space
        float length = 0;            ///< in the bone's own space
    };
    std::vector<State> bones_;
};

} // namespace zl::standins::mirror
