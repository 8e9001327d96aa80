#pragma once
#include <glm/glm.hpp>

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace zl {
struct Mesh;
struct Model;
} // namespace zl

/// Builds of blocks: which block is where, what kinds there are, and how a model becomes one. A block is a
/// unit cube or a part of one; builds stand in blocks, Y up and Z ahead, as their platform has it.
namespace zl::blocks {

/// What a block is, untilted: of a cube from 0 to 1 all that is below the slope from the edge y=1, z=0 to the
/// edge y=0, z=1 (Slope); below that and below the one from y=1, x=0 to y=0, x=1 (Corner); below either of
/// the two (InverseCorner).
enum class Kind : std::uint8_t { Cube, Slope, Corner, InverseCorner };
inline constexpr std::string_view kindNames[] = {"cube", "slope", "corner", "inverse-corner"};
/// Of a cube's volume.
inline constexpr double volumes[] = {1, 1 / 2.0, 1 / 3.0, 2 / 3.0};

/// One of the 24 ways in which a cube can be turned onto itself.
using Turn = std::uint8_t;
inline constexpr int turnCount = 24;

struct Block {
    Kind kind = Kind::Cube;
    Turn turn = 0;
    std::uint8_t colour = 0; ///< an index of the platform's palette

    bool operator==(const Block&) const = default;
};

/// Cells of a box are numbered along X first, then Y, then Z.
inline std::size_t indexIn(glm::ivec3 size, glm::ivec3 cell) {
    return std::size_t(cell.x) +
           std::size_t(size.x) * (std::size_t(cell.y) + std::size_t(size.y) * std::size_t(cell.z));
}
inline glm::ivec3 cellIn(glm::ivec3 size, std::size_t index) {
    const auto x = std::size_t(size.x), y = std::size_t(size.y);
    return {int(index % x), int(index / x % y), int(index / (x * y))};
}
/// Whether a cell is one of the box's.
inline bool isIn(glm::ivec3 size, glm::ivec3 cell) {
    return cell.x >= 0 && cell.y >= 0 && cell.z >= 0 && cell.x < size.x && cell.y < size.y && cell.z < size.z;
}
/// The cell behind a mirror across X in the box's middle.
inline glm::ivec3 imageOf(glm::ivec3 size, glm::ivec3 cell) {
    return {size.x - 1 - cell.x, cell.y, cell.z};
}
/// How many there are. Throws Error for more than can be worked with.
std::size_t cellsIn(glm::ivec3 size);

/// Blocks in a box of cells, each at most one.
class Build {
public:
    Build() = default;
    /// Empty cells. Throws Error for more than can be.
    explicit Build(glm::ivec3 size);

    glm::ivec3 size() const { return size_; }
    bool holds(glm::ivec3 cell) const { return isIn(size_, cell); }
    /// Null for an empty cell and for one outside.
    const Block* at(glm::ivec3 cell) const {
        return holds(cell) && isThere(indexIn(size_, cell)) ? &blocks_[indexIn(size_, cell)] : nullptr;
    }
    /// Cells outside are left alone.
    void put(glm::ivec3 cell, Block block) {
        if (!holds(cell)) return;
        there_[indexIn(size_, cell)] = 1;
        blocks_[indexIn(size_, cell)] = block;
    }
    void take(glm::ivec3 cell) {
        if (!holds(cell)) return;
        there_[indexIn(size_, cell)] = 0;
        blocks_[indexIn(size_, cell)] = {};
    }
    std::size_t count() const;
    /// In the order of Kind.
    std::array<std::size_t, std::size(kindNames)> countByKind() const;

    std::size_t cellCount() const { return there_.size(); }
    bool isThere(std::size_t index) const { return there_[index] != 0; }
    const Block& block(std::size_t index) const { return blocks_[index]; }

    bool operator==(const Build&) const = default;

private:
    glm::ivec3 size_{0};
    std::vector<char> there_;
    std::vector<Block> blocks_; ///< an empty cell's is as made
};

/// A colour that blocks may have.
struct Paint {
    std::string name;
    glm::vec3 colour{1}; ///< sRGB, 0 to 1

    bool operator==(const Paint&) const = default;
};

/// What a model is built of where it is a build of blocks. Its cells are counted from the column on the
/// centre line, the lowest layer and the hindmost row as they were when it was made, so that the same number
/// means the same place before and after it grows.
struct Hull {
    Build build;
    glm::ivec3 first{0};                 ///< the number of the build's first cell
    double edge = 1;                     ///< of a block, metres
    std::vector<Paint> paints;           ///< blocks' colours are places in it
    std::vector<glm::ivec3> taken{};     ///< cells that it empties where it is laid over another hull
    std::shared_ptr<const Hull> below{}; ///< what it is laid over, where it came of that
    /// The mesh that shows it, in metres: a model that shows another, or more, is not this build any more.
    std::shared_ptr<const Mesh> mesh{};

    /// Where cell 0 begins, in the mesh's own metres: the middle of the column at X 0 is at X 0.
    glm::dvec3 cornerOf(glm::ivec3 number) const {
        return (glm::dvec3(number) - glm::dvec3(0.5, 0, 0)) * edge;
    }
    glm::ivec3 numberAt(const glm::dvec3& place) const {
        return glm::ivec3(glm::floor(place / edge + glm::dvec3(0.5, 0, 0)));
    }
    /// By its number; null where none is.
    const Block* at(glm::ivec3 number) const { return build.at(number - first); }
};

/// Null where the model is no build of blocks, or was one and was changed in another way since.
const Hull* hullOf(const Model& model);

} // namespace zl::blocks
