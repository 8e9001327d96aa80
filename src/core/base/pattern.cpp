#include "core/base/pattern.h"

#include <algorithm>

namespace zl {

namespace {

/// One character of a pattern: itself, or a star or question mark that stands for others.
struct Sign {
    char letter;
    bool wild;
};

std::vector<Sign> signsOf(std::string_view pattern) {
    std::vector<Sign> signs;
    for (std::size_t i = 0; i < pattern.size(); ++i) {
        const bool taken = pattern[i] == '\\' && i + 1 < pattern.size();
        if (taken) ++i;
        signs.push_back({pattern[i], !taken && (pattern[i] == '*' || pattern[i] == '?')});
    }
    return signs;
}

} // namespace

std::optional<std::vector<std::string>> matchPattern(std::string_view pattern, std::string_view name) {
    // Table of "the rest of the pattern matches the rest of the name", filled from the end.
    const std::vector<Sign> signs = signsOf(pattern);
    const std::size_t p = signs.size(), n = name.size();
    std::vector<char> rest((p + 1) * (n + 1), 0);
    const auto at = [&](std::size_t i, std::size_t j) -> char& { return rest[i * (n + 1) + j]; };
    const auto star = [&](std::size_t i) { return signs[i].wild && signs[i].letter == '*'; };
    at(p, n) = 1;
    for (std::size_t i = p; i-- > 0;)
        for (std::size_t j = n + 1; j-- > 0;) {
            if (star(i))
                at(i, j) = at(i + 1, j) || (j < n && at(i, j + 1));
            else
                at(i, j) = j < n && (signs[i].wild || signs[i].letter == name[j]) && at(i + 1, j + 1);
        }
    if (!at(0, 0)) return std::nullopt;
    std::vector<std::string> captured;
    std::size_t j = 0;
    for (std::size_t i = 0; i < p; ++i) {
        if (star(i)) {
            const std::size_t start = j;
            while (!at(i + 1, j)) ++j; // as little as lets the rest match
            captured.emplace_back(name.substr(start, j - start));
        } else {
            if (signs[i].wild) captured.emplace_back(name.substr(j, 1));
            ++j;
        }
    }
    return captured;
}

std::string patternFor(std::string_view name) {
    std::string out;
    for (std::size_t i = 0; i < name.size(); ++i) {
        const char c = name[i];
        const bool atEnd = i == 0 || i + 1 == name.size();
        if (static_cast<unsigned char>(c) < ' ') {
            out += '?';
            continue;
        }
        if (c == '*' || c == '?' || c == '\\' || c == ',' || (c == ' ' && atEnd)) out += '\\';
        out += c;
    }
    return out;
}

std::string patternsText(const std::vector<std::string>& patterns) {
    std::string out;
    for (const std::string& pattern : patterns) {
        if (!out.empty()) out += ", ";
        for (std::size_t i = 0; i < pattern.size(); ++i) {
            if (pattern[i] == '\\' && i + 1 < pattern.size())
                out += pattern[i++];
            else if (pattern[i] == ',')
                out += '\\';
            out += pattern[i];
        }
    }
    return out;
}

std::vector<std::string> patternsFrom(std::string_view text) {
    std::vector<std::string> out;
    std::string one;
    std::size_t keep = 0; // up to here blanks at the end belong to it
    const auto end = [&] {
        while (one.size() > keep && one.back() == ' ') one.pop_back();
        if (!one.empty()) out.push_back(std::exchange(one, {}));
        keep = 0;
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text[i] == '\\' && i + 1 < text.size()) {
            one += text[i++];
            one += text[i];
            keep = one.size();
        } else if (text[i] == ',') {
            end();
        } else if (text[i] != ' ' || !one.empty()) {
            one += text[i];
        }
    }
    end();
    return out;
}

NamePatterns::NamePatterns(const std::vector<std::string>& patterns) : all_(patterns.empty()) {
    for (const std::string& pattern : patterns) {
        std::string plain;
        bool wild = false;
        for (const Sign& sign : signsOf(pattern)) wild |= sign.wild, plain += sign.letter;
        if (wild)
            wild_.push_back(pattern);
        else
            plain_.insert(plain);
    }
}

bool NamePatterns::match(const std::string& name) const {
    return all_ || plain_.contains(name) || std::ranges::any_of(wild_, [&](const std::string& pattern) {
               return matchPattern(pattern, name).has_value();
           });
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
