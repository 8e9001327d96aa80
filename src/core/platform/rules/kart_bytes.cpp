// What a kart's file takes, to the byte: it is made, and not written.
#include "core/platform/rules/all_rules.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/formats/kart_file.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

Finding measureKartBytes(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const double most = rule.limit("most-kib", 0) * 1024;
    Finding finding;
    finding.limit = fmt::format("of {} KiB", showNumber(most / 1024, 0));
    try {
        const auto chunks =
            formats::kartChunks(m.model(), {.metresPerUnit = sheet.metresPerUnit, .weighed = true});
        const double bytes = double(formats::kartFileSize(chunks));
        finding.value = bytes / 1024;
        finding.holds = bytes <= most;
        finding.share = most > 0 ? bytes / most : 0;
        finding.measured = fmt::format("{} KiB", showNumber(bytes / 1024, 1));
        auto largest = chunks;
        std::ranges::sort(largest, std::ranges::greater{}, &formats::KartChunk::size);
        std::string told;
        for (std::size_t k = 0; k < std::min<std::size_t>(3, largest.size()); ++k)
            told += fmt::format("{}\"{}\" {} KiB", k ? ", " : "", largest[k].what,
                                showNumber(double(largest[k].size()) / 1024, 1));
        finding.note = "Most of it: " + told;
    } catch (const Refused& refused) {
        finding.holds = false;
        finding.measured = "cannot be written";
        finding.note = refused.what();
    }
    return finding;
}

} // namespace zl::platform
