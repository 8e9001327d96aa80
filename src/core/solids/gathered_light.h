#pragma once
#include "core/solids/direct_light.h"
#include "core/solids/light_bake.h"

#include <map>

namespace zl::solids {

/// What a face has of light while it is worked out.
struct FaceLight {
    int width = 0, height = 0, across = 0, down = 0; ///< pixels; tiles
    glm::ivec2 side{tileSide}; ///< of a tile, pixels: more where a face is small or narrow
    std::shared_ptr<const LightStore::Direct> direct;
    struct Tile {
        bool valid = false;
        bool crowded = false; ///< something stands on it or right beside it, so neighbours may not see it
        glm::vec3 at{0}, normal{0};
        glm::vec3 light{0}; ///< gathered
    };
    std::vector<Tile> tiles;
    std::map<int, std::vector<glm::vec3>> places; ///< of the pixels of crowded tiles

    const Tile* tile(int x, int y) const {
        if (x < 0 || y < 0 || x >= across || y >= down) return nullptr;
        const Tile& out = tiles[std::size_t(y) * std::size_t(across) + std::size_t(x)];
        return out.valid ? &out : nullptr;
    }
    int numberOf(int x, int y) const { return y * across + x; }
};

/// The tiles of a face, not lit yet.
FaceLight tilesOf(const LitScene& scene, const LitFace& face, const FaceTexels& texels);

/// Light that was gathered on a face's tiles with less grain: each tile's with its neighbours' (1 2 1 both
/// ways) where nothing stands between them.
std::vector<glm::vec3> smoothed(const FaceLight& face, const std::vector<glm::vec3>& gathered);

/// Light that comes from other faces and from the sky.
class Gatherer {
public:
    Gatherer(const LitScene& scene, const std::vector<FaceLight>& faces, const BakeSettings& settings)
        : scene_(scene), faces_(faces), settings_(settings) {}

    /// On a place, by `rays` rays. What faces throw back is what they have of direct light, and of what was
    /// gathered before where `again`.
    glm::vec3 on(const glm::vec3& at, const glm::vec3& normal, int rays, std::uint64_t seed,
                 bool again) const;
    /// On a pixel of a face, from the tiles around it that see it.
    glm::vec3 onPixel(std::size_t face, const FaceTexels& texels, int x, int y, std::uint64_t seed) const;

private:
    glm::vec3 thrownBack(const LitScene::Hit& hit, bool again) const;
    bool sees(const glm::vec3& a, const glm::vec3& normalA, const glm::vec3& b,
              const glm::vec3& normalB) const;

    const LitScene& scene_;
    const std::vector<FaceLight>& faces_;
    const BakeSettings& settings_;
};

} // namespace zl::solids
