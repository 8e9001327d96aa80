#pragma once
#include "core/model/mesh.h"

#include <limits>
#include <string_view>

namespace zl::formats::obj {

inline constexpr int absent = std::numeric_limits<int>::min();

/// One corner of a face as written: 1-based, or negative and counted back from the chunk's place.
struct Corner {
    int position, uv, normal;
};

struct Event {
    enum class Kind { Object, Group, Material, Library } kind;
    std::size_t face; ///< first face it concerns
    std::string name;
};

struct Chunk {
    std::string_view text;
    std::vector<glm::vec3> positions, normals, colours;
    std::vector<glm::vec2> uvs;
    std::vector<Corner> corners;
    std::vector<std::uint32_t> faceStart; ///< into corners
    std::vector<Event> events;
    std::size_t ignoredLines = 0, brokenFaces = 0;
    bool other = false; ///< curves, surfaces, lines or points
};

/// Relative indices count back from what the chunk has so far; they are made relative to the chunk's first
/// element here (and stay ≤ 0 or positive within it), told apart from absolute ones by this offset.
inline constexpr int relativeBase = -(1 << 30);

/// Cuts a text at line ends into about `pieces` chunks; a line that a backslash continues stays whole.
std::vector<Chunk> cut(std::string_view text, std::size_t pieces);

/// Reads a chunk's text into its arrays.
void parse(Chunk& chunk);

} // namespace zl::formats::obj
