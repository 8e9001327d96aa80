// Rules about what a platform reads of the node around everything: its marks, where it stands, and the
// version of the engine that it was made for; and how many of the world's blocks it fills.
#include "core/platform/rules/all_rules.h"

#include "core/base/words.h"
#include "core/contact/marks.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::platform {

Finding measureMarks(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    const auto odd = contact::oddMarks(m.model(), sheet.touch);
    const auto read = contact::marksThatCount(m.model(), sheet.touch);
    Finding finding;
    finding.canBeTight = false;
    finding.holds = odd.empty();
    finding.value = double(odd.size());
    finding.limit = "spelt exactly";
    std::vector<std::string> names;
    for (const contact::MarkPlace* mark : read) names.push_back(mark->name);
    finding.measured = !odd.empty()    ? fmt::format("{} without effect", odd.size())
                       : names.empty() ? "none"
                                       : showNames(names);
    if (!odd.empty())
        finding.note =
            odd[0].why + (odd.size() > 1 ? fmt::format("; {} more do nothing", odd.size() - 1) : "");
    else if (names.empty())
        finding.note = "It has no marks, so it does nothing of its own";
    else
        for (const contact::MarkPlace* mark : read)
            finding.note += fmt::format("{}{} in place {}{}", finding.note.empty() ? "" : ", ", mark->name,
                                        mark->place, mark->does.empty() ? "" : ": " + mark->does);
    for (const contact::OddMark& one : odd) finding.nodes.push_back(one.node);
    return finding;
}

Finding measureHolderAtRest(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    const std::string fault = contact::holderFault(m.model(), sheet.touch);
    Finding finding;
    finding.canBeTight = false;
    finding.holds = fault.empty();
    finding.measured = fault.empty() ? "at rest" : "none";
    finding.limit = "at rest";
    const int holder = contact::holderOf(m.model());
    if (holder >= 0 && m.model().nodes[std::size_t(holder)].mesh < 0 && !fault.empty())
        finding.measured = "not as wanted";
    finding.note = !fault.empty() ? fault
                                  : fmt::format("\"{}\" holds everything, at the origin",
                                                m.model().nodes[std::size_t(holder)].name);
    return finding;
}

Finding measureEngineVersion(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    const std::string& made = m.model().madeFor;
    Finding finding;
    finding.canBeTight = false;
    finding.holds = made.empty() || made == sheet.touch.engine;
    finding.measured = made.empty() ? sheet.touch.engine : made;
    finding.limit = sheet.touch.engine;
    finding.note =
        made.empty()
            ? fmt::format("Nothing says which version it is made for; {} is written", sheet.touch.engine)
        : finding.holds
            ? fmt::format("Made for {}", made)
            : fmt::format("It is made for {}, and {} runs {}", made, sheet.name, sheet.touch.engine);
    return finding;
}

Finding measureWholeBlocks(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const glm::dvec3 size = m.bounds().size() / sheet.metresPerUnit;
    const double within = rule.limit("within", 0.02);
    Finding finding;
    finding.canBeTight = false;
    double worst = 0;
    for (int k = 0; k < 3; ++k) {
        const double whole = std::max(1.0, std::round(size[k]));
        worst = std::max(worst, std::abs(size[k] - whole) / whole);
    }
    finding.holds = worst <= within;
    finding.value = 100 * worst;
    finding.share = within > 0 ? worst / within : 0;
    finding.measured =
        fmt::format("{} × {} × {}", showMeasure(size.x), showMeasure(size.y), showMeasure(size.z));
    finding.limit = fmt::format("whole, to {} %", showNumber(100 * within));
    finding.note = fmt::format("Its sides are {} % off whole blocks at most", showNumber(100 * worst, 1));
    return finding;
}

} // namespace zl::platform
