#pragma once
#include <charconv>
#include <optional>
#include <string_view>
#include <system_error>

namespace zl {

/// The number that a text begins with, behind blanks, written with a point whatever the user's language;
/// `rest`, when given, receives what follows. Nothing when there is none or it is too large for the type.
template <class T>
std::optional<T> plainNumber(std::string_view text, std::string_view* rest = nullptr) {
    while (!text.empty() && static_cast<unsigned char>(text.front()) <= ' ') text.remove_prefix(1);
    if (text.starts_with('+')) text.remove_prefix(1);
    T value{};
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc()) return std::nullopt;
    if (rest) *rest = text.substr(static_cast<std::size_t>(end - text.data()));
    return value;
}

/// The same where nothing may follow it.
template <class T>
std::optional<T> onlyNumber(std::string_view text) {
    std::string_view rest;
    const auto value = plainNumber<T>(text, &rest);
    return value && rest.empty() ? value : std::nullopt;
}

} // namespace zl
