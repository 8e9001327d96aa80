// Movements: which clips every file has, and what their names have in common.
#include "core/base/toml_text.h"
#include "core/base/words.h"
#include "core/learn/all_properties.h"

#include <fmt/format.h>

namespace zl::learn {

void learnMotion(Basis& basis, std::vector<Property>& out) {
    Property property{"clip-names", "Clips", ""};
    std::map<std::string, std::size_t> names;
    std::size_t moving = 0;
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.model || file.model->clipNames.empty()) continue;
        for (const std::string& name : file.model->clipNames)
            (file.refused ? property.refused : property.accepted).push_back({i, 0, name});
        if (file.refused) continue;
        ++moving;
        for (const std::string& name : std::set(file.model->clipNames.begin(), file.model->clipNames.end()))
            ++names[name];
    }
    if (property.accepted.empty()) return;
    std::vector<std::string> everywhere;
    for (const auto& [name, count] : names)
        if (count == moving) everywhere.push_back(name);
    if (moving >= 3 && !everywhere.empty()) {
        Offer offer;
        offer.isSure = moving >= 5;
        auto rule = usualRule("clips-present", platform::Severity::Should,
                              "Every moving file that the game took has these clips.");
        rule.texts["names"] = inARow(everywhere);
        offer.rule = std::move(rule);
        offer.confidence = fmt::format(
            "{} have {}", shareWords(moving, moving, "moving file", "moving files"), showNames(everywhere));
        property.offered = std::move(offer);
    }
    out.push_back(std::move(property));
}

} // namespace zl::learn
