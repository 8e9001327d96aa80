#pragma once
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace zl::platform {

/// A path with places: `values` gives what each stands for as a name of words; `{name}` writes it in small
/// letters with hyphens, `{name:capitals}` in another style (base/name_styles.h). Throws Error for a place
/// that nothing is known for, naming the nearest, and for a path that leads out of the folder.
std::string filledPath(const std::string& path, const std::map<std::string, std::string>& values);

/// The places in a path as they are written: "name:capitals".
std::vector<std::string> placesIn(const std::string& path);
/// "name" of "name:capitals".
std::string nameOfPlace(const std::string& place);

/// What matches every path that filledPath() makes of this one (base/pattern.h).
std::string pathPattern(std::string_view path);

} // namespace zl::platform
