#include "core/base/toml_text.h"

#include "core/base/utf8.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

namespace zl {

std::string tomlText(bool value) {
    return value ? "true" : "false";
}
std::string tomlText(const std::string& value) {
    std::string out = "\"";
    for (const char c : asUtf8(value)) {
        if (c == '"' || c == '\\')
            out += '\\', out += c;
        else if (static_cast<unsigned char>(c) < 0x20 || c == 0x7f)
            out += fmt::format("\\u{:04x}", static_cast<unsigned char>(c));
        else
            out += c;
    }
    return out + '"';
}
/// The fewest digits that are read as the same number.
std::string tomlText(double value) {
    std::string digits = fmt::format("{}", value);
    return digits.find_first_of(".e") == std::string::npos ? digits + ".0" : digits;
}

std::string tomlNumber(double value) {
    const bool whole = value == std::floor(value) && std::abs(value) < 1e15;
    return whole ? fmt::format("{}", static_cast<long long>(value)) : tomlText(value);
}

/// A name in front of an equals sign: bare where it may be, else in quotation marks.
std::string tomlKey(const std::string& name) {
    const bool bare = !name.empty() && std::ranges::all_of(name, [](unsigned char c) {
        return (c < 128 && std::isalnum(c)) || c == '_' || c == '-';
    });
    return bare ? name : tomlText(name);
}

} // namespace zl
