// Rules about names: written as the platform can read them, and used once only.
#include "core/base/letters.h"
#include "core/base/utf8.h"
#include "core/platform/name_pattern.h"
#include "core/platform/rules/all_rules.h"

#include <fmt/format.h>

namespace zl::platform {

namespace {

/// Objects and used materials by name; for a material the index counts from -1 downward.
std::vector<std::pair<std::string, int>> namesIn(const Model& model) {
    std::vector<std::pair<std::string, int>> names;
    for (int n = 0; n < static_cast<int>(model.nodes.size()); ++n) names.emplace_back(model.nodes[n].name, n);
    for (const int m : usedMaterials(model))
        if (m >= 0) names.emplace_back(model.materials[m].name, -1 - m);
    return names;
}

void light(Finding& finding, int which) {
    if (which >= 0)
        finding.nodes.push_back(which);
    else
        finding.materials.push_back(-1 - which);
}

} // namespace

Finding measureNames(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const NamePattern allowed(rule.texts.at("pattern"));
    constexpr std::size_t longest = 256; // longer ones need no look, and would make matching slow
    Finding finding;
    std::string first;
    for (const auto& [name, which] : namesIn(m.model())) {
        if (name.size() <= longest && allowed.matches(name)) continue;
        if (first.empty()) first = shortened(name, 57);
        finding.value += 1;
        light(finding, which);
    }
    finding.holds = finding.value == 0;
    finding.canBeTight = false;
    finding.measured = finding.holds ? "all" : fmt::format("{} not", showNumber(finding.value, 0));
    finding.limit = rule.texts.at("wanted");
    finding.note = finding.holds ? "All names are written as the platform reads them"
                                 : fmt::format("\"{}\" is not a name the platform reads", first);
    if (finding.value > 1) finding.note += fmt::format(", nor are {} more", showNumber(finding.value - 1, 0));
    return finding;
}

Finding measureNamesOnce(const Measures& m, const Sheet&, const RuleSpec&) {
    std::map<std::string, std::vector<int>> objects, materials;
    for (const auto& [name, which] : namesIn(m.model()))
        (which >= 0 ? objects : materials)[lowerCase(name)].push_back(which);
    Finding finding;
    std::string first;
    for (const auto* kind : {&objects, &materials})
        for (const auto& [name, users] : *kind) {
            if (users.size() < 2) continue;
            if (first.empty()) first = fmt::format("\"{}\" is used {} times", name, users.size());
            finding.value += double(users.size() - 1);
            for (const int which : users) light(finding, which);
        }
    finding.holds = finding.value == 0;
    finding.canBeTight = false;
    finding.measured = finding.holds ? "once each" : fmt::format("{} twice", showNumber(finding.value, 0));
    finding.limit = "once each";
    finding.note = finding.holds ? "Every name is used once, also without regard to case" : first;
    return finding;
}

} // namespace zl::platform
