#pragma once
#include <cctype>
#include <string>
#include <string_view>

namespace zl {

/// The text with A–Z made small; letters beyond ASCII stay as they are.
inline std::string lowerCase(std::string_view text) {
    std::string result(text);
    for (char& c : result) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return result;
}

} // namespace zl
