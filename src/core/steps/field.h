#pragma once
#include "core/base/error.h"

#include <fmt/format.h>
#include <glm/glm.hpp>
#include <nlohmann/json.hpp>

#include <array>
#include <cmath>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace zl::steps {

enum class FieldKind { Number, Length, Angle, Share, Count, Choice, Flag, Point, Text, Parts };
std::string_view fieldKindName(FieldKind kind); ///< "number", "length" …

/// Which parts of a model are meant: patterns of names (base/pattern.h), none for all. A list in JSON; one
/// text with commas, as recipes had it once, is read too.
struct PartNames {
    std::vector<std::string> patterns;

    bool operator==(const PartNames&) const = default;
};

struct Choice {
    std::string_view id;
    std::string_view label;
};

/// One parameter of a step, described once: recipe JSON, its checks, the panel, the command line and the
/// manual are made from this. Lengths are metres, angles radians in the struct and degrees outside, shares
/// 0–1.
struct Field {
    std::string_view name;
    std::string_view label;
    std::string_view explanation;
    FieldKind kind = FieldKind::Number;
    double least = -1e9;
    double most = 1e9;
    std::span<const Choice> choices{};
    std::string_view whenField{};  ///< shown only when this choice field …
    std::string_view whenValues{}; ///< … has one of these ids, separated by spaces
    std::string_view leastMeans{}; ///< words shown in place of the smallest value, or of an empty text

    nlohmann::json (*get)(const void* step) = nullptr;
    void (*set)(void* step, const nlohmann::json& value, const Field& field) = nullptr;

    /// A copy with something changed: what all that follow are made of.
    template <class Change>
    constexpr Field with(const Change& change) const {
        Field copy = *this;
        change(copy);
        return copy;
    }
    constexpr Field help(std::string_view text) const {
        return with([&](Field& f) { f.explanation = text; });
    }
    constexpr Field metres() const {
        return with([](Field& f) { f.kind = FieldKind::Length; });
    }
    constexpr Field degrees() const {
        return with([](Field& f) { f.kind = FieldKind::Angle; });
    }
    constexpr Field share() const {
        return with([](Field& f) { f.kind = FieldKind::Share; });
    }
    constexpr Field count() const {
        return with([](Field& f) { f.kind = FieldKind::Count; });
    }
    constexpr Field between(double low, double high) const {
        return with([&](Field& f) { f.least = low, f.most = high; });
    }
    constexpr Field oneOf(std::span<const Choice> list) const {
        return with([&](Field& f) { f.kind = FieldKind::Choice, f.choices = list; });
    }
    constexpr Field when(std::string_view choiceField, std::string_view values) const {
        return with([&](Field& f) { f.whenField = choiceField, f.whenValues = values; });
    }
    /// What the smallest value, or an empty text, stands for: 0 as "up to the top".
    constexpr Field leastIs(std::string_view words) const {
        return with([&](Field& f) { f.leastMeans = words; });
    }
};

[[noreturn]] void refuseValue(const Field& field, const nlohmann::json& value, const std::string& expected);
double checkedNumber(const Field& field, const nlohmann::json& value);
/// Position of the choice that `value` names.
int checkedChoice(const Field& field, const nlohmann::json& value);
glm::dvec3 checkedPoint(const Field& field, const nlohmann::json& value);
/// At most 500 bytes, without control characters.
std::string checkedText(const Field& field, const nlohmann::json& value);
/// At most 100 000 texts.
PartNames checkedParts(const Field& field, const nlohmann::json& value);

namespace detail {

template <class T>
struct MemberOf;
template <class Class, class Value>
struct MemberOf<Value Class::*> {
    using Owner = Class;
    using Type = Value;
};

template <class T>
nlohmann::json toJson(const T& value) {
    if constexpr (std::is_same_v<T, glm::dvec3>)
        return nlohmann::json::array({value.x, value.y, value.z});
    else if constexpr (std::is_same_v<T, PartNames>)
        return value.patterns;
    else
        return value;
}

} // namespace detail

/// Describes one data member of a step: bool, int, double, string, dvec3, PartNames, or an enum whose values
/// are the positions of its choices.
template <auto Member>
constexpr Field field(std::string_view name, std::string_view label) {
    using Owner = typename detail::MemberOf<decltype(Member)>::Owner;
    using Type = typename detail::MemberOf<decltype(Member)>::Type;
    Field f;
    f.name = name;
    f.label = label;
    if constexpr (std::is_same_v<Type, bool>) f.kind = FieldKind::Flag;
    if constexpr (std::is_same_v<Type, int>) f.kind = FieldKind::Count;
    if constexpr (std::is_same_v<Type, glm::dvec3>) f.kind = FieldKind::Point;
    if constexpr (std::is_same_v<Type, std::string>) f.kind = FieldKind::Text;
    if constexpr (std::is_same_v<Type, PartNames>) f.kind = FieldKind::Parts;
    if constexpr (std::is_enum_v<Type>) f.kind = FieldKind::Choice;
    f.get = [](const void* step) -> nlohmann::json {
        const Type& value = static_cast<const Owner*>(step)->*Member;
        if constexpr (std::is_enum_v<Type>)
            return static_cast<int>(value); // the caller turns it into the choice's id
        else
            return detail::toJson(value);
    };
    f.set = [](void* step, const nlohmann::json& value, const Field& self) {
        Type& target = static_cast<Owner*>(step)->*Member;
        if constexpr (std::is_same_v<Type, bool>) {
            if (!value.is_boolean()) refuseValue(self, value, "true or false");
            target = value.get<bool>();
        } else if constexpr (std::is_enum_v<Type>) {
            target = static_cast<Type>(checkedChoice(self, value));
        } else if constexpr (std::is_same_v<Type, glm::dvec3>) {
            target = checkedPoint(self, value);
        } else if constexpr (std::is_same_v<Type, std::string>) {
            target = checkedText(self, value);
        } else if constexpr (std::is_same_v<Type, PartNames>) {
            target = checkedParts(self, value);
        } else {
            target = static_cast<Type>(checkedNumber(self, value));
        }
    };
    return f;
}

template <class... Fields>
constexpr std::array<Field, sizeof...(Fields)> describe(Fields... fields) {
    return {fields...};
}

} // namespace zl::steps
