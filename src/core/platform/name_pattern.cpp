#include "core/platform/name_pattern.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <regex>

namespace zl::platform {

struct NamePattern::Compiled {
    std::regex regex;
};

NamePattern::NamePattern(const std::string& expression) {
    try {
        // The library's own extension: no expression takes time without end.
        const auto kind = std::regex::extended | std::regex_constants::__polynomial;
        compiled_ = std::make_shared<const Compiled>(Compiled{std::regex(expression, kind)});
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

} // namespace zl::platform
