#include "core/model/material.h"

#include <cmath>

namespace zl {

std::string_view roleName(PictureRole role) {
    static constexpr std::array<std::string_view, pictureRoles> names{
        "colour",    "opacity", "normal",   "height",    "roughness",
        "metalness", "gloss",   "specular", "occlusion", "emission"};
    return names[std::size_t(role)];
}

bool isColour(PictureRole role) {
    return role == PictureRole::Colour || role == PictureRole::Specular || role == PictureRole::Emission;
}

bool isScalar(PictureRole role) {
    return !isColour(role) && role != PictureRole::Normal;
}

PictureRole otherSayingOf(PictureRole role) {
    return role == PictureRole::Roughness ? PictureRole::Gloss
           : role == PictureRole::Gloss   ? PictureRole::Roughness
                                          : role;
}

glm::vec2 UvPlacement::of(glm::vec2 uv) const {
    const float c = std::cos(turn), s = std::sin(turn);
    uv *= scale;
    return glm::vec2(c * uv.x + s * uv.y, -s * uv.x + c * uv.y) + offset;
}

glm::dmat3 UvPlacement::matrix() const {
    const double c = std::cos(double(turn)), s = std::sin(double(turn));
    return {glm::dvec3(c * scale.x, -s * scale.x, 0), glm::dvec3(s * scale.y, c * scale.y, 0),
            glm::dvec3(glm::dvec2(offset), 1)};
}

void Material::wear(PictureRole role, const PictureUse& use) {
    picture(role) = use;
    switch (role) {
    case PictureRole::Colour:
        baseColour = glm::vec4(1, 1, 1, baseColour.a);
        break;
    case PictureRole::Opacity:
        if (alpha == Alpha::Opaque) alpha = Alpha::Blend;
        break;
    case PictureRole::Roughness:
        roughness = 1;
        break;
    case PictureRole::Metalness:
        metalness = 1;
        break;
    case PictureRole::Emission:
        if (emission == glm::vec3(0)) emission = glm::vec3(1);
        break;
    default:
        break;
    }
}

const PictureUse* Material::leading() const {
    for (const PictureUse& use : pictures)
        if (use) return &use;
    return nullptr;
}

PictureRole leadingRole(const Material& material) {
    for (const PictureRole role : allPictureRoles)
        if (material.picture(role)) return role;
    return PictureRole::Colour;
}

std::vector<PictureRole> rolesLyingApart(const Material& material) {
    std::vector<PictureRole> apart;
    const PictureUse* leading = material.leading();
    for (const PictureRole role : allPictureRoles)
        if (const PictureUse& use = material.picture(role); use && !use.liesAs(*leading))
            apart.push_back(role);
    return apart;
}

} // namespace zl
