#pragma once
#include <string>
#include <variant>

namespace zl {

// Values and names as TOML writes them (toml.io, version 1.0).

std::string tomlText(bool value);
std::string tomlText(const std::string& value);
/// The fewest digits that are read as the same number.
std::string tomlText(double value);
/// A number as people write it: a whole one without a point.
std::string tomlNumber(double value);
template <class... Values>
std::string tomlText(const std::variant<Values...>& value) {
    return std::visit([](const auto& held) { return tomlText(held); }, value);
}

/// A name in front of an equals sign: bare where it may be, else in quotation marks.
std::string tomlKey(const std::string& name);

} // namespace zl
