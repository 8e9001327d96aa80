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
/// The colour, as it was where it is the same in bytes.
void take(const fields::Colour& bytes, glm::vec3& colour) {
    if (bytesOf(colour) != bytes) colour = shareOf(bytes);
}

} // namespace

SolidForm SolidForm::of(const solids::Solid& solid) {
    const solids::Shape& shape = solid.shape;
    SolidForm out;
    out.name = solid.name, out.kind = shape.kind, out.physics = solid.physics;
    out.across = shape.size.x, out.up = shape.size.y, out.along = shape.size.z;
    out.atAcross = solid.at.x, out.atUp = solid.at.y, out.atAhead = solid.at.z;
    out.turnAcross = solid.turn.x, out.turnUp = solid.turn.y, out.turnAhead = solid.turn.z;
    out.hollow = shape.hollow, out.outline = shape.outline, out.thick = shape.thick;
    out.gap = shape.gap, out.gapFrom = shape.gapFrom, out.twist = shape.twist;
    out.footAcross = shape.foot.x, out.footAlong = shape.foot.y;
    out.headAcross = shape.head.x, out.headAlong = shape.head.y;
    out.leanAcross = shape.lean.x, out.leanAlong = shape.lean.y;
    return out;
}

void SolidForm::to(solids::Solid& solid) const {
    solids::Shape& shape = solid.shape;
    solid.name = name, shape.kind = kind, solid.physics = physics;
    shape.size = {across, up, along}, solid.at = {atAcross, atUp, atAhead};
    solid.turn = {turnAcross, turnUp, turnAhead};
    shape.hollow = hollow, shape.outline = outline, shape.thick = thick;
    shape.gap = gap, shape.gapFrom = gapFrom, shape.twist = twist;
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

LightForm LightForm::of(const solids::Light& light) {
    LightForm out;
    out.name = light.name, out.kind = light.kind, out.strength = light.strength;
    out.colour = bytesOf(light.colour);
    out.across = out.wide = light.size.x, out.along = light.size.y;
    out.atAcross = light.at.x, out.atUp = light.at.y, out.atAhead = light.at.z;
    out.turnAcross = light.turn.x, out.turnUp = light.turn.y, out.turnAhead = light.turn.z;
    return out;
}
void LightForm::to(solids::Light& light) const {
    light.name = name, light.kind = kind, light.strength = strength;
    take(colour, light.colour);
    light.size = {kind == solids::LightKind::Sun ? wide : across, along};
    light.at = {atAcross, atUp, atAhead};
    light.turn = {turnAcross, turnUp, turnAhead};
}

} // namespace zl::app
