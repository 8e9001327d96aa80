// Rules about parts that a game steers by: nodes of certain names, and parts that are centred on them.
#include "core/platform/rules/all_rules.h"

#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/geometry/wheel_places.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::platform {

Finding measureNodesPresent(const Measures& m, const Sheet&, const RuleSpec& rule) {
    Finding finding;
    std::vector<std::string> missing;
    const auto wanted = patternsFrom(rule.texts.at("names"));
    for (const std::string& pattern : wanted) {
        const NamePatterns names({pattern});
        if (std::ranges::none_of(m.model().nodes, [&](const Node& node) { return names.match(node.name); }))
            missing.push_back(pattern);
    }
    finding.holds = missing.empty();
    finding.canBeTight = false;
    finding.value = double(wanted.size() - missing.size());
    finding.measured = showNumber(finding.value, 0);
    finding.limit = fmt::format("of {}", wanted.size());
    finding.note = missing.empty() ? "All nodes that the platform asks for are there"
                                   : fmt::format("There is no node {}", showNames(missing));
    return finding;
}

Finding measureCentredOn(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const Model& model = m.model();
    const double within = rule.limit("within", 0) * sheet.metresPerUnit;
    const std::string& parts = rule.texts.at("parts");
    const auto world = worldMatrices(model);
    Finding finding;
    finding.canBeTight = false;
    finding.limit = fmt::format("within {}", sheet.showLength(within));
    double farthest = 0;
    std::string worst, alone;

    for (const geometry::PlacedPart& part :
         geometry::placedParts(model, parts, rule.texts.at("on"), rule.texts.at("without"))) {
        if (part.hub < 0) {
            if (alone.empty()) alone = part.hubName;
            finding.nodes.push_back(part.node);
            continue;
        }
        const double away = glm::distance(part.centre, glm::dvec3(world[std::size_t(part.hub)][3]));
        if (away > within) finding.nodes.push_back(part.node);
        if (away >= farthest) farthest = away, worst = model.nodes[std::size_t(part.node)].name;
    }
    finding.holds = finding.nodes.empty();
    finding.value = farthest / sheet.metresPerUnit;
    finding.measured = worst.empty() ? "none" : sheet.showLength(farthest);
    finding.note = !alone.empty()  ? fmt::format("There is no node \"{}\" for a part to be centred on", alone)
                   : worst.empty() ? fmt::format("Nothing is called {}", parts)
                   : finding.holds ? "All are centred"
                                   : fmt::format("\"{}\" is {} away from where it turns", worst,
                                                 sheet.showLength(farthest));
    return finding;
}

Finding measureScaleIsOne(const Measures& m, const Sheet&, const RuleSpec&) {
    const Model& model = m.model();
    const auto scaled = [](const glm::dmat4& matrix) {
        for (int c = 0; c < 3; ++c)
            if (!(std::abs(glm::length(glm::dvec3(matrix[c])) - 1) <= 1e-6)) return true;
        return false;
    };
    Finding finding;
    finding.canBeTight = false;
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (scaled(model.nodes[n].local) || (model.nodes[n].parent < 0 && scaled(model.placement)))
            finding.nodes.push_back(int(n));
    finding.value = double(finding.nodes.size());
    finding.holds = finding.nodes.empty();
    finding.measured = finding.holds ? "1" : fmt::format("{} scaled", showNumber(finding.value, 0));
    finding.limit = "1";
    finding.note = finding.holds
                       ? "Every node has a scale of 1"
                       : fmt::format("\"{}\" is scaled", model.nodes[std::size_t(finding.nodes[0])].name);
    return finding;
}

Finding measureSettingsPresent(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const Model& model = m.model();
    const auto wanted = patternsFrom(rule.texts.at("names"));
    Finding finding;
    finding.canBeTight = false;
    std::string missing;
    for (const int material : usedMaterials(model)) {
        const auto lacks = [&](const std::string& name) {
            return material < 0 || !model.materials[std::size_t(material)].settings.contains(name);
        };
        const auto first = std::ranges::find_if(wanted, lacks);
        if (first == wanted.end()) continue;
        if (missing.empty()) missing = *first;
        finding.materials.push_back(material);
    }
    finding.value = double(finding.materials.size());
    finding.holds = finding.materials.empty();
    finding.measured = finding.holds ? "all" : fmt::format("{} without", showNumber(finding.value, 0));
    finding.limit = fmt::format("{} each", wanted.size());
    if (finding.holds)
        finding.note = "Every material says what the platform asks";
    else
        finding.note = fmt::format(
            "{} does not say \"{}\"",
            finding.materials[0] < 0 ? "A part without a material"
                                     : "\"" + model.materials[std::size_t(finding.materials[0])].name + "\"",
            missing);
    return finding;
}

} // namespace zl::platform
