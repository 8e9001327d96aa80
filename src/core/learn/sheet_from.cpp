#include "core/learn/sheet_from.h"

#include "core/base/toml_text.h"
#include "core/base/words.h"
#include "core/platform/rule.h"
#include "core/platform/sheet_known.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::learn {

namespace {

/// "unit.metres" as sections with keys, in the order in which sheets have them.
std::string keySections(const std::map<std::string, std::string>& keys) {
    std::string out;
    for (const char* section : {"unit", "axes", "figure", "deliver"}) {
        std::string lines;
        for (const auto& [key, value] : keys)
            if (key.starts_with(std::string(section) + "."))
                lines += fmt::format("{} = {}\n", key.substr(std::string_view(section).size() + 1), value);
        if (!lines.empty()) out += fmt::format("[{}]\n{}\n", section, lines);
    }
    return out;
}

/// What was seen, for the gauge's question how a limit is known.
platform::SheetEvidence evidenceFor(const Evidence& evidence, const Property& property) {
    platform::SheetEvidence out;
    out.of = property.offered->rule ? property.offered->rule->id : property.id;
    out.said = property.offered->confidence;
    out.files = property.accepted.size(), out.refused = property.refused.size();
    if (property.isNumber())
        out.least = property.least, out.middle = property.middle, out.most = property.most;
    for (auto seen = property.accepted.rbegin(); seen != property.accepted.rend(); ++seen) {
        const std::string& path = evidence.files[seen->file].path;
        if (out.names.size() < 6 && std::ranges::find(out.names, path) == out.names.end())
            out.names.push_back(path);
    }
    return out;
}

} // namespace

std::string ruleSection(const platform::RuleSpec& rule) {
    std::string out = fmt::format("[[rule]]\nid = {}\n", tomlText(rule.id));
    if (rule.check != rule.id) out += fmt::format("check = {}\n", tomlText(rule.check));
    out += fmt::format("label = {}\n", tomlText(rule.label));
    if (rule.severity == platform::Severity::Should) out += "severity = \"should\"\n";
    for (const auto& [name, value] : rule.limits) out += fmt::format("{} = {}\n", name, tomlNumber(value));
    for (const auto& [name, value] : rule.texts) out += fmt::format("{} = {}\n", name, tomlText(value));
    out += fmt::format("message = {}\n", tomlText(rule.message));
    if (!rule.mends.empty()) {
        std::vector<std::string> quoted;
        for (const std::string& mend : rule.mends) quoted.push_back(tomlText(mend));
        out += fmt::format("mend = [{}]\n", inARow(quoted));
    }
    return out + "\n";
}

std::set<std::string> sureOffers(const Evidence& evidence) {
    std::set<std::string> out;
    for (const Property& property : evidence.properties)
        if (property.offered && property.offered->isSure) out.insert(property.id);
    return out;
}

std::string sheetFrom(const Evidence& evidence, const SheetName& name, const std::set<std::string>& taken) {
    std::map<std::string, std::string> keys{
        {"unit.name", "\"m\""}, {"unit.metres", "1.0"}, {"axes.up", "\"Y\""}, {"axes.front", "\"+Z\""}};
    std::string rules, sections, proofs;
    std::map<std::string, std::string> asks;
    bool deliversAnything = false;
    for (const Property& property : evidence.properties) {
        if (!property.offered || !taken.contains(property.id)) continue;
        const Offer& offer = *property.offered;
        for (const auto& [key, value] : offer.keys) keys[key] = value;
        if (offer.rule) rules += ruleSection(*offer.rule);
        if (!offer.sections.empty()) sections += offer.sections + "\n";
        asks.insert(offer.asks.begin(), offer.asks.end());
        deliversAnything |= offer.sections.find("[[file]]") != std::string::npos ||
                            offer.sections.find("[[text]]") != std::string::npos;
        if (offer.rule || !offer.keys.empty() || !offer.sections.empty())
            proofs += platform::evidenceSection(evidenceFor(evidence, property));
    }
    if (!keys.contains("figure.height")) {
        const double metres = std::strtod(keys.at("unit.metres").c_str(), nullptr);
        keys["figure.height"] = tomlText(std::round(1.75 / metres * 1000) / 1000);
    }
    // An axis cannot point up and to the front at once.
    if (keys.at("axes.front").find(keys.at("axes.up")[1]) != std::string::npos)
        keys["axes.front"] = keys.at("axes.up") == "\"Z\"" ? "\"+X\"" : "\"+Z\"";
    if (deliversAnything) keys["deliver.kind"] = "\"files\"";
    if (!deliversAnything) keys.erase("deliver.installed");
    const bool called = name.name.find_first_not_of(" \t\r\n") != std::string::npos;
    std::string out = fmt::format("id = {}\nname = {}\nkind = {}\n", tomlText(name.id),
                                  tomlText(called ? name.name : name.id),
                                  tomlText(name.kind.empty() ? std::string("game") : name.kind));
    if (!name.about.empty()) out += fmt::format("about = {}\n", tomlText(name.about));
    if (rules.empty()) {
        platform::RuleSpec least;
        least.id = least.check = "unit-known", least.label = "Unit said",
        least.severity = platform::Severity::Should;
        least.message = "Lengths mean nothing without it.", least.mends = {"unit-and-up"};
        rules = ruleSection(least);
    }
    if (deliversAnything) out += "\n[try]\nkind = \"files\"\n";
    out += "\n" + keySections(keys);
    for (const auto& [id, question] : asks) out += question + "\n";
    return out + (deliversAnything ? sections : "") + rules + proofs;
}

} // namespace zl::learn
