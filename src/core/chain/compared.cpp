// How each aspect of a model stands in what came of it: one small function an aspect, and a table of them.
#include "core/chain/facts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace zl::chain {

using formats::Aspect;

std::string_view fateId(Fate fate) {
    constexpr std::string_view ids[] = {"none", "kept", "changed", "lost", "put-back"};
    return ids[static_cast<int>(fate)];
}

namespace {

bool near(double a, double b, double share) {
    return std::abs(a - b) <= share * std::max({std::abs(a), std::abs(b), 1e-9});
}

double largest(const Facts& facts) {
    return glm::length(facts.bounds.size());
}

/// How many times as large it came out.
double factorOf(const Facts& before, const Facts& after) {
    return largest(after) / std::max(largest(before), 1e-12);
}

Verdict kept() {
    return {Fate::Kept, {}};
}
Verdict keptIf(bool same, Fate otherwise, std::string words) {
    return same ? kept() : Verdict{otherwise, std::move(words)};
}

Verdict lists(const std::vector<std::string>& before, const std::vector<std::string>& after,
              std::string_view singular, std::string_view plural) {
    if (before.empty()) return {};
    if (after == before) return kept();
    const auto count = showCount(static_cast<long long>(before.size()), singular, plural);
    if (after.empty()) return {Fate::Lost, count};
    if (after.size() != before.size()) return {Fate::Changed, fmt::format("{} of {}", after.size(), count)};
    std::size_t at = 0;
    while (after[at] == before[at]) ++at;
    return {Fate::Changed, fmt::format("\"{}\" is \"{}\"", before[at], after[at])};
}

Verdict scale(const Facts& before, const Facts& after) {
    if (before.bounds.empty()) return {};
    if (after.bounds.empty()) return {Fate::Lost, "nothing came back"};
    const double factor = factorOf(before, after);
    return keptIf(near(factor, 1, 1e-4), Fate::Lost, fmt::format("{} times as large", showMeasure(factor)));
}

Verdict up(const Facts& before, const Facts& after) {
    if (before.bounds.empty() || after.bounds.empty()) return {};
    // Compared as shapes: the size of each side as share of the whole.
    const auto share = [](const Facts& f) { return f.bounds.size() / std::max(largest(f), 1e-12); };
    if (glm::length(share(before) - share(after)) >= 1e-3) return {Fate::Lost, "lies on its side"};
    // A half turn leaves the sizes; it shows in where the box lies, if the origin is not in its middle.
    const double away = glm::length(after.bounds.centre() - before.bounds.centre() * factorOf(before, after));
    return keptIf(away <= 1e-3 * largest(after), Fate::Lost, "turned or moved");
}

Verdict objects(const Facts& before, const Facts& after) {
    const Fate otherwise = before.objects > 1 && after.objects <= 1 ? Fate::Lost : Fate::Changed;
    return keptIf(after.objects == before.objects, otherwise,
                  fmt::format("{} of {}", after.objects, std::max<std::size_t>(1, before.objects)));
}

Verdict names(const Facts& before, const Facts& after) {
    Verdict verdict = lists(before.names, after.names, "name", "names");
    if (verdict.fate == Fate::Changed && after.names.size() <= 1 && before.names.size() > 1)
        verdict.fate = Fate::Lost;
    return verdict;
}

Verdict hierarchy(const Facts& before, const Facts& after) {
    const auto grouped = [](const Facts& facts) {
        return std::ranges::any_of(facts.paths, [](const auto& path) { return path.find('/') != path.npos; });
    };
    if (!grouped(before)) return {};
    if (!grouped(after)) return {Fate::Lost, "no groups"};
    return keptIf(after.paths == before.paths, Fate::Changed, "other groups");
}

Verdict materials(const Facts& before, const Facts& after) {
    if (before.materials.empty()) return {};
    if (after.materials == before.materials)
        return keptIf(after.plainTriangles == before.plainTriangles, Fate::Changed,
                      "faces without one are others");
    const bool lost = after.materials.size() <= 1 && after.materials.size() < before.materials.size() &&
                      before.materials.size() > 1;
    return {lost || after.materials.empty() ? Fate::Lost : Fate::Changed,
            fmt::format("{} of {}", after.materials.size(), before.materials.size())};
}

Verdict pictures(const Facts& before, const Facts& after) {
    if (before.pictures.empty()) return {};
    std::size_t same = 0;
    for (const auto& [material, size] : before.pictures) {
        const auto found = after.pictures.find(material);
        same += found != after.pictures.end() && found->second == size;
    }
    return keptIf(same == before.pictures.size(), same == 0 ? Fate::Lost : Fate::Changed,
                  fmt::format("{} of {}", same, before.pictures.size()));
}

/// An attribute that either is there or is not, and is the same or is not.
Verdict attribute(bool was, bool is, bool same) {
    if (!was) return {};
    if (!is) return {Fate::Lost, {}};
    return keptIf(same, Fate::Changed, "others");
}

Verdict uvs(const Facts& before, const Facts& after) {
    return attribute(before.uvs, after.uvs,
                     near(before.uvArea, after.uvArea, 1e-3) && std::abs(before.uvSum - after.uvSum) < 1e-3);
}

Verdict uvPlacement(const Facts& before, const Facts& after) {
    if (before.placements == 0) return {};
    return keptIf(after.placements == before.placements, Fate::Lost, "in the UVs now");
}

Verdict normals(const Facts& before, const Facts& after) {
    return attribute(before.normals, after.normals,
                     std::abs(before.normalAgreement - after.normalAgreement) < 2e-3);
}

Verdict colours(const Facts& before, const Facts& after) {
    return attribute(before.colours, after.colours, glm::length(before.colourMean - after.colourMean) < 0.01);
}

Verdict bones(const Facts& before, const Facts& after) {
    return lists(before.bones, after.bones, "bone", "bones");
}
Verdict clips(const Facts& before, const Facts& after) {
    return lists(before.clips, after.clips, "clip", "clips");
}
Verdict morphs(const Facts& before, const Facts& after) {
    return lists(before.morphs, after.morphs, "morph", "morphs");
}

} // namespace

Verdicts compared(const Facts& before, const Facts& after) {
    static constexpr std::pair<Aspect, Verdict (*)(const Facts&, const Facts&)> table[] = {
        {Aspect::Scale, scale},
        {Aspect::Up, up},
        {Aspect::Objects, objects},
        {Aspect::Names, names},
        {Aspect::Hierarchy, hierarchy},
        {Aspect::Materials, materials},
        {Aspect::Pictures, pictures},
        {Aspect::Uvs, uvs},
        {Aspect::UvPlacement, uvPlacement},
        {Aspect::Normals, normals},
        {Aspect::Colours, colours},
        {Aspect::Bones, bones},
        {Aspect::Clips, clips},
        {Aspect::Morphs, morphs}};
    Verdicts out;
    for (const auto& [aspect, verdict] : table) out[aspect] = verdict(before, after);
    return out;
}

} // namespace zl::chain
