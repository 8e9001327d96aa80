#include "core/project/numbers.h"

#include "core/steps/number.h"

namespace zl::project {

std::optional<int> numberAskedFor(const Piece& piece, std::string_view platform) {
    std::optional<int> out;
    for (const recipe::Entry& entry : recipeFor(piece, platform)) {
        if (!entry.on || entry.step != steps::Number::info.id) continue;
        const auto number = entry.params.find("number");
        out = number != entry.params.end() && number->is_number_integer() ? number->get<int>() : 0;
    }
    return out;
}

std::map<int, std::string> numbersOfOthers(const Project& project, const Piece& piece,
                                           const platform::Sheet& sheet) {
    std::map<int, std::string> given, out;
    std::vector<const Piece*> unnumbered; // before this one
    bool before = true;
    for (const Piece& other : project.pieces) {
        if (&other == &piece) before = false;
        const auto asked = numberAskedFor(other, sheet.id);
        if (!asked) continue;
        if (*asked > 0) {
            given.try_emplace(*asked, other.name);
            if (&other != &piece) out.try_emplace(*asked, other.name);
        } else if (before) {
            unnumbered.push_back(&other);
        }
    }
    int next = steps::Number::first(&sheet);
    for (const Piece* other : unnumbered) {
        while (given.contains(next)) ++next;
        given.try_emplace(next, other->name), out.try_emplace(next, other->name);
    }
    return out;
}

} // namespace zl::project
