#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>
#include <span>

namespace zl {

namespace {

std::size_t changesBetween(std::string_view a, std::string_view b) {
    std::vector<std::size_t> row(b.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t(0));
    for (std::size_t i = 0; i < a.size(); ++i) {
        std::size_t corner = std::exchange(row[0], i + 1);
        for (std::size_t j = 0; j < b.size(); ++j) {
            const std::size_t changed = corner + (a[i] != b[j]);
            corner = row[j + 1];
            row[j + 1] = std::min({changed, corner + 1, row[j] + 1});
        }
    }
    return row.back();
}

} // namespace

std::string showNames(const std::vector<std::string>& names) {
    constexpr std::size_t most = 12;
    const std::string first = inARow(std::span(names).first(std::min(most, names.size())));
    return names.size() > most ? fmt::format("{} and {} more", first, names.size() - most) : first;
}

std::string_view nearestWord(std::string_view word, const std::vector<std::string_view>& known) {
    constexpr std::size_t longest = 200; // nobody means a longer one
    const auto distance = [&](std::string_view candidate) {
        return changesBetween(word.substr(0, longest), candidate.substr(0, longest));
    };
    const auto found = std::ranges::min_element(known, {}, distance);
    return found == known.end() || 2 * distance(*found) > word.size() ? std::string_view() : *found;
}

} // namespace zl
