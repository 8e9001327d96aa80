#pragma once
#include <algorithm>
#include <string>
#include <string_view>

namespace zl {

/// Whether a text has lines, and each ends in CR and LF.
inline bool hasWindowsLines(std::string_view text) {
    std::size_t lines = 0;
    for (std::size_t at = 0; (at = text.find('\n', at)) != std::string_view::npos; ++at, ++lines)
        if (at == 0 || text[at - 1] != '\r') return false;
    return lines > 0;
}

/// The text with CR and LF wherever a line ends in LF.
inline std::string withWindowsLines(std::string_view text) {
    std::string out;
    out.reserve(text.size() + std::size_t(std::ranges::count(text, '\n')));
    for (const char c : text) {
        if (c == '\n' && (out.empty() || out.back() != '\r')) out += '\r';
        out += c;
    }
    return out;
}

} // namespace zl
