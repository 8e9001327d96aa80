#include "core/solids/gathered_light.h"

#include "core/solids/samples.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>

namespace zl::solids {

namespace {

/// Metres above a surface at which places on it see one another or not: lower than any wall.
constexpr float sight = 5e-4f;
/// Metres between places that light is gathered at, at least.
constexpr float narrowest = 0.03f;

/// A direction about `normal`, the likelier the nearer to it (cosine; Malley).
glm::vec3 aroundNormal(const glm::vec3& normal, glm::dvec2 shares) {
    const double r = std::sqrt(shares.x), angle = glm::two_pi<double>() * shares.y;
    const auto x = float(r * std::cos(angle)), y = float(r * std::sin(angle)),
               z = float(std::sqrt(std::max(0.0, 1 - shares.x)));
    const glm::vec3 aside = std::abs(normal.x) > 0.5f ? glm::vec3(0, 1, 0) : glm::vec3(1, 0, 0);
    const glm::vec3 u = glm::normalize(glm::cross(aside, normal)), v = glm::cross(normal, u);
    return u * x + v * y + normal * z;
}

} // namespace

FaceLight tilesOf(const LitScene& scene, const LitFace& face, const FaceTexels& texels) {
    FaceLight out;
    out.width = texels.width, out.height = texels.height;
    const glm::vec2 metres = texels.metres(), pixels(out.width, out.height);
    for (int k = 0; k < 2; ++k) { // thrown back, light changes slowly along a surface
        const float tiles = std::max(3.0f, std::ceil(metres[k] / narrowest));
        out.side[k] = std::max(tileSide, int(std::ceil(pixels[k] / tiles)));
    }
    out.across = (out.width + out.side.x - 1) / out.side.x;
    out.down = (out.height + out.side.y - 1) / out.side.y;
    out.tiles.resize(std::size_t(out.across) * std::size_t(out.down));
    for (int y = 0; y < out.down; ++y)
        for (int x = 0; x < out.across; ++x) {
            FaceLight::Tile& tile = out.tiles[std::size_t(out.numberOf(x, y))];
            const int middle = texels.middleOf({x, y}, out.side);
            if (middle < 0) continue;
            tile.valid = true;
            tile.at = texels.at[std::size_t(middle)], tile.normal = texels.normal[std::size_t(middle)];
            const auto box = texels.boxOf({x, y}, out.side);
            // As wide again on all sides, as pixels look to the tiles beside their own; a little above.
            const glm::dvec3 wide = (box->most - box->least) * 0.6;
            const glm::dvec3 up = glm::dvec3(tile.normal) * (2.0 * double(sight));
            Lamplight::Box over{box->least - wide + glm::min(up, 0.0), box->most + wide + glm::max(up, 0.0)};
            if (face.flat) // without what it lies on, which touches the surface from below
                for (int k = 0; k < 3; ++k) {
                    if (face.normal[k] > 0.999) over.least[k] = box->least[k] + double(sight);
                    if (face.normal[k] < -0.999) over.most[k] = box->most[k] - double(sight);
                }
            tile.crowded = scene.stands(face.part, over);
            if (!tile.crowded) continue;
            std::vector<glm::vec3>& places = out.places[out.numberOf(x, y)];
            for (int j = 0; j < out.side.y; ++j)
                for (int i = 0; i < out.side.x; ++i) {
                    const int px = x * out.side.x + i, py = y * out.side.y + j;
                    const bool there =
                        px < texels.width && py < texels.height && texels.covered[texels.index(px, py)];
                    places.push_back(there ? texels.at[texels.index(px, py)] : tile.at);
                }
        }
    return out;
}

std::vector<glm::vec3> smoothed(const FaceLight& face, const std::vector<glm::vec3>& gathered) {
    std::vector<glm::vec3> out = gathered;
    constexpr float alike = 0.95f; // cosine between normals of what is one surface
    for (int y = 0; y < face.down; ++y)
        for (int x = 0; x < face.across; ++x) {
            const FaceLight::Tile* own = face.tile(x, y);
            if (!own || own->crowded) continue;
            glm::vec3 sum(0);
            float all = 0;
            for (int j = -1; j <= 1; ++j)
                for (int i = -1; i <= 1; ++i) {
                    const FaceLight::Tile* tile = face.tile(x + i, y + j);
                    if (!tile || tile->crowded || glm::dot(tile->normal, own->normal) < alike) continue;
                    const float weight = (i ? 1.0f : 2.0f) * (j ? 1.0f : 2.0f);
                    sum += gathered[std::size_t(face.numberOf(x + i, y + j))] * weight, all += weight;
                }
            out[std::size_t(face.numberOf(x, y))] = sum / all;
        }
    return out;
}

bool Gatherer::sees(const glm::vec3& a, const glm::vec3& normalA, const glm::vec3& b,
                    const glm::vec3& normalB) const {
    const glm::vec3 from = a + normalA * sight, way = b + normalB * sight - from;
    const float length = glm::length(way);
    return length <= 0 || !scene_.blocked(from, way / length, length);
}

glm::vec3 Gatherer::thrownBack(const LitScene::Hit& hit, bool again) const {
    const LitFace& face = scene_.faces()[std::size_t(hit.face)];
    const FaceLight& light = faces_[std::size_t(hit.face)];
    if (light.width == 0) return face.glow;
    const int x = std::clamp(int(hit.uv.x * float(light.width)), 0, light.width - 1),
              y = std::clamp(int(hit.uv.y * float(light.height)), 0, light.height - 1);
    const glm::ivec2 in = glm::ivec2(x, y) / light.side, rest = glm::ivec2(x, y) - in * light.side;
    const FaceLight::Tile* tile = light.tile(in.x, in.y);
    if (!tile) return face.glow;
    if (tile->crowded) {
        const auto& places = light.places.at(light.numberOf(in.x, in.y));
        const glm::vec3& pixel = places[std::size_t(rest.y * light.side.x + rest.x)];
        if (!sees(hit.at, tile->normal, pixel, tile->normal)) return face.glow;
    }
    glm::vec3 falls =
        LightStore::unpacked((*light.direct)[std::size_t(y) * std::size_t(light.width) + std::size_t(x)]);
    if (again && (!tile->crowded || sees(hit.at, tile->normal, tile->at, tile->normal))) falls += tile->light;
    return face.albedo * falls + face.glow;
}

glm::vec3 Gatherer::on(const glm::vec3& at, const glm::vec3& normal, int rays, std::uint64_t seed,
                       bool again) const {
    const glm::vec3 from = at + normal * scene_.above(at);
    const glm::dvec2 start = sharesOf(seed);
    glm::vec3 sum(0);
    for (int k = 0; k < rays; ++k) {
        const glm::vec3 way = aroundNormal(normal, evenly(k, start));
        const LitScene::Hit hit = scene_.hit(from, way);
        if (hit.face >= 0 && settings_.bounces > 0)
            sum += thrownBack(hit, again);
        else if (hit.face == -1 && way.y > 0)
            sum += settings_.sky;
    }
    return sum / float(rays);
}

glm::vec3 Gatherer::onPixel(std::size_t face, const FaceTexels& texels, int x, int y,
                            std::uint64_t seed) const {
    const FaceLight& light = faces_[face];
    const glm::vec2 at = (glm::vec2(x, y) + 0.5f) / glm::vec2(light.side) - 0.5f;
    const glm::ivec2 first(glm::floor(at));
    const glm::vec2 share = at - glm::vec2(first);
    const std::size_t own = texels.index(x, y);
    bool crowded = false;
    for (int j = 0; j < 2; ++j)
        for (int i = 0; i < 2; ++i)
            if (const auto* tile = light.tile(first.x + i, first.y + j)) crowded |= tile->crowded;
    glm::vec3 sum(0);
    float all = 0;
    for (int j = 0; j < 2; ++j)
        for (int i = 0; i < 2; ++i) {
            const FaceLight::Tile* tile = light.tile(first.x + i, first.y + j);
            if (!tile) continue;
            if (crowded && !sees(texels.at[own], texels.normal[own], tile->at, tile->normal)) continue;
            const float weight = (i ? share.x : 1 - share.x) * (j ? share.y : 1 - share.y);
            sum += tile->light * weight, all += weight;
        }
    constexpr float enough = 0.05f;
    if (all > enough) return sum / all;
    return on(texels.at[own], texels.normal[own], std::max(16, settings_.rays / 4), seed, true);
}

} // namespace zl::solids
