#include "core/steps/number.h"

#include "core/base/error.h"
#include "core/base/words.h"
#include "core/geometry/world.h"
#include "core/model/on_map.h"
#include "core/steps/surroundings.h"

#include <algorithm>
#include <cmath>

namespace zl::steps {

namespace {

/// A limit of the sheet's rule of one kind; `fallback` where it has none.
double limitOf(const platform::Sheet* sheet, std::string_view check, const char* name, double fallback) {
    if (!sheet) return fallback;
    const auto rules = sheet->rulesOf(check);
    return rules.empty() ? fallback : rules[0]->limit(name, fallback);
}

} // namespace

std::pair<int, int> Number::range(const platform::Sheet* sheet) {
    return {int(limitOf(sheet, "number", "least", 1)), int(limitOf(sheet, "number", "most", 1e9))};
}

Model Number::apply(const Model& in, StepContext& context) const {
    Model out = in;
    OnMap world = in.onMap ? *in.onMap : OnMap{};
    const auto others = context.around ? context.around->numbersOfOthers() : std::map<int, std::string>();
    world.number = number;
    if (number <= 0) {
        const auto [least, most] = range(context.sheet);
        for (world.number = least; others.contains(world.number); ++world.number)
            if (world.number >= most)
                throw Refused(fmt::format("every number from {} to {} is taken", least, most), {},
                              "Take a piece off the platform, or widen the sheet's range.");
    }
    if (const auto other = others.find(world.number); other != others.end())
        throw Refused(fmt::format("{} is the number of {} already, so {} cannot have it", world.number,
                                  other->second, context.around->provenance().name),
                      {}, "Give one of the two another.");
    world.viewDistance = viewDistance;
    if (viewDistance <= 0) {
        // A thing is seen from a hundred times its size, in whole tens of metres.
        const auto bounds = geometry::worldBounds(in);
        const double size = bounds.empty() ? 1 : glm::length(bounds.size());
        world.viewDistance =
            std::clamp(10 * std::round(10 * size), limitOf(context.sheet, "view-distance", "least", 10),
                       limitOf(context.sheet, "view-distance", "most", 1000));
    }
    world.traits.clear();
    std::vector<std::string> unknown;
    for (const Trait& row : traits) {
        const auto known = context.sheet ? Trait::known(*context.sheet) : std::vector<std::string>();
        const std::string name = !row.trait.empty() ? row.trait : known.empty() ? "" : known[0];
        if (std::ranges::find(known, name) == known.end())
            unknown.push_back(name);
        else if (std::ranges::find(world.traits, name) == world.traits.end())
            world.traits.push_back(name);
    }
    if (!unknown.empty())
        context.fellShort(context.sheet
                              ? fmt::format("{} knows no {}", context.sheet->name, showNames(unknown))
                              : "no platform says what traits there are");
    context.note(
        fmt::format("number {}, seen from {}", world.number, context.showLength(world.viewDistance)));
    if (!world.traits.empty()) context.note(showNames(world.traits));
    context.facts = {
        {"number", world.number}, {"viewDistance", world.viewDistance}, {"traits", world.traits}};
    out.onMap = std::make_shared<const OnMap>(std::move(world));
    return out;
}

} // namespace zl::steps
