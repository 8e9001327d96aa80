#include "core/texture/worn_look.h"

#include "core/base/error.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_cache.h"
#include "core/texture/resized.h"
#include "core/texture/sample.h"

#include <fmt/format.h>

namespace zl::texture {

namespace {

bool isWhole(float value) {
    return std::abs(value - std::round(value)) < 1e-4f;
}

} // namespace

WornLook::WornLook(Material material, const Model& model) : material_(std::move(material)), model_(model) {
    toRole_.fill(glm::mat3(1.0f));
    for (const PictureRole role : allPictureRoles)
        if (shows(role)) place(role);
}

void WornLook::leaveOut(PictureRole role, const std::string& why) {
    leftOut_.push_back(fmt::format("the {} picture of \"{}\", {}", roleName(role), material_.name, why));
    material_.picture(role) = {};
}

void WornLook::place(PictureRole role) {
    const PictureUse &use = material_.picture(role), &first = *leading();
    if (use.placement == first.placement && use.uvSet == first.uvSet) return;
    if (use.uvSet != first.uvSet)
        return leaveOut(role, fmt::format("which lies on other UVs than its {} picture",
                                          roleName(leadingRole(material_))));
    const glm::mat3 from = glm::mat3(first.placement.matrix());
    if (!(std::abs(glm::determinant(from)) > 1e-12f))
        return leaveOut(
            role, fmt::format("for its {} picture is drawn out endlessly", roleName(leadingRole(material_))));
    toRole_[std::size_t(role)] = glm::mat3(use.placement.matrix()) * glm::inverse(from);
    moved_[std::size_t(role)] = true;
}

glm::ivec2 WornLook::pixels() const {
    glm::ivec2 most(1);
    for (const PictureUse& use : material_.pictures)
        if (use) most = glm::max(most, {model_.images[use.image]->width, model_.images[use.image]->height});
    return most;
}

int WornLook::period(int axis) const {
    int period = 1;
    for (const PictureRole role : allPictureRoles) {
        const PictureUse& use = material_.picture(role);
        if (!use) continue;
        const glm::mat3& to = toRole_[std::size_t(role)];
        const Beyond own = axis == 0 ? use.sampler.across : use.sampler.down;
        if (to[0] == glm::vec3(1, 0, 0) && to[1] == glm::vec3(0, 1, 0)) {
            if (own == Beyond::Clamp) return 0;
            if (own == Beyond::Mirror) period = 2;
        } else if (use.sampler.across != Beyond::Repeat || use.sampler.down != Beyond::Repeat ||
                   !isWhole(to[axis].x) || !isWhole(to[axis].y)) {
            return 0;
        }
    }
    return period;
}

void WornLook::decode(glm::dvec2 wanted) {
    for (const PictureRole role : allPictureRoles) {
        const PictureUse& use = material_.picture(role);
        if (!use) continue;
        const std::pair<int, bool> key{use.image, isColour(role)};
        try {
            auto& level = levels_[key];
            if (!level) level = texture::pixelsOf(model_.images[use.image]);
            while (level->width >= 2 * wanted.x && level->height >= 2 * wanted.y && level->width > 1 &&
                   level->height > 1)
                level = std::make_shared<const Pixels>(
                    halved(*level, key.second ? PixelKind::Colours : PixelKind::Numbers));
            levelOf_[std::size_t(role)] = level.get();
        } catch (const Error&) {
            levels_.erase(key);
            leaveOut(role, "which is broken");
        }
    }
}

glm::dvec2 WornLook::decodedPixels() const {
    glm::dvec2 most(1);
    for (const auto& [key, level] : levels_) most = glm::max(most, glm::dvec2(level->width, level->height));
    return most;
}

glm::vec4 WornLook::pixel(PictureRole role, glm::vec2 at) const {
    const PictureUse& use = material_.picture(role);
    const bool light = isColour(role);
    if (moved_[std::size_t(role)]) at = glm::vec2(toRole_[std::size_t(role)] * glm::vec3(at, 1));
    return sampled(*levelOf_[std::size_t(role)], at, use.sampler, light);
}

glm::vec4 WornLook::colour(glm::vec2 at) const {
    glm::vec4 out = material_.baseColour;
    if (shows(PictureRole::Colour)) out *= glm::vec4(glm::vec3(pixel(PictureRole::Colour, at)), 1);
    if (shows(PictureRole::Opacity))
        out.a *= channelOf(pixel(PictureRole::Opacity, at), material_.picture(PictureRole::Opacity).channel);
    return out;
}

glm::vec3 WornLook::normal(glm::vec2 at) const {
    if (!shows(PictureRole::Normal)) return {0.5f, 0.5f, 1};
    const glm::vec3 kept(pixel(PictureRole::Normal, at));
    // The frame of placed UVs is the UVs' own, turned: with the green channel up and v down, a normal of that
    // frame is n' = (c·x - s·y, s·x + c·y), and mirrored where the placement mirrors.
    const UvPlacement& lie = leading()->placement;
    const float c = std::cos(lie.turn), s = std::sin(lie.turn);
    const glm::vec2 n = (glm::vec2(kept) * 2.0f - 1.0f) * glm::sign(lie.scale);
    return {glm::vec2(c * n.x - s * n.y, s * n.x + c * n.y) * 0.5f + 0.5f, kept.z};
}

glm::vec3 WornLook::emission(glm::vec2 at) const {
    if (!shows(PictureRole::Emission)) return material_.emission;
    return material_.emission * glm::vec3(pixel(PictureRole::Emission, at));
}

glm::vec3 WornLook::specular(glm::vec2 at) const {
    return shows(PictureRole::Specular) ? glm::vec3(pixel(PictureRole::Specular, at)) : glm::vec3(1);
}

float WornLook::number(PictureRole role, glm::vec2 at) const {
    const auto value = [&](PictureRole from) {
        return channelOf(pixel(from, at), material_.picture(from).channel);
    };
    switch (role) {
    case PictureRole::Roughness:
        if (shows(role)) return material_.roughness * value(role);
        return shows(PictureRole::Gloss) ? 1 - value(PictureRole::Gloss) : material_.roughness;
    case PictureRole::Metalness:
        return material_.metalness * (shows(role) ? value(role) : 1);
    case PictureRole::Height:
        return shows(role) ? value(role) : 0.5f;
    default:
        return shows(role) ? value(role) : 1;
    }
}

} // namespace zl::texture
