#include "core/base/name_list.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl {

std::string showNames(const std::vector<std::string>& names) {
    constexpr std::size_t most = 12;
    std::string out;
    for (std::size_t i = 0; i < std::min(most, names.size()); ++i)
        out += (out.empty() ? "" : ", ") + names[i];
    return names.size() > most ? fmt::format("{} and {} more", out, names.size() - most) : out;
}

} // namespace zl
