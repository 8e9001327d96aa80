#pragma once
#include <pugixml.hpp>

#include <charconv>
#include <string>
#include <string_view>

namespace zl::formats {

/// The text without the characters that XML 1.0 forbids (section 2.2): control characters other than tab and
/// line ends.
inline std::string xmlText(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (const auto u = static_cast<unsigned char>(c); u < ' ' && c != '\t' && c != '\n' && c != '\r')
            c = ' ';
    return out;
}

/// Sets an attribute to a number, shortest and with a point whatever the user's language (the library's own
/// way follows it).
template <class T>
void setNumber(pugi::xml_attribute attribute, T value) {
    char digits[32];
    *std::to_chars(digits, digits + sizeof digits - 1, value).ptr = '\0';
    attribute.set_value(digits);
}

} // namespace zl::formats
