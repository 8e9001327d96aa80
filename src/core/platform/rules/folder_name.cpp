// The folder that a model's pictures lie in: a game that looks into one of a certain spelling finds no other.
#include "core/platform/rules/all_rules.h"

#include "core/base/words.h"
#include "core/formats/file_kind.h"

#include <fmt/format.h>

#include <set>

namespace zl::platform {

Finding measureFolderName(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const std::string& wanted = rule.texts.at("name");
    std::set<std::string> others;
    std::size_t pictures = 0;
    for (const auto& file : m.model().files) {
        if (formats::kindOf(file.filename().string()) != formats::FileKind::Picture) continue;
        ++pictures;
        if (const std::string folder = file.parent_path().filename().string(); folder != wanted)
            others.insert(folder);
    }
    Finding finding;
    finding.canBeTight = false;
    finding.value = double(others.size());
    finding.holds = others.empty();
    finding.limit = fmt::format("\"{}\"", wanted);
    finding.measured = pictures == 0       ? "none"
                       : finding.holds     ? finding.limit
                       : others.size() > 1 ? fmt::format("{} others", others.size())
                                           : fmt::format("\"{}\"", *others.begin());
    finding.note = pictures == 0 ? "No picture lies beside the file"
                   : finding.holds
                       ? fmt::format("All pictures lie in \"{}\"", wanted)
                       : fmt::format("Pictures lie in {}", showNames({others.begin(), others.end()}));
    return finding;
}

} // namespace zl::platform
