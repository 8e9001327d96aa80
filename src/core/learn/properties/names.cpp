// What things and files are called.
#include "core/base/letters.h"
#include "core/base/words.h"
#include "core/learn/all_properties.h"
#include "core/learn/name_shape.h"
#include "core/learn/patterns.h"

#include <fmt/format.h>

namespace zl::learn {

namespace {

using platform::RuleSpec;
using platform::Severity;

using NamesOf = std::vector<std::string> (*)(const FileFacts& file);

Property shaped(const Evidence& evidence, const char* id, const char* label, const char* check,
                NamesOf namesOf) {
    Property out{id, label, ""};
    std::vector<std::string> names; // of the accepted
    for (std::size_t i = 0; i < evidence.files.size(); ++i) {
        const FileFacts& file = evidence.files[i];
        for (const std::string& name : namesOf(file)) {
            (file.refused ? out.refused : out.accepted).push_back({i, 0, name});
            if (!file.refused) names.push_back(name);
        }
    }
    const NameShape shape = shapeOf(names);
    if (shape.pattern.empty()) return out;
    for (const Seen& seen : out.accepted)
        if (std::ranges::find(shape.breakers, seen.text) != shape.breakers.end())
            out.outliers.push_back(seen.file);
    Offer offer;
    offer.isSure = shape.breakers.empty() && names.size() >= 5;
    if (check) {
        RuleSpec rule = usualRule(check, offer.isSure ? Severity::Must : Severity::Should,
                                  "All that the game took are called so.");
        rule.id = id, rule.label = label;
        rule.texts = {{"pattern", shape.pattern}, {"wanted", shape.words}};
        offer.rule = std::move(rule);
    }
    offer.confidence =
        fmt::format("{}: {}", shareWords(names.size() - shape.breakers.size(), names.size(), "name", "names"),
                    shape.words);
    if (!shape.breakers.empty()) offer.confidence += "; not " + showNames(shape.breakers);
    out.offered = std::move(offer);
    return out;
}

/// Names of objects that are files of their own, in all the files of a piece.
std::map<std::size_t, std::vector<std::string>> namesOfGroups(const Evidence& evidence) {
    std::map<std::size_t, std::vector<std::string>> out; // by the group's first model
    for (const Group& group : evidence.layout.groups) {
        std::optional<std::size_t> first;
        for (const Member& member : group.members)
            if (const auto& model = evidence.files[member.file].model; model && member.part == Part::Model) {
                if (!first) first = member.file;
                out[*first].insert(out[*first].end(), model->nodeNames.begin(), model->nodeNames.end());
            }
    }
    return out;
}

Property namesOnce(const Basis& basis) {
    const Evidence& evidence = basis.evidence;
    const auto groups =
        basis.isByObjects() ? namesOfGroups(evidence) : std::map<std::size_t, std::vector<std::string>>{};
    Property out{"names-once", "Names once", ""};
    std::size_t holding = 0, several = 0;
    for (std::size_t i = 0; i < evidence.files.size(); ++i) {
        const FileFacts& file = evidence.files[i];
        if (!file.model || file.isBody) continue;
        const auto group = groups.find(i);
        if (!groups.empty() && group == groups.end()) continue;
        std::set<std::string> taken;
        std::string twice;
        for (const auto* names :
             {groups.empty() ? &file.model->nodeNames : &group->second, &file.model->materialNames}) {
            taken.clear();
            for (const std::string& name : *names)
                if (!taken.insert(lowerCase(name)).second) twice = name;
        }
        (file.refused ? out.refused : out.accepted).push_back({i, twice.empty() ? 0.0 : 1.0, twice});
        if (file.refused) continue;
        holding += twice.empty();
        several += (groups.empty() ? file.model->nodeNames : group->second).size() +
                       file.model->materialNames.size() >
                   2;
        if (!twice.empty()) out.outliers.push_back(i);
    }
    const std::size_t all = out.accepted.size();
    if (holding * 2 < all) out.outliers.clear();
    if (all < 3 || holding < all || several < 3) return out;
    Offer offer;
    offer.isSure = several >= 5;
    offer.rule = usualRule("names-once", offer.isSure ? Severity::Must : Severity::Should,
                           "No file that the game took uses a name twice.");
    offer.confidence = fmt::format("{} use each name once", shareWords(holding, all, "file", "files"));
    out.offered = std::move(offer);
    return out;
}

} // namespace

void learnNames(Basis& basis, std::vector<Property>& out) {
    const auto add = [&out](Property property) {
        if (!property.accepted.empty()) out.push_back(std::move(property));
    };
    // A node's names and a material's are one rule, so that both go into one pattern.
    add(shaped(basis.evidence, "names", "Names", "names", [](const FileFacts& file) {
        if (!file.model) return std::vector<std::string>{};
        auto names = file.model->nodeNames;
        names.insert(names.end(), file.model->materialNames.begin(), file.model->materialNames.end());
        return names;
    }));
    add(namesOnce(basis));
    // Other pictures' names are made when they are written.
    const auto patterns = patternFiles(basis.evidence);
    const bool packed = std::ranges::any_of(patterns, &PatternFiles::isPacked);
    add(shaped(basis.evidence, "picture-names", "Names of picture files", packed ? "file-names" : nullptr,
               [](const FileFacts& file) {
                   if (!file.picture) return std::vector<std::string>{};
                   return std::vector{std::filesystem::path(file.path).stem().string()};
               }));
    add(shaped(basis.evidence, "model-names", "Names of model files", nullptr, [](const FileFacts& file) {
        if (!file.model) return std::vector<std::string>{};
        return std::vector{std::filesystem::path(file.path).stem().string()};
    }));
    add(shaped(basis.evidence, "bone-names", "Names of bones", nullptr, [](const FileFacts& file) {
        return file.model ? file.model->boneNames : std::vector<std::string>{};
    }));
}

} // namespace zl::learn
