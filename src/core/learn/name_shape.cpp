#include "core/learn/name_shape.h"

#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <set>

namespace zl::learn {

namespace {

struct Class {
    const char* set; ///< as in a bracket expression; '-' last
    const char* words;
    bool (*has)(unsigned char c);
};

bool small(unsigned char c) {
    return c >= 'a' && c <= 'z';
}
bool digit(unsigned char c) {
    return c >= '0' && c <= '9';
}
bool large(unsigned char c) {
    return c >= 'A' && c <= 'Z';
}

/// From the narrowest to the widest.
constexpr Class classes[] = {
    {"a-z", "small letters", [](unsigned char c) { return small(c); }},
    {"a-z0-9", "small letters and digits", [](unsigned char c) { return small(c) || digit(c); }},
    {"a-z0-9_", "small letters, digits and _",
     [](unsigned char c) { return small(c) || digit(c) || c == '_'; }},
    {"a-z0-9-", "small letters, digits and -",
     [](unsigned char c) { return small(c) || digit(c) || c == '-'; }},
    {"a-z0-9_-", "small letters, digits, _ and -",
     [](unsigned char c) { return small(c) || digit(c) || c == '_' || c == '-'; }},
    {"A-Z0-9_", "capitals, digits and _", [](unsigned char c) { return large(c) || digit(c) || c == '_'; }},
    {"A-Za-z0-9", "letters and digits", [](unsigned char c) { return small(c) || large(c) || digit(c); }},
    {"A-Za-z0-9_", "letters, digits and _",
     [](unsigned char c) { return small(c) || large(c) || digit(c) || c == '_'; }},
    {"A-Za-z0-9_-", "letters, digits, _ and -",
     [](unsigned char c) { return small(c) || large(c) || digit(c) || c == '_' || c == '-'; }},
    {"A-Za-z0-9_.-", "letters, digits, _, . and -",
     [](unsigned char c) { return small(c) || large(c) || digit(c) || c == '_' || c == '.' || c == '-'; }},
    {"A-Za-z0-9_. -", "letters, digits, _, ., - and spaces",
     [](unsigned char c) {
         return small(c) || large(c) || digit(c) || c == '_' || c == '.' || c == '-' || c == ' ';
     }},
};

/// What all begin with, up to the last border of words in it.
std::string beginning(const std::vector<std::string>& names) {
    std::string common = names[0];
    for (const std::string& name : names) {
        std::size_t same = 0;
        while (same < common.size() && same < name.size() && common[same] == name[same]) ++same;
        common.resize(same);
    }
    const std::size_t border = common.find_last_of("_-. ");
    return border == std::string::npos || border == 0 ? "" : common.substr(0, border + 1);
}

std::string plain(const std::string& text) {
    std::string out;
    for (const char c : text) out += c == '.' ? std::string("\\.") : std::string(1, c);
    return out;
}

/// A round length that several come near.
std::size_t lengthFor(const std::vector<std::string>& names) {
    std::size_t longest = 0;
    for (const std::string& name : names) longest = std::max(longest, name.size());
    for (const std::size_t limit : {8, 12, 15, 16, 23, 24, 31, 32, 47, 48, 63, 64})
        if (longest <= limit && longest + 1 >= limit) return limit;
    return 0;
}

} // namespace

NameShape shapeOf(const std::vector<std::string>& all) {
    const std::set<std::string> different(all.begin(), all.end());
    const std::vector<std::string> names(different.begin(), different.end());
    if (names.size() < 3) return {};
    const std::size_t mayBreak = names.size() / 10;
    for (const Class& one : classes) {
        NameShape out;
        std::vector<std::string> holding;
        for (const std::string& name : names)
            (!name.empty() &&
                     std::ranges::all_of(name, [&](char c) { return one.has(static_cast<unsigned char>(c)); })
                 ? holding
                 : out.breakers)
                .push_back(name);
        if (out.breakers.size() > mayBreak || holding.size() < 3) continue;
        const std::string begins = beginning(holding);
        const std::size_t length = lengthFor(holding);
        out.pattern = plain(begins) + fmt::format("[{}]", one.set);
        out.pattern += length > 0 ? fmt::format("{{1,{}}}", length - begins.size()) : "+";
        out.words = one.words;
        if (!begins.empty()) out.words = fmt::format("\"{}\" and then {}", begins, one.words);
        if (length > 0) out.words += fmt::format(", {} at most", length);
        return out;
    }
    return {};
}

} // namespace zl::learn
