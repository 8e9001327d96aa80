#include "core/base/pattern.h"

#include <algorithm>

namespace zl {

std::optional<std::vector<std::string>> matchPattern(std::string_view pattern, std::string_view name) {
    // Table of "the rest of the pattern matches the rest of the name", filled from the end.
    const std::size_t p = pattern.size(), n = name.size();
    std::vector<char> rest((p + 1) * (n + 1), 0);
    const auto at = [&](std::size_t i, std::size_t j) -> char& { return rest[i * (n + 1) + j]; };
    at(p, n) = 1;
    for (std::size_t i = p; i-- > 0;)
        for (std::size_t j = n + 1; j-- > 0;) {
            if (pattern[i] == '*')
                at(i, j) = at(i + 1, j) || (j < n && at(i, j + 1));
            else
                at(i, j) = j < n && (pattern[i] == '?' || pattern[i] == name[j]) && at(i + 1, j + 1);
        }
    if (!at(0, 0)) return std::nullopt;
    std::vector<std::string> captured;
    std::size_t j = 0;
    for (std::size_t i = 0; i < p; ++i) {
        if (pattern[i] == '*') {
            const std::size_t start = j;
            while (!at(i + 1, j)) ++j; // as little as lets the rest match
            captured.emplace_back(name.substr(start, j - start));
        } else {
            if (pattern[i] == '?') captured.emplace_back(name.substr(j, 1));
            ++j;
        }
    }
    return captured;
}

bool matchesAny(std::string_view patterns, std::string_view name) {
    bool any = false;
    while (!patterns.empty()) {
        const std::size_t comma = std::min(patterns.find(','), patterns.size());
        std::string_view one = patterns.substr(0, comma);
        while (!one.empty() && one.front() == ' ') one.remove_prefix(1);
        while (!one.empty() && one.back() == ' ') one.remove_suffix(1);
        if (!one.empty()) {
            any = true;
            if (matchPattern(one, name)) return true;
        }
        patterns.remove_prefix(std::min(comma + 1, patterns.size()));
    }
    return !any;
}

std::string filledTemplate(std::string_view text, const std::vector<std::string>& captured,
                           std::string_view name, int number) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const std::string_view rest = text.substr(i);
        if (rest.starts_with("{name}")) {
            out += name;
            i += 5;
        } else if (rest.starts_with("{n}")) {
            out += std::to_string(number);
            i += 2;
        } else if (rest.size() > 2 && rest[0] == '{' && rest[1] >= '1' && rest[1] <= '9' && rest[2] == '}') {
            const std::size_t which = std::size_t(rest[1] - '1');
            if (which < captured.size()) out += captured[which];
            i += 2;
        } else {
            out += text[i];
        }
    }
    return out;
}

} // namespace zl
