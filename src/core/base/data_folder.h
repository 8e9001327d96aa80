#pragma once
#include <cstdlib>
#include <filesystem>

namespace zl {

/// Where a person's own data of this program lies (XDG base directories); empty where there is no such place.
inline std::filesystem::path dataFolder() {
    const char *data = std::getenv("XDG_DATA_HOME"), *home = std::getenv("HOME");
    if (data && *data) return std::filesystem::path(data) / "zest-loom";
    return home && *home ? std::filesystem::path(home) / ".local/share/zest-loom" : std::filesystem::path();
}

} // namespace zl
