#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <unordered_set>
#include <vector>

namespace zl {

/// Matches a name against a pattern in which `*` stands for any run of characters and `?` for any one; a
/// backslash before a character takes it as it is. Returns what each `*` and `?` stood for, in order; nothing
/// when the name does not match. Runs in the product of both lengths at worst.
std::optional<std::vector<std::string>> matchPattern(std::string_view pattern, std::string_view name);

/// The pattern that only `name` matches (and others with another control character where it has one).
std::string patternFor(std::string_view name);

/// Several patterns as people type them, separated by commas; a comma within one stands behind a backslash.
std::string patternsText(const std::vector<std::string>& patterns);
std::vector<std::string> patternsFrom(std::string_view text);

/// Whether names match one of several patterns; no patterns at all match everything. Quick however many of
/// them are plain names.
class NamePatterns {
public:
    explicit NamePatterns(const std::vector<std::string>& patterns);
    bool match(const std::string& name) const;

private:
    bool all_ = true;
    std::unordered_set<std::string> plain_;
    std::vector<std::string> wild_;
};

/// A name template: `{1}` … `{9}` are what the pattern's stars stood for, `{n}` is `number`, `{name}` the
/// whole old name. Braces around anything else stay as they are.
std::string filledTemplate(std::string_view text, const std::vector<std::string>& captured,
                           std::string_view name, int number);

} // namespace zl
