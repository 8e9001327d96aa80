#include "core/base/name_styles.h"

#include "core/base/file_set.h"
#include "core/base/utf8.h"

#include <algorithm>
#include <cctype>

namespace zl {

namespace {

/// Each word with a capital in front. Those within stay, for they may be all that is left of words that were
/// joined before: `TideBell`.
std::string capitals(std::string_view name) {
    std::string out;
    bool begins = true;
    for (const char c : name) {
        const auto code = static_cast<unsigned char>(c);
        const bool isWord = code < 128 && std::isalnum(code);
        if (isWord) out += begins ? char(std::toupper(code)) : c;
        begins = !isWord;
        if (out.size() == 80) break;
    }
    return out;
}

/// Spaces and what file systems refuse become '_', letters stay as they are.
std::string asItIs(std::string_view name) {
    std::string out;
    for (const char c : shortened(asUtf8(name), 80)) {
        const auto code = static_cast<unsigned char>(c);
        const bool refused =
            code <= 0x20 || code == 0x7f || std::string_view("/\\:*?\"<>|").find(c) != std::string_view::npos;
        out += refused ? '_' : c;
    }
    while (!out.empty() && out.front() == '.') out.erase(0, 1);
    while (!out.empty() && out.back() == '.') out.pop_back();
    return out;
}

} // namespace

const std::vector<std::string_view>& nameStyleWords() {
    static const std::vector<std::string_view> words{"hyphens", "underscores", "joined", "capitals",
                                                     "as-it-is"};
    return words;
}

std::string styledName(std::string_view name, NameStyle style) {
    if (style == NameStyle::Capitals) {
        const std::string out = capitals(name);
        return out.empty() ? "Piece" : out;
    }
    std::string out = fileNameFrom(name);
    if (style == NameStyle::Underscores) std::ranges::replace(out, '-', '_');
    if (style == NameStyle::Joined) std::erase_if(out, [](char c) { return c == '-' || c == '_'; });
    if (style == NameStyle::AsItIs) out = asItIs(name);
    return out.empty() ? "piece" : out;
}

int styleOf(std::string_view name, std::string_view file) {
    for (int style = 0; style < int(nameStyleWords().size()); ++style)
        if (styledName(name, NameStyle(style)) == file) return style;
    return -1;
}

} // namespace zl
