// Rules about what a game plays and shows by its own lists: slots for clips, settings of materials, parts
// that are there and hidden.
#include "core/platform/rules/all_rules.h"

#include "core/base/pattern.h"
#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

Finding measureSlotsFilled(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    std::vector<std::string> empty;
    for (const std::string& slot : sheet.slots)
        if (std::ranges::find(m.model().clipSlots, slot, &ClipSlot::name) == m.model().clipSlots.end())
            empty.push_back(slot);
    Finding finding;
    finding.canBeTight = false;
    finding.holds = empty.empty();
    finding.value = double(sheet.slots.size() - empty.size());
    finding.share = sheet.slots.empty() ? 0 : finding.value / double(sheet.slots.size());
    finding.measured = fmt::format("{} of {}", sheet.slots.size() - empty.size(), sheet.slots.size());
    finding.limit = fmt::format("all {}", sheet.slots.size());
    finding.note = empty.empty() ? "Every slot plays a clip" : "Nothing is played for " + showNames(empty);
    return finding;
}

Finding measureSettingsAsWanted(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    Finding finding;
    finding.canBeTight = false;
    std::size_t worn = 0;
    std::string first;
    for (const int index : usedMaterials(m.model())) {
        ++worn;
        const auto* settings = index < 0 ? nullptr : &m.model().materials[std::size_t(index)].settings;
        for (const auto& [name, value] : sheet.surface.settings) {
            const bool as = settings && settings->contains(name) && settings->at(name) == value;
            if (as) continue;
            finding.materials.push_back(index);
            if (first.empty()) first = name;
            break;
        }
    }
    finding.holds = finding.materials.empty();
    finding.value = double(finding.materials.size());
    finding.measured =
        finding.holds ? fmt::format("all {}", worn) : fmt::format("{} without", finding.materials.size());
    finding.limit = "as wanted";
    if (finding.holds)
        finding.note = "Every material has the platform's settings";
    else
        finding.note =
            fmt::format("{} has not the \"{}\" that is wanted",
                        finding.materials[0] < 0
                            ? "A part without a material"
                            : "\"" + m.model().materials[std::size_t(finding.materials[0])].name + "\"",
                        first);
    return finding;
}

Finding measureHiddenKept(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const NamePatterns wanted(patternsFrom(rule.texts.at("names")));
    Finding finding;
    finding.canBeTight = false;
    std::size_t found = 0;
    for (std::size_t n = 0; n < m.model().nodes.size(); ++n) {
        const Node& node = m.model().nodes[n];
        if (!wanted.match(node.name)) continue;
        ++found;
        if (node.visible) finding.nodes.push_back(int(n));
    }
    const std::string called = rule.texts.at("names");
    finding.holds = found > 0 && finding.nodes.empty();
    finding.measured = found == 0 ? "not there" : finding.holds ? "hidden" : "seen";
    finding.limit = "there, and hidden";
    finding.note = found == 0      ? fmt::format("Nothing is called {}", called)
                   : finding.holds ? fmt::format("{} is there and not seen", called)
                                   : fmt::format("{} is seen", called);
    return finding;
}

} // namespace zl::platform
