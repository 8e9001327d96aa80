#include "core/project/numbers.h"

#include "core/steps/number.h"

namespace zl::project {

std::optional<int> numberAskedFor(const Piece& piece, std::string_view platform) {
    // As recipeFor has them one behind the other, but for all pieces and each of them: nothing is copied.
    const Crossing* crossing = piece.on(platform);
    for (const recipe::Recipe* recipe : {crossing ? &crossing->recipe : nullptr, &piece.recipe}) {
        const int last = recipe ? recipe::lastOf(*recipe, steps::Number::info.id) : -1;
        if (last < 0) continue;
        const auto& params = (*recipe)[std::size_t(last)].params;
        const auto number = params.find("number");
        return number != params.end() && number->is_number_integer() ? number->get<int>() : 0;
    }
    return {};
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
    int next = steps::Number::range(&sheet).first;
    for (const Piece* other : unnumbered) {
        while (given.contains(next)) ++next;
        given.try_emplace(next, other->name), out.try_emplace(next, other->name);
    }
    return out;
}

} // namespace zl::project
