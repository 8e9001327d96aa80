#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace zl {

/// How several words become one name: "Tide bell" is `tide-bell`, `tide_bell`, `tidebell`, `TideBell`,
/// `Tide_bell` (as it is, with what no file name may have as '_'). What has a style already keeps it under
/// that style again.
enum class NameStyle { Hyphens, Underscores, Joined, Capitals, AsItIs };

/// "hyphens", "underscores", "joined", "capitals", "as-it-is", in the order of the enum.
const std::vector<std::string_view>& nameStyleWords();

/// `name` as a file may be called everywhere: at most 80 bytes, never empty, no folder, no dot in front.
std::string styledName(std::string_view name, NameStyle style);

/// The style by which `name` is written as `file`; the first that does, and below 0 where none does.
int styleOf(std::string_view name, std::string_view file);

} // namespace zl
