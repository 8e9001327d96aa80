#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

#include <array>
#include <optional>

namespace zl::standins::track {

/// The game's limits. They are stated here a second time on purpose: a game does not ask the product.
namespace limits {
inline constexpr std::size_t kartBytes = 192 * 1024, onlineBytes = 1024 * 1024, triangles = 2400, bones = 255;
inline constexpr int pictureEdge = 128;
inline constexpr std::array slots{"drive", "drift", "hop", "trick", "spin", "lose"};
} // namespace limits

struct Bone {
    int above = -1;
    bool seen = true;
    glm::mat4 local{1.0f};
    std::string name;
};
struct Bind {
    int bone = 0;
    glm::mat4 matrix{1.0f};
};
/// Corners that move with one bone, or with up to four of a skin.
struct Part {
    std::string name;
    int bone = 0, skin = -1;
    std::vector<glm::vec3> places, normals;
    std::vector<glm::vec2> uvs;
    std::vector<glm::u8vec4> joints, weights;
    struct Run {
        int material = 0;
        std::vector<std::uint16_t> corners;
    };
    std::vector<Run> runs;
};
struct Material {
    std::string name;
    int picture = -1;
    glm::vec3 colour{1};
    std::size_t settings = 0;
};
struct Track {
    enum class Of { Place, Turn, Scale } of = Of::Place;
    int bone = 0;
    std::vector<float> seconds;
    std::vector<glm::vec4> values;
};
struct Clip {
    std::string name;
    float seconds = 0;
    glm::vec3 way{0}; ///< metres, for the game to add back
    std::vector<Track> tracks;
};
/// What is in the file, and how much of it.
struct ChunkSize {
    std::string tag, what;
    std::size_t bytes = 0;
};

struct Kart {
    std::string name, credit, file;
    float unitsPerMetre = 1;
    std::vector<Bone> bones;
    std::vector<std::vector<Bind>> skins;
    std::vector<Part> parts;
    std::vector<Material> materials;
    std::vector<world::Picture> pictures;
    std::vector<Clip> clips;
    std::array<int, limits::slots.size()> slots{}; ///< clip by slot
    std::vector<ChunkSize> chunks;
    std::size_t bytes = 0, triangles = 0;
};

/// Loads the one kart.NAME.kcb of a folder and refuses as the game does.
std::optional<Kart> loadKart(const std::filesystem::path& folder, TryReport& report);

/// Where a part's corners are `seconds` into a clip (-1: at rest), in the game's units.
world::Shape posed(const Kart& kart, const Part& part, const Part::Run& run, int clip, float seconds);

} // namespace zl::standins::track
