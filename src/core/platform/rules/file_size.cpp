// How large the delivered files will be: before a delivery, an estimate.
#include "core/platform/rules/all_rules.h"
#include "core/platform/cost.h"

#include <fmt/format.h>

namespace zl::platform {

Finding measureFileSize(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const double most = rule.limit("most-megabytes", 0) * 1e6;
    const double bytes = uploadEstimate(m.model(), sheet.cost.meshFile);
    Finding finding = atMostBytes(bytes, most);
    finding.note = fmt::format("The files will take about {}", showBytes(bytes));
    return finding;
}

} // namespace zl::platform
