#include "app/solids/solid_forms.h"

#include <cmath>

namespace zl::app {

namespace {

fields::Colour bytesOf(const glm::vec3& colour) {
    fields::Colour out;
    for (int k = 0; k < 3; ++k)
        out.rgb[std::size_t(k)] = std::uint8_t(std::lround(glm::clamp(colour[k], 0.0f, 1.0f) * 255));
    return out;
}
glm::vec3 shareOf(const fields::Colour& colour) {
    return glm::vec3(colour.rgb[0], colour.rgb[1], colour.rgb[2]) / 255.0f;
}
// Forms hold angles in radians; scenes have them in degrees, as round as they were typed.
double inDegrees(double radians) {
    return std::round(glm::degrees(radians) * 1e9) / 1e9;
}
glm::dvec3 inDegrees(const glm::dvec3& radians) {
    return {inDegrees(radians.x), inDegrees(radians.y), inDegrees(radians.z)};
}
/// The colour, as it was where it is the same in bytes.
void take(const fields::Colour& bytes, glm::vec3& colour) {
    if (bytesOf(colour) != bytes) colour = shareOf(bytes);
}

} // namespace

SolidForm SolidForm::of(const solids::Solid& solid) {
    const solids::Shape& shape = solid.shape;
    const glm::dvec3 turn = glm::radians(solid.turn);
    SolidForm out;
    out.name = solid.name, out.kind = shape.kind, out.physics = solid.physics;
    out.across = shape.size.x, out.up = shape.size.y, out.along = shape.size.z;
    out.atAcross = solid.at.x, out.atUp = solid.at.y, out.atAhead = solid.at.z;
    out.turnAcross = turn.x, out.turnUp = turn.y, out.turnAhead = turn.z;
    out.hollow = shape.hollow, out.outline = shape.outline, out.thick = shape.thick;
    out.gap = glm::radians(shape.gap), out.gapFrom = glm::radians(shape.gapFrom);
    out.twist = glm::radians(shape.twist);
    out.footAcross = shape.foot.x, out.footAlong = shape.foot.y;
    out.headAcross = shape.head.x, out.headAlong = shape.head.y;
    out.leanAcross = shape.lean.x, out.leanAlong = shape.lean.y;
    return out;
}

void SolidForm::to(solids::Solid& solid) const {
    solids::Shape& shape = solid.shape;
    solid.name = name, shape.kind = kind, solid.physics = physics;
    shape.size = {across, up, along}, solid.at = {atAcross, atUp, atAhead};
    solid.turn = inDegrees({turnAcross, turnUp, turnAhead});
    shape.hollow = hollow, shape.outline = outline, shape.thick = thick;
    shape.gap = inDegrees(gap), shape.gapFrom = inDegrees(gapFrom), shape.twist = inDegrees(twist);
    shape.foot = {footAcross, footAlong}, shape.head = {headAcross, headAlong};
    shape.lean = {leanAcross, leanAlong};
}

LookForm LookForm::of(const solids::Look& look) {
    return {look.stuff, bytesOf(look.colour), double(look.glow)};
}
void LookForm::to(solids::Look& look) const {
    look.stuff = stuff, look.glow = float(glow);
    take(colour, look.colour);
}

PictureForm PictureForm::of(const solids::Look& look) {
    const UvPlacement& lies = look.placement;
    return {lies.offset.x, lies.offset.y, lies.scale.x, lies.scale.y, lies.turn};
}
void PictureForm::to(solids::Look& look) const {
    look.placement = {glm::vec2(across, down), glm::vec2(repeatsAcross, repeatsDown), float(turn)};
}

LightForm LightForm::of(const solids::Light& light) {
    const glm::dvec3 turn = glm::radians(light.turn);
    LightForm out;
    out.name = light.name, out.kind = light.kind, out.strength = light.strength;
    out.colour = bytesOf(light.colour);
    out.across = light.size.x, out.along = light.size.y, out.wide = glm::radians(light.size.x);
    out.atAcross = light.at.x, out.atUp = light.at.y, out.atAhead = light.at.z;
    out.turnAcross = turn.x, out.turnUp = turn.y, out.turnAhead = turn.z;
    return out;
}
void LightForm::to(solids::Light& light) const {
    light.name = name, light.kind = kind, light.strength = strength;
    take(colour, light.colour);
    light.size = {kind == solids::LightKind::Sun ? inDegrees(wide) : across, along};
    light.at = {atAcross, atUp, atAhead};
    light.turn = inDegrees({turnAcross, turnUp, turnAhead});
}

} // namespace zl::app
