#include "core/files/safe_name.h"

#include "core/base/letters.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>

namespace zl::files {

namespace {

constexpr std::size_t longestPart = 200; // file systems take 255 bytes; some room for a number is left

/// Windows keeps these names for devices, whatever ending they have.
bool isDevice(std::string_view part) {
    static constexpr std::array<std::string_view, 6> devices{"con", "prn", "aux", "nul", "com", "lpt"};
    const std::string stem = lowerCase(part.substr(0, part.find('.')));
    for (const std::string_view device : devices) {
        if (stem == device && device != "com" && device != "lpt") return true;
        if (stem.size() == 4 && stem.starts_with(device) && stem[3] >= '0' && stem[3] <= '9') return true;
    }
    return false;
}

std::string safePart(std::string_view part) {
    std::string out(part);
    for (char& c : out)
        if (static_cast<unsigned char>(c) < 32 || c == 127 ||
            std::string_view("<>:\"|?*\\").find(c) != std::string_view::npos)
            c = '_';
    if (out.size() > longestPart) { // keeps its ending, and no letter in halves
        const std::size_t dot = out.rfind('.');
        const std::string ending =
            dot != std::string::npos && out.size() - dot <= 16 ? out.substr(dot) : std::string();
        std::size_t end = longestPart - ending.size();
        while (end > 0 && (static_cast<unsigned char>(out[end]) & 0xc0) == 0x80) --end;
        out = out.substr(0, end) + ending;
    }
    for (std::size_t i = out.size(); i > 0 && (out[i - 1] == '.' || out[i - 1] == ' '); --i) out[i - 1] = '_';
    if (isDevice(out)) out.insert(out.begin(), '_');
    return out;
}

/// Where the last part's ending begins; the path's length when it has none.
std::size_t endingAt(const std::string& path) {
    const std::size_t slash = path.rfind('/'), dot = path.rfind('.');
    const bool ends = dot != std::string::npos && (slash == std::string::npos || dot > slash + 1) && dot > 0;
    return ends ? dot : path.size();
}

} // namespace

std::string safePath(std::string_view path) {
    std::string out;
    for (;;) {
        const std::size_t end = std::min(path.find('/'), path.size());
        out += safePart(path.substr(0, end));
        if (end == path.size()) return out;
        out += '/';
        path.remove_prefix(end + 1);
    }
}

void UniquePaths::take(std::string_view path) {
    known_.take(lowerCase(path));
}

std::string UniquePaths::given(const std::string& path) {
    const std::string made = known_.made(lowerCase(path));
    const std::size_t end = endingAt(path); // what stands there in `made` and not in `path` is the number
    return path.substr(0, end) + made.substr(end, made.size() - path.size()) + path.substr(end);
}

std::string UniquePaths::beforeEnding(const std::string& path, int number) {
    const std::size_t end = endingAt(path);
    return fmt::format("{}-{}{}", path.substr(0, end), number, path.substr(end));
}

} // namespace zl::files
