// Rules about builds of blocks: how many, how large, of which kinds, whether they hold together, stand on a
// centre line, are alike on both sides, and have nothing inside.
#include "core/platform/rules/all_rules.h"

#include "core/base/pattern.h"
#include "core/base/words.h"
#include "core/blocks/hollow.h"
#include "core/blocks/pieces.h"
#include "core/blocks/symmetry.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

namespace {

/// What every rule here says of a model that is no build; null for one that is.
const blocks::Hull* hullOr(const Measures& m, Finding& finding, std::string limit) {
    const blocks::Hull* hull = blocks::hullOf(m.model());
    finding.limit = std::move(limit);
    finding.canBeTight = false;
    if (hull && hull->build.count() > 0) return hull;
    finding.holds = false;
    finding.measured = "no blocks";
    finding.note = m.model().blocks ? "Its shape was changed after it was built of blocks"
                                    : "It is not built of blocks yet";
    return nullptr;
}

} // namespace

Finding measureBlockCount(const Measures& m, const Sheet&, const RuleSpec& rule) {
    Finding finding;
    const double most = rule.limit("most", 8000);
    const blocks::Hull* hull = hullOr(m, finding, fmt::format("of {}", showNumber(most)));
    return hull ? atMost(double(hull->build.count()), most, "block", "blocks") : finding;
}

Finding measureBlockBounds(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const glm::dvec3 most{rule.limit("across", 1e6), rule.limit("up", 1e6), rule.limit("along", 1e6)};
    const auto words = [](const glm::dvec3& size) {
        return fmt::format("{}\u2009×\u2009{}\u2009×\u2009{}", size.x, size.y, size.z);
    };
    Finding finding;
    const blocks::Hull* hull = hullOr(m, finding, "of " + words(most));
    if (!hull) return finding;
    const glm::dvec3 size(hull->build.size()), share = size / most;
    finding.canBeTight = true;
    finding.share = std::max({share.x, share.y, share.z});
    finding.value = std::max({size.x, size.y, size.z});
    finding.holds = finding.share <= 1;
    finding.measured = words(size);
    static constexpr const char* sides[] = {"wide", "high", "long"};
    const int worst = share.x >= share.y && share.x >= share.z ? 0 : share.y >= share.z ? 1 : 2;
    finding.note =
        fmt::format("It is {} blocks {}, and {} are taken", size[worst], sides[worst], most[worst]);
    return finding;
}

Finding measureBlockKinds(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const std::vector<std::string> taken = patternsFrom(rule.texts.at("kinds"));
    Finding finding;
    const blocks::Hull* hull = hullOr(m, finding, fmt::format("of {}", taken.size()));
    if (!hull) return finding;
    const auto count = hull->build.countByKind();
    std::vector<std::string> others;
    std::size_t used = 0;
    for (std::size_t kind = 0; kind < count.size(); ++kind) {
        used += count[kind] > 0;
        if (count[kind] > 0 && std::ranges::find(taken, blocks::kindNames[kind]) == taken.end())
            others.push_back(fmt::format("{} of the kind {}", count[kind], blocks::kindNames[kind]));
    }
    finding.holds = others.empty();
    finding.value = double(used);
    finding.measured = fmt::format("{}", used);
    finding.note =
        others.empty() ? "All kinds that it uses are known" : fmt::format("Not taken: {}", inARow(others));
    return finding;
}

Finding measureOnePiece(const Measures& m, const Sheet&, const RuleSpec&) {
    Finding finding;
    const blocks::Hull* hull = hullOr(m, finding, "connected");
    if (!hull) return finding;
    const blocks::Pieces pieces = blocks::piecesOf(hull->build);
    finding.value = double(pieces.blocks.size());
    finding.holds = pieces.blocks.size() == 1;
    finding.measured = finding.holds ? "yes" : fmt::format("{} pieces", pieces.blocks.size());
    std::size_t others = 0;
    for (std::size_t i = 1; i < pieces.blocks.size(); ++i) others += pieces.blocks[i];
    finding.note = finding.holds ? "Every block holds to the rest"
                                 : fmt::format("{} not hold to the rest, in {}",
                                               showCount(long(others), "block does", "blocks do"),
                                               showCount(long(pieces.blocks.size() - 1), "piece", "pieces"));
    return finding;
}

Finding measureCentreLine(const Measures& m, const Sheet&, const RuleSpec&) {
    Finding finding;
    const blocks::Hull* hull = hullOr(m, finding, "odd width");
    if (!hull) return finding;
    const glm::ivec3 size = hull->build.size();
    finding.value = size.x;
    bool any = false;
    for (int y = 0; y < size.y && size.x % 2 == 1; ++y)
        for (int z = 0; z < size.z; ++z) any |= hull->build.at({size.x / 2, y, z}) != nullptr;
    finding.holds = any;
    finding.measured = size.x % 2 == 0 ? fmt::format("{} wide", size.x) : any ? "one block" : "empty";
    finding.note = size.x % 2 == 0 ? fmt::format("{} blocks across have two in the middle", size.x)
                   : any           ? "One column of blocks is in the middle"
                                   : "No block stands on the column in the middle";
    return finding;
}

Finding measureSymmetric(const Measures& m, const Sheet&, const RuleSpec&) {
    Finding finding;
    const blocks::Hull* hull = hullOr(m, finding, "left = right");
    if (!hull) return finding;
    const std::size_t unlike = blocks::unlikeCells(hull->build);
    finding.value = double(unlike);
    finding.holds = unlike == 0;
    finding.measured = unlike == 0 ? "yes" : fmt::format("{} differ", unlike);
    finding.note = unlike == 0 ? "Both sides are alike"
                               : fmt::format("{} otherwise on the other side",
                                             showCount(long(unlike), "place is", "places are"));
    return finding;
}

Finding measureHollow(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const int walls = int(rule.limit("walls", 1));
    Finding finding;
    const blocks::Hull* hull = hullOr(m, finding, fmt::format("walls of {}", walls));
    if (!hull) return finding;
    const std::size_t inside = blocks::deeperThan(hull->build, walls);
    finding.value = double(inside);
    finding.holds = inside == 0;
    finding.measured = inside == 0 ? "yes" : fmt::format("{} inside", inside);
    finding.note =
        inside == 0 ? "Nothing lies behind the walls"
                    : fmt::format("{} behind the walls", showCount(long(inside), "block lies", "blocks lie"));
    return finding;
}

} // namespace zl::platform
