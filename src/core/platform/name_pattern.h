#pragma once
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace zl::platform {

/// How a platform writes names: a POSIX extended regular expression that the whole of a name must match.
/// Matching takes the product of both lengths, whatever the expression.
class NamePattern {
public:
    /// Throws Error for what is no such expression.
    explicit NamePattern(const std::string& expression);
    bool matches(const std::string& name) const;
    /// Where it stands within a text: what it matched, and what each of its brackets did, the whole first.
    std::optional<std::vector<std::string>> found(const std::string& text) const;

private:
    struct Compiled;
    std::shared_ptr<const Compiled> compiled_;
};

/// An expression that matches this text and nothing else.
std::string patternOf(std::string_view text);

} // namespace zl::platform
