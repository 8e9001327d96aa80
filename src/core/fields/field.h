#pragma once
#include "core/base/error.h"
#include "core/fields/field_type.h"
#include "core/fields/values.h"
#include "core/selection/selection.h"

#include <fmt/format.h>
#include <glm/glm.hpp>
#include <nlohmann/json.hpp>

#include <array>
#include <cmath>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace zl::platform {
struct Sheet;
}

namespace zl::fields {

struct Choice {
    std::string_view id;
    std::string_view label;
};

/// One parameter of a step or a deliverable, described once: recipe JSON, its checks, the panel, the command
/// line and the manual are made from this.
struct Field {
    std::string_view name;
    std::string_view label;
    std::string_view explanation;
    TypeOf type = number;
    double least = -1e9;
    double most = 1e9;
    std::span<const Choice> choices{};
    std::vector<std::string> (*offers)(const platform::Sheet& sheet) = nullptr; ///< of a word
    std::span<const Field> rowFields{};                                         ///< of a list's rows
    nlohmann::json (*emptyRow)() = nullptr; ///< a new row, as recipes have it
    std::string_view whenField{};           ///< shown only when this choice field …
    std::string_view whenValues{};          ///< … has one of these ids, separated by spaces
    std::string_view heading{};             ///< stands above it and those that follow
    std::string_view leastMeans{}; ///< words shown in place of the smallest value, or of an empty text

    /// The member as JSON, and the other way round for what the type has read.
    nlohmann::json (*get)(const void* owner) = nullptr;
    void (*set)(void* owner, const nlohmann::json& held) = nullptr;

    bool isOf(TypeOf wanted) const { return &type() == &wanted(); }

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
        return with([](Field& f) { f.type = fields::length; });
    }
    constexpr Field degrees() const {
        return with([](Field& f) { f.type = fields::angle; });
    }
    constexpr Field share() const {
        return with([](Field& f) { f.type = fields::share; });
    }
    constexpr Field count() const {
        return with([](Field& f) { f.type = fields::count; });
    }
    constexpr Field between(double low, double high) const {
        return with([&](Field& f) { f.least = low, f.most = high; });
    }
    constexpr Field oneOf(std::span<const Choice> list) const {
        return with([&](Field& f) { f.type = choice, f.choices = list; });
    }
    /// A text that is one of those that the sheet offers; empty is the first of them.
    constexpr Field offeredBySheet(std::vector<std::string> (*words)(const platform::Sheet&)) const {
        return with([&](Field& f) { f.type = word, f.offers = words; });
    }
    constexpr Field when(std::string_view choiceField, std::string_view values) const {
        return with([&](Field& f) { f.whenField = choiceField, f.whenValues = values; });
    }
    /// The first of several that belong together.
    constexpr Field below(std::string_view title) const {
        return with([&](Field& f) { f.heading = title; });
    }
    /// What the smallest value, or an empty text, stands for: 0 as "up to the top".
    constexpr Field leastIs(std::string_view words) const {
        return with([&](Field& f) { f.leastMeans = words; });
    }
};

[[noreturn]] void refuseValue(const Field& field, const nlohmann::json& value, const std::string& expected);
/// At most 500 bytes, without control characters.
std::string checkedText(const Field& field, const nlohmann::json& value);

namespace detail {

template <class T>
struct MemberOf;
template <class Class, class Value>
struct MemberOf<Value Class::*> {
    using Owner = Class;
    using Type = Value;
};

template <class T>
constexpr bool isRows = false;
template <class Row>
constexpr bool isRows<std::vector<Row>> = true;

template <class T>
constexpr TypeOf usualType() {
    if constexpr (std::is_same_v<T, bool>) return flag;
    if constexpr (std::is_same_v<T, int>) return count;
    if constexpr (std::is_same_v<T, glm::dvec3>) return point;
    if constexpr (std::is_same_v<T, std::string>) return text;
    if constexpr (std::is_same_v<T, PartNames>) return parts;
    if constexpr (std::is_same_v<T, Colour>) return colour;
    if constexpr (std::is_same_v<T, selection::Selection>) return selection;
    if constexpr (std::is_same_v<T, ModelRef>) return modelRef;
    if constexpr (std::is_same_v<T, PictureRef>) return pictureRef;
    if constexpr (std::is_same_v<T, NodeRef>) return nodeRef;
    if constexpr (std::is_same_v<T, BoneRef>) return boneRef;
    if constexpr (std::is_same_v<T, ClipRef>) return clipRef;
    if constexpr (std::is_enum_v<T>) return choice;
    if constexpr (isRows<T>) return list;
    return number;
}

template <class Row>
nlohmann::json printedRow();
template <class T>
nlohmann::json held(const T& value);
template <class T>
void hold(T& value, const nlohmann::json& held);

} // namespace detail

/// Describes one data member: bool, int, double, string, dvec3, an enum whose values are the positions of its
/// choices, one of values.h, a Selection, or a vector of rows that have a table of fields themselves.
template <auto Member>
constexpr Field field(std::string_view name, std::string_view label) {
    using Owner = typename detail::MemberOf<decltype(Member)>::Owner;
    using Type = typename detail::MemberOf<decltype(Member)>::Type;
    Field f;
    f.name = name;
    f.label = label;
    f.type = detail::usualType<Type>();
    if constexpr (detail::isRows<Type>) {
        f.rowFields = Type::value_type::fields;
        f.emptyRow = detail::printedRow<typename Type::value_type>;
    }
    f.get = [](const void* owner) { return detail::held(static_cast<const Owner*>(owner)->*Member); };
    f.set = [](void* owner, const nlohmann::json& held) {
        detail::hold(static_cast<Owner*>(owner)->*Member, held);
    };
    return f;
}

template <class... Fields>
constexpr std::array<Field, sizeof...(Fields)> describe(Fields... fields) {
    return {fields...};
}

namespace detail {

template <class Row>
nlohmann::json printedRow() {
    const Row row;
    auto out = nlohmann::json::object();
    for (const Field& f : Row::fields) out[std::string(f.name)] = f.type().print(f, f.get(&row));
    return out;
}

template <class T>
nlohmann::json held(const T& value) {
    if constexpr (std::is_same_v<T, glm::dvec3>) {
        return nlohmann::json::array({value.x, value.y, value.z});
    } else if constexpr (std::is_same_v<T, PartNames>) {
        return value.patterns;
    } else if constexpr (std::is_same_v<T, Colour>) {
        return value.rgb;
    } else if constexpr (std::is_same_v<T, selection::Selection>) {
        return selection::toJson(value);
    } else if constexpr (std::is_enum_v<T>) {
        return static_cast<int>(value);
    } else if constexpr (requires { value.kind; }) {
        return nlohmann::json::array({static_cast<int>(value.kind), value.name});
    } else if constexpr (requires { value.name; }) {
        return value.name;
    } else if constexpr (isRows<T>) {
        auto rows = nlohmann::json::array();
        for (const auto& row : value) {
            rows.push_back(nlohmann::json::object());
            for (const Field& f : T::value_type::fields) rows.back()[std::string(f.name)] = f.get(&row);
        }
        return rows;
    } else {
        return value;
    }
}

template <class T>
void hold(T& value, const nlohmann::json& held) {
    if constexpr (std::is_same_v<T, glm::dvec3>) {
        for (int k = 0; k < 3; ++k) value[k] = held[k].get<double>();
    } else if constexpr (std::is_same_v<T, PartNames>) {
        value.patterns = held.get<std::vector<std::string>>();
    } else if constexpr (std::is_same_v<T, Colour>) {
        value.rgb = held.get<std::array<std::uint8_t, 3>>();
    } else if constexpr (std::is_same_v<T, selection::Selection>) {
        value = selection::fromJson(held);
    } else if constexpr (std::is_enum_v<T>) {
        value = static_cast<T>(held.get<int>());
    } else if constexpr (requires { value.kind; }) {
        value = {static_cast<decltype(value.kind)>(held[0].get<int>()), held[1].get<std::string>()};
    } else if constexpr (requires { value.name; }) {
        value.name = held.get<std::string>();
    } else if constexpr (isRows<T>) {
        value.assign(held.size(), {});
        for (std::size_t i = 0; i < held.size(); ++i)
            for (const Field& f : T::value_type::fields) f.set(&value[i], held[i].at(std::string(f.name)));
    } else {
        value = held.get<T>();
    }
}

} // namespace detail

} // namespace zl::fields
