#include "core/solids/direct_light.h"

#include "core/solids/samples.h"

#include <algorithm>
#include <array>

namespace zl::solids {

namespace {

constexpr int firstLook = 4; ///< rays that tell light, shadow and what is between apart
constexpr int step = 4;      ///< pixels between those that have all their rays where a shadow is very soft

/// How much of a light a place sees.
struct Seen {
    double lit = 0, all = 0;
    double share() const { return all > 0 ? lit / all : 0; }
};

class OneLight {
public:
    OneLight(const LitScene& scene, const LitFace& face, const FaceTexels& texels, const Lamplight& light,
             std::uint64_t seed, int samples)
        : scene_(scene), face_(face), texels_(texels), light_(light), seed_(seed), samples_(samples),
          seen_(texels.at.size()), found_(texels.at.size(), Found::AllOrNone), fine_(texels.at.size(), 0),
          between_(texels.at.size(), -1) {}

    void addTo(std::vector<glm::vec3>& out, const Progress& progress) {
        const auto among = scene_.between(face_, {face_.least, face_.most}, light_, scene_.opaque());
        for (int y = 0; y < texels_.tilesDown(); ++y) {
            progress.checkCancel();
            for (int x = 0; x < texels_.tilesAcross(); ++x) lookAt(x, y, among);
        }
        for (int y = 0; y < texels_.height; y += step) {
            progress.checkCancel();
            for (int x = 0; x < texels_.width; x += step) soften(x, y);
        }
        for (std::size_t i = 0; i < out.size(); ++i)
            if (const double share = texels_.covered[i] ? shareOf(i) : 0; share > 0)
                out[i] += light_.on(glm::dvec3(texels_.at[i]), glm::dvec3(texels_.normal[i])) * float(share);
    }

private:
    enum class Found : char { AllOrNone, Soft, Free }; ///< Free: nothing can be between

    void lookAt(int tileX, int tileY, const std::vector<std::size_t>& among) {
        const auto box = texels_.boxOf({tileX, tileY});
        if (!box) return;
        const bool free = among.empty() || scene_.between(face_, *box, light_, among).empty();
        const glm::ivec2 tile(tileX, tileY), side(tileSide);
        texels_.eachOf(tile, side, [&](int x, int y) {
            const std::size_t i = texels_.index(x, y);
            if (free)
                seen_[i] = {1, 1}, found_[i] = Found::Free;
            else
                add(i, 0, light_.isPoint() ? 1 : firstLook);
        });
        if (free) return;
        cast();
        texels_.eachOf(tile, side, [&](int x, int y) {
            const std::size_t i = texels_.index(x, y);
            if (seen_[i].lit > 0 && seen_[i].lit < seen_[i].all) found_[i] = Found::Soft;
        });
    }

    double shareOf(std::size_t i) const { return between_[i] >= 0 ? between_[i] : seen_[i].share(); }

    /// A pixel that may lie in a soft shadow with all its rays.
    double finely(int x, int y) {
        const std::size_t i = texels_.index(x, y);
        if (isNearSoft(x, y) && !fine_[i]) add(i, firstLook, samples_), cast(), fine_[i] = 1;
        return seen_[i].share();
    }

    /// A square of pixels: where its corners see much the same of the light, and no first look between them
    /// tells otherwise, what is between is between.
    void soften(int left, int top) {
        const int right = std::min(left + step, texels_.width - 1),
                  bottom = std::min(top + step, texels_.height - 1);
        bool soft = false, whole = true;
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x) {
                whole &= bool(texels_.covered[texels_.index(x, y)]);
                soft = soft || isNearSoft(x, y);
            }
        if (!soft) return;
        constexpr double alike = 0.04, unlike = 0.6;
        double corners[4] = {};
        if (whole) {
            corners[0] = finely(left, top), corners[1] = finely(right, top);
            corners[2] = finely(left, bottom), corners[3] = finely(right, bottom);
            whole = std::ranges::max(corners) - std::ranges::min(corners) <= alike;
        }
        const auto mean = [&](int x, int y) {
            const double u = right > left ? double(x - left) / (right - left) : 0,
                         v = bottom > top ? double(y - top) / (bottom - top) : 0;
            return glm::mix(glm::mix(corners[0], corners[1], u), glm::mix(corners[2], corners[3], u), v);
        };
        for (int y = top; y <= bottom && whole; ++y)
            for (int x = left; x <= right && whole; ++x)
                whole = std::abs(seen_[texels_.index(x, y)].share() - mean(x, y)) <= unlike;
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x) {
                const std::size_t i = texels_.index(x, y);
                if (!texels_.covered[i] || fine_[i] || between_[i] >= 0) continue;
                if (whole)
                    between_[i] = float(mean(x, y));
                else
                    finely(x, y);
            }
    }

    /// Rays wait until enough are there to go together; cast() sends those that are left.
    void add(std::size_t i, int first, int end) {
        const glm::vec3 from = texels_.at[i] + texels_.normal[i] * scene_.above(texels_.at[i]);
        const Lamplight::Aim aim = light_.aim(from, texels_.normal[i], glm::vec2(sharesOf(seed_ + i)));
        for (int k = first; k < end; ++k) {
            const Lamplight::Aim::Ray ray = aim.ray(k);
            if (ray.weight <= 0) continue;
            waiting_[count_] = {i, ray.weight};
            rays_[count_] = {from, ray.towards, ray.length * (1 - 1e-5f)};
            if (++count_ == rays_.size()) cast();
        }
    }
    void cast() {
        const std::uint32_t blocked = scene_.blocked(std::span(rays_).first(count_));
        for (std::size_t k = 0; k < count_; ++k) {
            Seen& seen = seen_[waiting_[k].first];
            seen.all += waiting_[k].second;
            if (!(blocked >> k & 1)) seen.lit += waiting_[k].second;
        }
        count_ = 0;
    }

    /// A pixel beside one that sees a part of the light may do so too, though its first rays missed it.
    bool isNearSoft(int x, int y) const {
        constexpr int near = 2;
        if (light_.isPoint()) return false;
        if (found_[texels_.index(x, y)] == Found::Free) return false;
        for (int j = std::max(0, y - near); j <= std::min(texels_.height - 1, y + near); ++j)
            for (int i = std::max(0, x - near); i <= std::min(texels_.width - 1, x + near); ++i)
                if (found_[texels_.index(i, j)] == Found::Soft) return true;
        return false;
    }

    const LitScene& scene_;
    const LitFace& face_;
    const FaceTexels& texels_;
    const Lamplight& light_;
    std::uint64_t seed_;
    int samples_;
    std::vector<Seen> seen_;
    std::array<geometry::RayScene::Ray, geometry::RayScene::together> rays_;
    std::array<std::pair<std::size_t, float>, geometry::RayScene::together> waiting_; ///< pixel, weight
    std::size_t count_ = 0;
    std::vector<Found> found_;
    std::vector<char> fine_;     ///< has all its rays
    std::vector<float> between_; ///< what is taken from pixels beside it; below 0 where nothing is
};

} // namespace

std::vector<glm::vec3> directLight(const LitScene& scene, const LitFace& face, const FaceTexels& texels,
                                   int samples, std::uint64_t seed, const Progress& progress) {
    std::vector<glm::vec3> out(texels.at.size(), glm::vec3(0));
    for (std::size_t l = 0; l < scene.lights().size(); ++l)
        OneLight(scene, face, texels, scene.lights()[l], mixed(seed + l), samples).addTo(out, progress);
    return out;
}

Hash directKey(const LitScene& scene, const LitFace& face, Hash settings) {
    const Hash own[] = {scene.keyOf(face.part), Hash(face.run), settings};
    Hash key = hashBytes(own, sizeof own);
    for (const auto& [number, light] : scene.shown().scene.lights) {
        // Field by field: a struct has gaps that hold anything.
        const double words[] = {double(light.kind), light.at.x,     light.at.y,     light.at.z,
                                light.turn.x,       light.turn.y,   light.turn.z,   light.colour.r,
                                light.colour.g,     light.colour.b, light.strength, light.size.x,
                                light.size.y};
        key = hashBytes(words, sizeof words, key);
    }
    for (const Lamplight& light : scene.lights())
        for (const std::size_t part : scene.between(face, {face.least, face.most}, light, scene.opaque())) {
            const Hash between = scene.keyOf(part);
            key = hashBytes(&between, sizeof between, key);
        }
    return key;
}

} // namespace zl::solids
