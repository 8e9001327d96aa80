#pragma once
#include "core/solids/lit_scene.h"

namespace zl::solids {

/// Pixels of a picture that are worked on together, along each side.
inline constexpr int tileSide = 8;

/// Where each pixel of a face's picture lies in the scene.
struct FaceTexels {
    int width = 0, height = 0;
    std::vector<char> covered; ///< rows from the top
    std::vector<glm::vec3> at, normal;

    int tilesAcross() const { return (width + tileSide - 1) / tileSide; }
    int tilesDown() const { return (height + tileSide - 1) / tileSide; }
    std::size_t index(int x, int y) const { return std::size_t(y) * std::size_t(width) + std::size_t(x); }

    /// Calls `visit` with each covered pixel of a tile of `side` pixels.
    template <class F>
    void eachOf(glm::ivec2 tile, glm::ivec2 side, F visit) const {
        const glm::ivec2 first = tile * side, end = glm::min(first + side, glm::ivec2(width, height));
        for (int y = first.y; y < end.y; ++y)
            for (int x = first.x; x < end.x; ++x)
                if (covered[index(x, y)]) visit(x, y);
    }
    /// The box around the covered places of a tile of `side` pixels; nothing where there are none.
    std::optional<Lamplight::Box> boxOf(glm::ivec2 tile, glm::ivec2 side = glm::ivec2(tileSide)) const;
    /// The covered pixel nearest to a tile's middle, or −1.
    int middleOf(glm::ivec2 tile, glm::ivec2 side) const;
    /// Metres that the picture takes, to the right and down, on the mean.
    glm::vec2 metres() const;
};

/// Lays a face's triangles on a picture of its UVs. Pixels whose middles no triangle covers but whose
/// neighbours' do are left to seams.
FaceTexels texelsOf(const LitScene& scene, const LitFace& face, int width, int height);

} // namespace zl::solids
