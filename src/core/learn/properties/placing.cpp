// Where a piece stands, how large it is, and what its nodes carry.
#include "core/base/units.h"
#include "core/learn/all_properties.h"
#include "core/learn/round_limit.h"

#include <fmt/format.h>

#include <cmath>

namespace zl::learn {

namespace {

using platform::RuleSpec;
using platform::Severity;

/// What every accepted file has in common: a rule without a number.
struct Habit {
    const char *id, *label, *check, *words, *message;
    std::optional<double> (*off)(const Basis& basis, const ModelFacts& model); ///< 0 where it holds
    std::map<std::string, double> limits{};
    bool ofNodes = false; ///< said of nodes alone: files that are written without such keep it by themselves
    double (*within)(const Basis& basis,
                     const ModelFacts& model) = nullptr; ///< units that it is off, for a limit
};

double longestOf(const ModelFacts& m) {
    const glm::dvec3 size = m.high - m.low;
    return std::max({size.x, size.y, size.z});
}

double offMiddle(const Basis& basis, const ModelFacts& m) {
    double off = 0;
    for (int k = 0; k < 3; ++k)
        if (k != basis.up) off = std::max(off, std::abs(m.low[k] + m.high[k]) / 2);
    return off;
}

const std::vector<Habit>& habits() {
    using B = const Basis&;
    using M = const ModelFacts&;
    static const std::vector<Habit> list{
        {"stands-on-floor",
         "Stands on the floor",
         "stands-on-floor",
         "stand on the floor",
         "All files that the game took stand at height 0.",
         [](B b, M m) -> std::optional<double> {
             const double off = std::abs(m.low[b.up]) / longestOf(m);
             return off < 0.02 ? 0 : off;
         },
         {},
         false,
         [](B b, M m) { return std::abs(m.low[b.up]); }},
        {"origin-under-foot",
         "Origin under the middle",
         "origin-under-foot",
         "stand over their origin",
         "All files that the game took have their origin under their middle.",
         [](B b, M m) -> std::optional<double> {
             const double off = offMiddle(b, m) / longestOf(m);
             return off < 0.02 ? 0 : off;
         },
         {},
         false,
         offMiddle},
        {"no-transforms",
         "Nothing on nodes",
         "no-transforms",
         "have nothing on their nodes",
         "No file that the game took moves, turns or scales its nodes.",
         [](B, M m) -> std::optional<double> {
             if (m.bones > 0) return std::nullopt;
             return double(m.transforms);
         },
         {},
         true},
        {"scale-is-one",
         "Scale is one",
         "scale-is-one",
         "scale no node",
         "No file that the game took scales its nodes.",
         [](B, M m) -> std::optional<double> { return double(m.scales); },
         {},
         true},
        {"no-wrappers",
         "No wrapper nodes",
         "no-wrappers",
         "have no node around others",
         "No file that the game took has nodes that only hold others.",
         [](B, M m) -> std::optional<double> { return double(m.wrappers); },
         {},
         true},
        {"collider-present", "A body for physics", "collider-present", "have a body for physics",
         "All files that the game took have a body for physics.",
         [](B, M m) -> std::optional<double> { return m.bodies.empty() ? 1 : 0; }},
    };
    return list;
}

Property habitProperty(const Habit& habit, Basis& basis) {
    Property out{habit.id, habit.label, ""};
    std::size_t holding = 0, refusedBreaking = 0, refusedAll = 0;
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.hasShape() || !(longestOf(*file.model) > 0)) continue;
        const auto off = habit.off(basis, *file.model);
        if (!off) continue;
        const Seen seen{i, *off, *off == 0 ? "yes" : "no"};
        if (file.refused) {
            out.refused.push_back(seen);
            ++refusedAll, refusedBreaking += *off != 0;
        } else {
            out.accepted.push_back(seen);
            holding += *off == 0;
            if (*off != 0) out.outliers.push_back(i);
        }
    }
    const std::size_t all = out.accepted.size();
    if (all < 3 || holding * 10 < all * 9) { // it is no habit, and nobody is unlike the others
        if (holding * 2 < all) out.outliers.clear();
        return out;
    }
    if (habit.ofNodes) {
        // Where every file is so, it is written so, and nobody has to mend a model for it.
        const bool wrapped = std::string_view(habit.id) == "no-wrappers";
        const bool byItself = holding == all && (!wrapped || basis.isByObjects());
        if (!basis.keepsNodes() || byItself) {
            out.offered = Offer{{},
                                {},
                                {},
                                fmt::format("{} {}; files are written so",
                                            shareWords(holding, all, "file", "files"), habit.words),
                                false};
            return out;
        }
    }
    RuleSpec rule;
    rule.id = rule.check = habit.check, rule.label = habit.label, rule.message = habit.message;
    rule.limits = habit.limits, rule.mends = usualMends(habit.check);
    if (habit.within) {
        // As far off as those are that hold it, and a little more than nothing.
        double least = 0, most = 0;
        for (const Seen& seen : out.accepted) {
            const ModelFacts& model = *basis.evidence.files[seen.file].model;
            least = std::max(least, 0.002 * longestOf(model));
            if (seen.value == 0) most = std::max(most, habit.within(basis, model));
        }
        rule.limits["within"] = roundLimit(std::max({least, most, 1e-6})).limit;
    }
    Offer offer;
    offer.isSure = holding == all && (all >= 5 || refusedBreaking > 0);
    rule.severity = offer.isSure ? Severity::Must : Severity::Should;
    offer.confidence = fmt::format("{} {}", shareWords(holding, all, "file", "files"), habit.words);
    if (refusedBreaking > 0)
        offer.confidence += fmt::format("; {} of {} refused ones did not", refusedBreaking, refusedAll);
    offer.rule = std::move(rule);
    out.offered = std::move(offer);
    return out;
}

/// Sizes along one of the platform's own axes.
Property sizeProperty(const char* id, const char* label, Basis& basis, int axis) {
    Property out{id, label, "u"};
    for (std::size_t i = 0; i < basis.evidence.files.size(); ++i) {
        const FileFacts& file = basis.evidence.files[i];
        if (!file.hasShape()) continue;
        (file.refused ? out.refused : out.accepted)
            .push_back({i, (file.model->high - file.model->low)[axis], {}});
    }
    if (out.accepted.empty()) return out;
    summarise(out);
    // Of things that are all about as large, a size that is far off is a wrong unit.
    const bool alike = out.accepted.size() >= 4 && out.most <= 3 * out.least && out.least > 0;
    if (!alike) return out;
    RuleSpec rule;
    rule.id = rule.check = id, rule.label = label, rule.severity = Severity::Should;
    // Two digits, outward: what was taken stays within.
    const double step = std::pow(10, std::floor(std::log10(out.least)) - 1);
    rule.limits = {{"least", std::round(std::floor(out.least / step + 1e-6)) * step},
                   {"most", std::round(std::ceil(out.most / step - 1e-6)) * step}};
    for (auto& [name, value] : rule.limits) value = std::round(value * 1e6) / 1e6;
    rule.message = "All files that the game took are about this large.";
    rule.mends = usualMends(id);
    out.offered = Offer{std::move(rule),
                        {},
                        {},
                        fmt::format("{} are {} to {} u",
                                    shareWords(out.accepted.size(), out.accepted.size(), "file", "files"),
                                    showMeasure(out.least), showMeasure(out.most)),
                        false};
    return out;
}

} // namespace

void learnPlacing(Basis& basis, std::vector<Property>& out) {
    for (const Habit& habit : habits())
        if (Property property = habitProperty(habit, basis); !property.accepted.empty())
            out.push_back(std::move(property));
    const int side = 3 - basis.up - basis.front;
    for (Property property :
         {sizeProperty("height", "Height", basis, basis.up), sizeProperty("width", "Width", basis, side),
          sizeProperty("length", "Length", basis, basis.front)})
        if (!property.accepted.empty()) out.push_back(std::move(property));
}

} // namespace zl::learn
