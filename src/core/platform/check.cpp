#include "core/platform/check.h"

#include "core/solids/scene_model.h"

#include <algorithm>
#include <set>

namespace zl::platform {

bool FitReport::fits() const {
    return brokenMusts() == 0;
}

std::size_t FitReport::brokenMusts() const {
    return std::ranges::count_if(
        rules, [](const RuleResult& r) { return r.severity == Severity::Must && r.state == State::Broken; });
}

const RuleResult* FitReport::rule(std::string_view id) const {
    for (const RuleResult& result : rules)
        if (result.id == id) return &result;
    return nullptr;
}

const RuleResult* FitReport::tightest() const {
    // Sheets name what matters most first, so the first broken rule says more than the one that is farthest
    // over.
    for (const Severity severity : {Severity::Must, Severity::Should})
        for (const RuleResult& rule : rules)
            if (rule.state == State::Broken && rule.severity == severity) return &rule;
    const auto share = [](const RuleResult& r) { return r.finding.canBeTight ? r.finding.share : 0.0; };
    const auto found = std::ranges::max_element(rules, {}, share);
    return found == rules.end() ? nullptr : &*found;
}

namespace {

/// What faces that wear no material are called in a list of materials.
const std::string noMaterial = "no material";

std::vector<std::string> namesIn(const Finding& finding, const Model& model) {
    std::vector<std::string> names;
    std::set<std::string> known;
    const auto add = [&](const std::string& name) {
        if (known.insert(name).second) names.push_back(name);
    };
    for (const int n : finding.nodes) add(model.nodes[n].name);
    for (const int m : finding.materials) add(m < 0 ? noMaterial : model.materials[m].name);
    return names;
}

bool isAbout(const RuleSpec& rule, const Model& model) {
    return rule.of == Of::All || (rule.of == Of::Solids) == (solids::shownBy(model) != nullptr);
}

} // namespace

bool takesScenes(const Sheet& sheet) {
    return std::ranges::any_of(sheet.rules, [](const RuleSpec& rule) { return rule.of == Of::Solids; });
}

Sheet asFor(const Model& model, const Sheet& sheet) {
    Sheet out = sheet;
    std::erase_if(out.rules, [&](const RuleSpec& rule) { return !isAbout(rule, model); });
    for (RuleSpec& rule : out.rules) rule.of = Of::All;
    return out;
}

FitReport check(const Model& model, const Sheet& sheet, const Progress& progress, const Sizes& sizes) {
    FitReport report;
    report.platform = sheet.id;
    const Measures measures(model, sizes);
    for (std::size_t i = 0; i < sheet.rules.size(); ++i) {
        const RuleSpec& rule = sheet.rules[i];
        if (!isAbout(rule, model)) continue;
        progress.report(double(i) / double(sheet.rules.size()), "checking " + rule.label);
        RuleResult result{rule.id, rule.label, rule.severity, State::Fits, {}, rule.message, rule.mends};
        result.finding = ruleKind(rule.check)->measure(measures, sheet, rule);
        if (!result.finding.holds)
            result.state = State::Broken;
        else if (result.finding.share > tightShare && result.finding.canBeTight)
            result.state = State::Tight;
        result.finding.names = namesIn(result.finding, model);
        report.rules.push_back(std::move(result));
    }
    return report;
}

std::string_view stateName(State state) {
    return state == State::Fits ? "fits" : state == State::Tight ? "tight" : "broken";
}
std::string_view severityName(Severity severity) {
    return severity == Severity::Must ? "must" : "should";
}

} // namespace zl::platform
