#include "core/platform/rule.h"

#include <fmt/format.h>

namespace zl::platform {

const RuleKind* ruleKind(std::string_view check) {
    for (const RuleKind& kind : allRuleKinds())
        if (kind.check == check) return &kind;
    return nullptr;
}

Finding atMost(double value, double most, std::string_view singular, std::string_view plural) {
    Finding finding;
    finding.value = value;
    finding.canBeTight = most >= 8;
    finding.holds = value <= most;
    finding.share = most > 0 ? value / most : value > 0 ? 2 : 0;
    finding.measured = showNumber(value, 0);
    finding.limit = "of " + showNumber(most, 0);
    finding.note = showCount(static_cast<long long>(value), singular, plural);
    return finding;
}

Finding atMostBytes(double bytes, double most) {
    Finding finding;
    finding.value = bytes / 1e6;
    finding.holds = bytes <= most;
    finding.share = most > 0 ? bytes / most : 0;
    finding.measured = "≈ " + showBytes(bytes);
    finding.limit = "of " + showBytes(most);
    return finding;
}

} // namespace zl::platform
