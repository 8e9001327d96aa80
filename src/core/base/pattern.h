#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace zl {

/// Matches a name against a pattern in which `*` stands for any run of characters and `?` for any one.
/// Returns what each `*` and `?` stood for, in order; nothing when the name does not match. Runs in the
/// product of both lengths at worst.
std::optional<std::vector<std::string>> matchPattern(std::string_view pattern, std::string_view name);

/// Whether a name matches one of several patterns separated by commas; an empty list matches everything.
bool matchesAny(std::string_view patterns, std::string_view name);

/// A name template: `{1}` … `{9}` are what the pattern's stars stood for, `{n}` is `number`, `{name}` the
/// whole old name. Braces around anything else stay as they are.
std::string filledTemplate(std::string_view text, const std::vector<std::string>& captured,
                           std::string_view name, int number);

} // namespace zl
