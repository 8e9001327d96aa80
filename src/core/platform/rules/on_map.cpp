// Rules about how a game's world knows a thing: its number, how far off it is seen, whether it stands
// anywhere.
#include "core/platform/rules/all_rules.h"

#include "core/model/on_map.h"

#include <fmt/format.h>

namespace zl::platform {

Finding measureNumber(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const int number = m.model().onMap ? m.model().onMap->number : 0;
    const double least = rule.limit("least", 1), most = rule.limit("most", 1e9);
    Finding finding;
    finding.canBeTight = false;
    finding.value = number;
    finding.holds = number >= least && number <= most;
    finding.measured = number == 0 ? "none" : showNumber(number, 0);
    finding.limit = fmt::format("{}–{}", showNumber(least, 0), showNumber(most, 0));
    finding.note = number == 0 ? "The world knows things by a number, and it has none"
                   : finding.holds
                       ? fmt::format("Its number is {}", showNumber(number, 0))
                       : fmt::format("{} is not among the platform's numbers", showNumber(number, 0));
    return finding;
}

Finding measureViewDistance(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const double metres = m.model().onMap ? m.model().onMap->viewDistance : 0;
    const double value = metres / sheet.metresPerUnit, least = rule.limit("least", 0),
                 most = rule.limit("most", 1e9);
    Finding finding;
    finding.canBeTight = false;
    finding.value = value;
    finding.low = least, finding.high = most;
    finding.holds = value >= least && value <= most;
    finding.measured = metres > 0 ? sheet.showLength(metres) : "none";
    finding.limit = fmt::format("{}–{}", showNumber(least, 0), showNumber(most, 0));
    finding.note = metres > 0 ? fmt::format("It is drawn as far off as {}", sheet.showLength(metres))
                              : "Nothing says how far off it is drawn";
    return finding;
}

Finding measurePlaced(const Measures& m, const Sheet&, const RuleSpec&) {
    const std::size_t places = m.model().onMap ? m.model().onMap->places.size() : 0;
    Finding finding;
    finding.canBeTight = false;
    finding.value = double(places);
    finding.holds = places > 0;
    finding.measured = places == 0 ? "nowhere" : showCount(long(places), "place", "places");
    finding.limit = "somewhere";
    finding.note =
        places == 0 ? "It stands nowhere on the map" : fmt::format("It stands at {}", finding.measured);
    return finding;
}

} // namespace zl::platform
