#include "standins/shed/shed_shading.h"

#include <glm/glm.hpp>

#include <map>

namespace zl::standins::shed {

namespace {

constexpr float reliefMetres = 0.012f; ///< from the lowest of a height to its highest

namespace as_cpp {

using namespace glm;

/// The shader's text as C++: what the graphics card calls uniforms are its members.
struct SurfaceLight {
    vec4 lampAt, lamp, sky, ground, relief, eye, own;
    const world::ShadedItem& item;
    vec3 levels;

    vec4 sampled(int which, const vec2& uv) const {
        return world::sampledAt(*item.pictures[std::size_t(which)], uv, levels[which]);
    }
#define SHED_LIGHT(...) __VA_ARGS__
#include "standins/shed/surface_light.inc"
#undef SHED_LIGHT
};

} // namespace as_cpp

/// The same as text.
#define SHED_LIGHT(...) #__VA_ARGS__
constexpr const char* asText =
#include "standins/shed/surface_light.inc"
    ;
#undef SHED_LIGHT

bool heightsDiffer(const world::PictureLevels& relief) {
    const auto& rgba = relief.pictures[0].rgba;
    for (std::size_t p = 7; p < rgba.size(); p += 4)
        if (rgba[p] != rgba[3]) return true;
    return false;
}

} // namespace

ShedShading::ShedShading(const Asset& asset) : low_(asset.low), high_(asset.high) {
    constexpr unsigned char plain[3][4] = {{200, 200, 200, 255}, {128, 128, 255, 255}, {200, 255, 0, 0}};
    std::map<const AssetMaterial*, std::vector<std::shared_ptr<const world::PictureLevels>>> known;
    for (std::size_t i = 0; i < asset.items.size(); ++i) {
        const AssetMaterial& material = asset.materials[asset.materialOf[i]];
        auto& pictures = known[&material];
        for (std::size_t k = pictures.size(); k < 3; ++k) {
            world::Picture picture = material.pictures[k].value_or(
                world::Picture{1, 1, {plain[k][0], plain[k][1], plain[k][2], plain[k][3]}});
            pictures.push_back(
                std::make_shared<const world::PictureLevels>(world::levelsOf(std::move(picture), k == 0)));
        }
        items_.push_back(world::shadedItemOf(asset.items[i].shape, pictures));
        items_.back().own.x = heightsDiffer(*pictures[1]) ? 1.0f : 0.0f;
    }
}

ShedShading::Lamps ShedShading::lamps() const {
    const glm::vec3 size = high_ - low_;
    const float reach = std::max(0.2f, glm::length(size));
    glm::vec4 lampAt(-0.45f, 0.75f, 0.6f, 0), lamp(0), sky(0), ground(0);
    switch (light) {
    case Light::Sun:
        lamp = {1.7f, 1.6f, 1.44f, 0}, sky = {0.36f, 0.42f, 0.50f, 0}, ground = {0.20f, 0.18f, 0.15f, 0};
        break;
    case Light::Cloud:
        sky = {0.85f, 0.88f, 0.92f, 0}, ground = {0.30f, 0.29f, 0.27f, 0};
        break;
    case Light::Lamp:
        lampAt = glm::vec4(low_.x - 0.2f * size.x, high_.y + 0.25f * size.y, high_.z + 0.4f * reach, reach);
        lamp = {2.6f, 2.05f, 1.35f, 0}, sky = {0.05f, 0.06f, 0.08f, 0}, ground = {0.03f, 0.03f, 0.03f, 0};
        break;
    case Light::AllSides:
        sky = ground = glm::vec4(0.85f, 0.85f, 0.85f, 0);
        break;
    }
    const float deep = view == View::Flat ? 0.0f : reliefMetres;
    return {lampAt, lamp, sky, ground, {deep, view == View::Relief ? 1.0f : 0.0f, 0, 0}};
}

std::vector<world::Shading::Value> ShedShading::values() const {
    const Lamps now = lamps();
    return {{"lampAt", now.lampAt},
            {"lamp", now.lamp},
            {"sky", now.sky},
            {"ground", now.ground},
            {"relief", now.relief}};
}

std::string_view ShedShading::text() const {
    return asText;
}

glm::vec4 ShedShading::lit(const world::ShadedItem& item, const glm::vec3& levels,
                           const world::ShadedCorner& at, const glm::vec3& eye) const {
    const Lamps now = lamps();
    as_cpp::SurfaceLight light{now.lampAt,        now.lamp, now.sky, now.ground, now.relief,
                               glm::vec4(eye, 1), item.own, item,    levels};
    return light.lit(at.position, at.normal, at.across, at.down, at.uv);
}

} // namespace zl::standins::shed
