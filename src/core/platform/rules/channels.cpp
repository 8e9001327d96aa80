// Rules about what pictures' channels hold: alpha that nobody asked for or that is missing, and channels of
// delivered pictures that say nothing.
#include "core/platform/rules/all_rules.h"

#include "core/base/error.h"
#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/texture/picture_cache.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

namespace {

/// What a picture's channels hold; null for one that is broken, about which its reader complains.
std::shared_ptr<const texture::ChannelFacts> factsOf(const Model& model, int image) {
    try {
        return texture::channelFactsOf(model.images[std::size_t(image)]);
    } catch (const Error&) {
        return nullptr;
    }
}

/// One finding a name, all that are not in order named.
Finding noneOf(std::vector<std::string> wrong, std::vector<int> materials, std::string_view limit,
               const std::string& fine) {
    Finding finding;
    finding.holds = wrong.empty();
    finding.canBeTight = false;
    finding.value = double(wrong.size());
    finding.measured = wrong.empty() ? "none" : showNumber(double(wrong.size()), 0);
    finding.limit = limit;
    finding.note = wrong.empty() ? fine : showNames(wrong);
    finding.materials = std::move(materials);
    return finding;
}

} // namespace

Finding measureAlphaUnwanted(const Measures& m, const Sheet&, const RuleSpec&) {
    const Model& model = m.model();
    std::vector<std::string> wrong;
    std::vector<int> materials;
    for (const int index : usedMaterials(model)) {
        if (index < 0) continue;
        const Material& material = model.materials[std::size_t(index)];
        const int image = material.image(PictureRole::Colour);
        if (image < 0 || !model.images[std::size_t(image)]->hasAlpha()) continue;
        const auto facts = factsOf(model, image);
        const bool empty = facts && facts->channels[3].isOneValue() && facts->channels[3].least == 255;
        wrong.push_back(fmt::format("\"{}\" has an alpha channel{}", model.images[std::size_t(image)]->name,
                                    empty ? " that says nothing (all 1)" : ""));
        materials.push_back(index);
    }
    return noneOf(std::move(wrong), std::move(materials), "no alpha",
                  "No colour picture has an alpha channel");
}

Finding measureAlphaMissing(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const Model& model = m.model();
    const NamePatterns meant(patternsFrom(rule.texts.at("materials")));
    std::vector<std::string> wrong;
    std::vector<int> materials;
    for (const int index : usedMaterials(model)) {
        if (index < 0) continue;
        const Material& material = model.materials[std::size_t(index)];
        if (!meant.match(material.name)) continue;
        const PictureUse& use = material.picture(PictureRole::Opacity);
        const auto facts = use ? factsOf(model, use.image) : nullptr;
        if (facts && !facts->of(use.channel).isOneValue()) continue;
        wrong.push_back(
            fmt::format("\"{}\" {}", material.name,
                        use ? "has an alpha channel of one value" : "has no see-through picture"));
        materials.push_back(index);
    }
    return noneOf(std::move(wrong), std::move(materials), "each",
                  "Every material that is to be see-through has alpha that says something");
}

Finding measureChannelsSaySomething(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    const Model& model = m.model();
    std::vector<std::pair<std::string, std::vector<std::string>>> wrong; // what is wrong, with whom
    std::vector<int> materials;
    std::vector<PictureRole> wanted;
    for (const SheetPicture& picture : sheet.surface.pictures)
        for (const PictureRole role : picture.roles())
            if (std::ranges::find(wanted, role) == wanted.end()) wanted.push_back(role);
    for (const int index : usedMaterials(model)) {
        if (index < 0) continue;
        const Material& material = model.materials[std::size_t(index)];
        std::string empty, flat;
        for (const PictureRole role : wanted) {
            const PictureRole other = otherSayingOf(role);
            const PictureUse& use = material.picture(role) ? material.picture(role) : material.picture(other);
            const auto facts = use ? factsOf(model, use.image) : nullptr;
            std::string& into = !use ? empty : flat;
            const bool oneValue = facts && (isScalar(role) ? facts->of(use.channel).isOneValue()
                                                           : facts->channels[0].isOneValue() &&
                                                                 facts->channels[1].isOneValue() &&
                                                                 facts->channels[2].isOneValue());
            if (!use || oneValue) into += fmt::format("{}{}", into.empty() ? "" : ", ", roleName(role));
        }
        if (empty.empty() && flat.empty()) continue;
        std::string what;
        if (!empty.empty()) what += "no picture of " + empty;
        if (!flat.empty()) what += fmt::format("{}one value in {}", empty.empty() ? "" : ", ", flat);
        auto alike = std::ranges::find(wrong, what, &decltype(wrong)::value_type::first);
        if (alike == wrong.end()) alike = wrong.insert(wrong.end(), {what, {}});
        alike->second.push_back(fmt::format("\"{}\"", material.name));
        materials.push_back(index);
    }
    std::string words;
    for (const auto& [what, who] : wrong)
        words += fmt::format("{}{}: {}", words.empty() ? "" : "; ", showNames(who), what);
    Finding finding = noneOf({}, std::move(materials), "in each channel",
                             "Every channel that is delivered has a picture that says something");
    finding.holds = wrong.empty();
    if (finding.holds) return finding;
    finding.value = double(finding.materials.size());
    finding.measured = showNumber(finding.value, 0);
    finding.note = std::move(words);
    return finding;
}

} // namespace zl::platform
