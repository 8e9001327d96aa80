#pragma once
#include <string>
#include <vector>

namespace zl::learn {

/// What names have in common.
struct NameShape {
    std::string pattern; ///< POSIX extended; empty where they have nothing in common that is worth a rule
    std::string words;   ///< the same for people
    std::vector<std::string> breakers; ///< those few that are unlike the others
};

/// The narrowest of: small letters, digits, '_', '-', capitals, spaces and dots, with what all begin with,
/// and a length that is round where many come near it. One name in ten may break it. `names` may hold some
/// twice; fewer than three different ones say nothing.
NameShape shapeOf(const std::vector<std::string>& names);

} // namespace zl::learn
