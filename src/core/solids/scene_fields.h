#pragma once
#include "core/solids/scene.h"

#include <algorithm>
#include <span>

namespace zl::solids {

// What solids, lights and groups say of themselves, by the names that files have for it. Each calls `f` with
// a name and the number, text or word that stands for it, to be read or to be written.

inline std::span<const std::string_view> namesOf(Kind) {
    return kindNames;
}
inline std::span<const std::string_view> namesOf(Outline) {
    return outlineNames;
}
inline std::span<const std::string_view> namesOf(Stuff) {
    return stuffNames;
}
inline std::span<const std::string_view> namesOf(Physics) {
    return physicsNames;
}
inline std::span<const std::string_view> namesOf(LightKind) {
    return lightNames;
}

template <class Enum>
concept Named = requires(Enum value) {
    namesOf(value);
};

template <Named Enum>
std::string_view nameOf(Enum value) {
    return namesOf(value)[std::size_t(value)];
}
/// Whether `name` is one of the names, which `value` is then.
template <Named Enum>
bool readName(std::string_view name, Enum& value) {
    const auto names = namesOf(value);
    const auto found = std::ranges::find(names, name);
    if (found == names.end()) return false;
    value = Enum(found - names.begin());
    return true;
}

/// `Is` is a Shape, const or not; so below.
template <class Is, class F>
void eachOfShape(Is& shape, F&& f) {
    f("kind", shape.kind);
    f("size", shape.size);
    f("gap-from", shape.gapFrom);
    f("gap", shape.gap);
    f("hollow", shape.hollow);
    f("outline", shape.outline);
    f("thick", shape.thick);
    f("foot", shape.foot);
    f("head", shape.head);
    f("lean", shape.lean);
    f("twist", shape.twist);
}

template <class Is, class F>
void eachOfLook(Is& look, F&& f) {
    f("stuff", look.stuff);
    f("colour", look.colour);
    f("glow", look.glow);
    f("picture", look.picture);
    f("offset", look.placement.offset);
    f("repeats", look.placement.scale);
    f("turn", look.placement.turn);
}

template <class Is, class F>
void eachOfSolid(Is& solid, F&& f) {
    f("name", solid.name);
    f("at", solid.at);
    f("turn", solid.turn);
    f("group", solid.group);
    f("physics", solid.physics);
}

template <class Is, class F>
void eachOfGroup(Is& group, F&& f) {
    f("name", group.name);
    f("within", group.within);
    f("lead", group.lead);
}

template <class Is, class F>
void eachOfLight(Is& light, F&& f) {
    f("name", light.name);
    f("kind", light.kind);
    f("at", light.at);
    f("turn", light.turn);
    f("colour", light.colour);
    f("strength", light.strength);
    f("size", light.size);
}

} // namespace zl::solids
