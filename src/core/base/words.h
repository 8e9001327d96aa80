#pragma once
#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace zl {

/// "a, b, c": what `wordOf` gives for each of some things.
template <class Things, class WordOf = std::identity>
std::string inARow(const Things& things, WordOf wordOf = {}) {
    std::string out;
    for (const auto& thing : things) {
        if (!out.empty()) out += ", ";
        out += std::string_view(std::invoke(wordOf, thing));
    }
    return out;
}

/// The first dozen of a list of names, separated by commas, and how many more there are.
std::string showNames(const std::vector<std::string>& names);

/// The word among `known` that takes the fewest changes of letters to become `word` (Levenshtein's distance);
/// empty when none is near: when more than half of the letters would change.
std::string_view nearestWord(std::string_view word, const std::vector<std::string_view>& known);

} // namespace zl
