#include "core/selection/face_ranges.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>

namespace zl::selection {

std::string rangesOf(const std::vector<std::uint32_t>& faces) {
    std::string out;
    for (std::size_t i = 0; i < faces.size();) {
        std::size_t end = i + 1;
        while (end < faces.size() && faces[end] == faces[end - 1] + 1) ++end;
        if (!out.empty()) out += ' ';
        out += end - i == 1 ? fmt::format("{}", faces[i]) : fmt::format("{}-{}", faces[i], faces[end - 1]);
        i = end;
    }
    return out;
}

std::vector<std::uint32_t> facesFrom(std::string_view ranges) {
    constexpr std::size_t most = 100'000'000;
    std::vector<std::uint32_t> faces;
    const char *at = ranges.data(), *end = at + ranges.size();
    const auto refuse = [] {
        throw Error("faces are not numbers and ranges", {}, "Expected text like \"0-11 14 20-31\".");
    };
    const auto number = [&] {
        std::uint32_t value = 0;
        const auto read = std::from_chars(at, end, value);
        if (read.ec != std::errc()) refuse();
        at = read.ptr;
        return value;
    };
    while (at < end) {
        const std::uint32_t first = number();
        std::uint32_t last = first;
        if (at < end && *at == '-') ++at, last = number();
        if (last < first || (at < end && *at != ' ')) refuse();
        if (faces.size() + (last - first) >= most)
            throw Error("a selection holds too many faces", {}, "Choose parts or materials instead.");
        for (std::uint64_t face = first; face <= last; ++face) faces.push_back(std::uint32_t(face));
        if (at < end) ++at;
    }
    std::sort(faces.begin(), faces.end());
    faces.erase(std::unique(faces.begin(), faces.end()), faces.end());
    return faces;
}

} // namespace zl::selection
