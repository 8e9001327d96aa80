#include "core/render/snapshot.h"

#include "core/geometry/normals.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/world.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/worn_look.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::render {

namespace {

constexpr float pi = 3.14159265f;

/// A small generator of its own state for each pixel (PCG; O'Neill 2014), so that threads do not matter.
class Random {
public:
    explicit Random(std::uint32_t seed) : state_(seed * 747796405u + 2891336453u) { next(); }
    float next() {
        state_ = state_ * 747796405u + 2891336453u;
        std::uint32_t word = ((state_ >> ((state_ >> 28) + 4)) ^ state_) * 277803737u;
        word = (word >> 22) ^ word;
        return float(word >> 8) * (1.0f / 16777216.0f);
    }

private:
    std::uint32_t state_;
};

/// Where a ray goes on from what it meets: towards a spot of the key light and of the sky, each in 0-1.
struct Onward {
    glm::vec2 key, sky;
};

/// The ways of a pixel's rays. They start anywhere, so that pixels differ, and fill the square evenly (the R2
/// sequence; Roberts, "The Unreasonable Effectiveness of Quasirandom Sequences", 2018): far less grain than
/// chance alone leaves.
Onward onwardOf(const Onward& start, int ray) {
    const glm::vec2 moved = float(ray) * glm::vec2(0.7548776662f, 0.5698402910f);
    return {glm::fract(start.key + moved), glm::fract(start.sky + moved)};
}

/// A vector around `n`, cosine-weighted, for a place in the square.
glm::vec3 around(const glm::vec3& n, glm::vec2 place) {
    const float angle = 2 * pi * place.x, r2 = place.y, r = std::sqrt(r2);
    const glm::vec3 side =
        glm::normalize(glm::cross(std::abs(n.y) < 0.9f ? glm::vec3(0, 1, 0) : glm::vec3(1, 0, 0), n));
    return glm::normalize(side * (r * std::cos(angle)) + glm::cross(n, side) * (r * std::sin(angle)) +
                          n * std::sqrt(1 - r2));
}

class Renderer {
public:
    Renderer(const Model& model, const SnapshotOptions& options)
        : options_(options), mesh_(prepared(model)), scene_(mesh_), materials_(triangleMaterials(mesh_)) {
        // A broken picture was reported when the model was read; its material shows its plain colour.
        for (const int m : usedMaterials(model)) {
            if (m < 0) continue;
            texture::WornLook& look = looks_.try_emplace(m, model.materials[m], model).first->second;
            look.decode(glm::dvec2(1e9)); // whole
        }
        frame();
    }

    Pixels render(const Progress& progress) {
        Pixels out{options_.width, options_.height,
                   std::vector<std::uint8_t>(std::size_t(4) * options_.width * options_.height, 255)};
        std::atomic<int> done{0};
        tbb::parallel_for(0, options_.height, [&](int y) {
            if (progress.isCancelled()) return;
            for (int x = 0; x < options_.width; ++x) {
                const glm::vec3 colour = pixel(x, y);
                for (int k = 0; k < 3; ++k)
                    out.rgba[4 * (std::size_t(y) * options_.width + x) + k] = texture::toSrgbByte(colour[k]);
            }
            progress.report(double(++done) / options_.height, "drawing");
        });
        progress.checkCancel();
        return out;
    }

private:
    /// The mean of a pixel's rays, which lie in the fields of a grid. A pixel whose first rays, strewn over
    /// it, all bring the same needs no more: most of a picture is plain.
    glm::vec3 pixel(int x, int y) const {
        Random random(static_cast<std::uint32_t>(y * options_.width + x));
        const int grid = std::max(1, static_cast<int>(std::lround(std::sqrt(options_.samples))));
        const int all = grid * grid,
                  stride = all % 7 == 0 ? 11 : 7; // with no factor in common: each field once
        const Onward start{{random.next(), random.next()}, {random.next(), random.next()}};
        glm::vec3 sum(0), least(4), most(0);
        for (int i = 0; i < all; ++i) {
            if (i == firstRays && glm::all(glm::lessThan(most - least, plain * (most + 0.05f))))
                return sum / float(firstRays);
            const int s = i * stride % all;
            const float px =
                (float(x) + (float(s % grid) + random.next()) / float(grid)) / float(options_.width) * 2 - 1;
            const float py =
                1 - (float(y) + (float(s / grid) + random.next()) / float(grid)) / float(options_.height) * 2;
            const glm::vec3 ray = glm::min(shade(px, py, onwardOf(start, i)), glm::vec3(4));
            sum += ray, least = glm::min(least, ray), most = glm::max(most, ray);
        }
        return sum / float(all);
    }

    static constexpr int firstRays = 9;
    static constexpr float plain = 0.03f;      ///< a part of the brightness that nobody sees
    static constexpr float thrownBack = 0.22f; ///< light from other faces, where these shut out the sky

    static Mesh prepared(const Model& model) {
        Mesh mesh = geometry::flattened(model);
        return mesh.normals.empty() && !mesh.indices.empty() ? geometry::withNormals(mesh) : mesh;
    }

    void frame() {
        const auto bounds = geometry::meshBounds(mesh_);
        const glm::vec3 centre(bounds.centre());
        floor_ = bounds.empty() ? 0.0f : float(bounds.min.y);
        radius_ = std::max(1e-6f, 0.5f * float(glm::length(bounds.size())));
        const float yaw = float(options_.yawRadians), pitch = float(options_.pitchRadians);
        back_ = {std::sin(yaw) * std::cos(pitch), std::sin(pitch), std::cos(yaw) * std::cos(pitch)};
        right_ = glm::normalize(glm::cross(glm::vec3(0, 1, 0), back_));
        up_ = glm::cross(back_, right_);
        key_ = glm::normalize(right_ * -0.55f + glm::vec3(0, 1, 0) * 0.9f + back_ * 0.55f);
        across_ = glm::normalize(glm::cross(key_, back_));
        const float aspect = float(options_.width) / float(options_.height);
        tall_ = std::tan(0.5f * 0.5f);
        // Move back until every corner of the box is inside the picture, with a little air.
        float distance = radius_ * 1.2f;
        for (int i = 0; i < 8 && !bounds.empty(); ++i) {
            const glm::vec3 corner =
                glm::vec3(i & 1 ? bounds.max.x : bounds.min.x, i & 2 ? bounds.max.y : bounds.min.y,
                          i & 4 ? bounds.max.z : bounds.min.z) -
                centre;
            const float depth = glm::dot(corner, back_);
            distance =
                std::max({distance, std::abs(glm::dot(corner, right_)) / (tall_ * aspect * 0.86f) + depth,
                          std::abs(glm::dot(corner, up_)) / (tall_ * 0.86f) + depth});
        }
        eye_ = centre + back_ * float(distance / std::clamp(options_.closeness, 0.1, 10.0));
        aspect_ = aspect;
        epsilon_ = radius_ * 1e-4f;
    }

    glm::vec3 background(float py) const {
        const glm::vec3 top =
            options_.dusk ? glm::vec3(0.020f, 0.030f, 0.036f) : glm::vec3(0.768f, 0.815f, 0.791f);
        const glm::vec3 bottom =
            options_.dusk ? glm::vec3(0.010f, 0.014f, 0.018f) : glm::vec3(0.558f, 0.631f, 0.604f);
        return glm::mix(bottom, top, py * 0.5f + 0.5f);
    }

    /// Light that arrives at a point: a soft key light, and sky and floor around, each by one shadow ray,
    /// which says only whether it arrives: how bright it is, is not left to chance. As strong as the window's
    /// view has them, so that a piece looks alike in both.
    float keyLight(const glm::vec3& at, const glm::vec3& n, glm::vec2 place) const {
        const float facing = glm::dot(n, key_);
        if (facing <= 0) return 0;
        const float angle = 2 * pi * place.x,
                    r = 0.14f * std::sqrt(place.y); // a disc, as the sun's but larger
        const glm::vec3 towards = glm::normalize(key_ + across_ * (r * std::cos(angle)) +
                                                 glm::cross(key_, across_) * (r * std::sin(angle)));
        return glm::dot(n, towards) > 0 && !scene_.blocked(at + n * epsilon_, towards, epsilon_, 1e30f)
                   ? facing
                   : 0;
    }
    float skyLight(const glm::vec3& at, const glm::vec3& n, glm::vec2 place) const {
        if (scene_.blocked(at + n * epsilon_, around(n, place), epsilon_, radius_ * 4)) return thrownBack;
        return 0.75f + 0.25f * (2.0f / 3) * n.y; // the floor, below, is a little darker than the sky
    }

    glm::vec3 shade(float px, float py, const Onward& onward) const {
        const glm::vec3 direction =
            glm::normalize(right_ * (px * tall_ * aspect_) + up_ * (py * tall_) - back_);
        const auto hit = scene_.hit(eye_, direction);
        if (!hit) {
            const glm::vec3 behind = background(py);
            if (!options_.ground || direction.y >= -1e-4f || mesh_.indices.empty()) return behind;
            const glm::vec3 at = eye_ + direction * ((eye_.y - floor_) / -direction.y);
            const float away = glm::length(at - glm::vec3(eye_ - back_ * glm::dot(eye_, back_))) / radius_;
            const float light = 0.45f * keyLight(at, {0, 1, 0}, onward.key) / 0.72f +
                                0.55f * skyLight(at, {0, 1, 0}, onward.sky) / 0.92f;
            return behind * glm::mix(std::min(1.0f, light), 1.0f, std::clamp((away - 6) / 10, 0.0f, 1.0f));
        }
        const std::uint32_t* c = &mesh_.indices[3 * std::size_t(hit->triangle)];
        const float w = 1 - hit->u - hit->v;
        glm::vec3 n = mesh_.normals[c[0]] * w + mesh_.normals[c[1]] * hit->u + mesh_.normals[c[2]] * hit->v;
        n = glm::dot(n, n) > 1e-12f ? glm::normalize(n) : hit->normal;
        glm::vec3 face = hit->normal;
        if (glm::dot(face, direction) > 0) { // its back
            face = -face;
            if (glm::dot(n, face) < 0) n = -n;
        }
        if (glm::dot(n, direction) > 0) n = glm::normalize(n - direction * (2 * glm::dot(n, direction)));
        glm::vec3 colour(0.50f, 0.42f, 0.29f);
        float rough = 0.6f, metal = 0;
        glm::vec3 glow(0);
        if (const int m = materials_[hit->triangle]; m >= 0) {
            const texture::WornLook& look = looks_.at(m);
            glm::vec2 uv(0);
            if (!mesh_.uvSets.empty()) {
                const auto& uvs = mesh_.uvSets[0];
                uv = uvs[c[0]] * w + uvs[c[1]] * hit->u + uvs[c[2]] * hit->v;
            }
            colour = glm::vec3(look.colour(uv));
            rough = look.number(PictureRole::Roughness, uv), metal = look.number(PictureRole::Metalness, uv);
            glow = look.emission(uv);
        }
        const glm::vec3 at = eye_ + direction * hit->distance + face * epsilon_;
        const float key = keyLight(at, n, onward.key), sky = skyLight(at, n, onward.sky);
        const glm::vec3 diffuse =
            colour * (1 - 0.5f * metal) *
            (key * 0.92f * glm::vec3(1, 0.98f, 0.95f) + sky * 0.34f * glm::vec3(0.95f, 0.99f, 1));
        const glm::vec3 mirror = glm::reflect(direction, n);
        const float gloss = std::pow(std::max(0.0f, glm::dot(mirror, key_)), glm::mix(90.0f, 6.0f, rough)) *
                            (1 - rough) * (key > 0 ? 1.0f : 0.2f);
        const float rim = 0.04f + 0.5f * metal;
        return diffuse +
               glm::mix(glm::vec3(1), colour, metal) *
                   (gloss * 0.9f + rim * 0.25f * std::max(0.0f, mirror.y)) +
               glow;
    }

    const SnapshotOptions& options_;
    Mesh mesh_;
    geometry::RayScene scene_;
    std::vector<int> materials_;
    std::map<int, texture::WornLook> looks_; ///< by material
    glm::vec3 eye_{0}, back_{0}, right_{0}, up_{0}, key_{0}, across_{0};
    float tall_ = 1, aspect_ = 1, radius_ = 1, floor_ = 0, epsilon_ = 0;
};

} // namespace

Pixels snapshot(const Model& model, const SnapshotOptions& options, const Progress& progress) {
    progress.report(0, "drawing");
    return Renderer(model, options).render(progress);
}

} // namespace zl::render
