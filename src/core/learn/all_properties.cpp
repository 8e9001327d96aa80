#include "core/learn/all_properties.h"

#include "core/base/units.h"
#include "core/platform/rule.h"

#include <fmt/format.h>

namespace zl::learn {

std::span<const PropertyKind> allPropertyKinds() {
    // The frame comes first: the others measure along its axes.
    static constexpr PropertyKind kinds[] = {learnFrame,    learnPlacing, learnCounts,
                                             learnPictures, learnNames,   learnMotion,
                                             learnPacking,  learnFiles,   learnTexts};
    return kinds;
}

bool Basis::isByObjects() const {
    std::size_t groups = 0, by = 0;
    for (const Group& group : evidence.layout.groups) {
        if (group.refused) continue;
        ++groups;
        by += std::ranges::any_of(group.members, [](const Member& m) {
            return m.part == Part::Model && m.pattern.find("{object") != std::string::npos;
        });
    }
    return by * 2 >= groups && by > 0;
}

bool Basis::keepsNodes() const {
    return std::ranges::any_of(evidence.files, [](const FileFacts& file) {
        return file.model && !file.refused &&
               (file.model->format == "gltf" || file.model->format == "dae" || file.model->format == "x3d");
    });
}

std::string shareWords(std::size_t count, std::size_t all, std::string_view one, std::string_view many) {
    return fmt::format("{} of {} {}", showNumber(double(count), 0), showNumber(double(all), 0),
                       all == 1 ? one : many);
}

std::vector<std::string> usualMends(std::string_view check) {
    const auto* kind = platform::ruleKind(check);
    return kind ? std::vector<std::string>(kind->mends.begin(), kind->mends.end())
                : std::vector<std::string>{};
}

platform::RuleSpec usualRule(std::string_view check, platform::Severity severity, std::string message) {
    platform::RuleSpec rule;
    rule.id = rule.check = check;
    if (const auto* kind = platform::ruleKind(check)) rule.label = kind->name;
    rule.severity = severity;
    rule.message = std::move(message);
    rule.mends = usualMends(check);
    return rule;
}

} // namespace zl::learn
