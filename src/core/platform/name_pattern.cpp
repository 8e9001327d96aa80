#include "core/platform/name_pattern.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <regex>

namespace zl::platform {

namespace {

constexpr std::string_view specials = ".[{()*+?^$|\\";

/// POSIX leaves open what a backslash before an ordinary sign means; people mean that sign: "\]", "\-".
std::string plainly(const std::string& expression) {
    std::string out;
    for (std::size_t i = 0; i < expression.size(); ++i) {
        if (expression[i] == '[') { // within brackets a backslash is one
            std::size_t end = i + 1;
            if (end < expression.size() && expression[end] == '^') ++end;
            if (end < expression.size() && expression[end] == ']') ++end;
            end = std::min(expression.find(']', end), expression.size() - 1);
            out += expression.substr(i, end + 1 - i);
            i = end;
        } else if (expression[i] == '\\' && i + 1 < expression.size()) {
            const char next = expression[++i];
            const bool ordinary = !std::isalnum(static_cast<unsigned char>(next)) &&
                                  specials.find(next) == std::string_view::npos;
            if (!ordinary) out += '\\';
            out += next;
        } else
            out += expression[i];
    }
    return out;
}

} // namespace

struct NamePattern::Compiled {
    std::regex regex;
};

NamePattern::NamePattern(const std::string& expression) {
    try {
        // The library's own extension: no expression takes time without end.
        const auto kind = std::regex::extended | std::regex_constants::__polynomial;
        compiled_ = std::make_shared<const Compiled>(Compiled{std::regex(plainly(expression), kind)});
    } catch (const std::regex_error&) {
        throw Error(fmt::format("\"{}\" is not a pattern", expression), {},
                    "Expected a POSIX regular expression such as [a-z0-9_]{1,31}.");
    }
}

bool NamePattern::matches(const std::string& name) const {
    return std::regex_match(name, compiled_->regex);
}

std::optional<std::vector<std::string>> NamePattern::found(const std::string& text) const {
    std::smatch match;
    if (!std::regex_search(text, match, compiled_->regex)) return std::nullopt;
    return std::vector<std::string>(match.begin(), match.end());
}

std::string patternOf(std::string_view text) {
    std::string out;
    for (const char c : text) {
        if (specials.find(c) != std::string_view::npos) out += '\\';
        out += c;
    }
    return out;
}

} // namespace zl::platform
