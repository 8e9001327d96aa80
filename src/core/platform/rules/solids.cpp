// Rules about scenes of solids: how many stand in a group, how large each is, how many faces there are, what
// the whole takes of a region, and whether its light is in its pictures.
#include "core/platform/rules/all_rules.h"

#include "core/base/words.h"
#include "core/solids/scene_model.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

namespace {

/// What every rule here says of a model that is no scene of solids; null for one that is.
const solids::Shown* sceneOr(const Measures& m, Finding& finding, std::string limit) {
    const solids::Shown* shown = solids::shownBy(m.model());
    finding.limit = std::move(limit);
    finding.canBeTight = false;
    if (shown) return shown;
    finding.holds = false;
    finding.measured = "no solids";
    finding.note = m.model().solids ? "Its shape was changed after it was a scene of solids"
                                    : "It is no scene of solids";
    return nullptr;
}

/// The nodes that show solids which `isMeant` means.
template <class F>
std::vector<int> nodesWhere(const Model& model, const solids::Shown& shown, F isMeant) {
    const std::vector<int> nodes = solids::nodesOf(model);
    std::vector<int> out;
    for (std::size_t p = 0; p < shown.parts.size(); ++p)
        if (isMeant(shown.scene.solids.at(shown.parts[p].solid), p)) out.push_back(nodes[p]);
    return out;
}

/// The outermost group around a solid; 0 for none.
solids::Number outermost(const solids::Scene& scene, solids::Number group) {
    while (group != 0 && scene.groups.at(group).within != 0) group = scene.groups.at(group).within;
    return group;
}

} // namespace

Finding measureSolidsInGroup(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 200);
    Finding finding;
    const solids::Shown* shown = sceneOr(m, finding, fmt::format("of {}", showNumber(most)));
    if (!shown) return finding;
    std::map<solids::Number, std::size_t> counts;
    for (const auto& [number, solid] : shown->scene.solids)
        if (const solids::Number group = outermost(shown->scene, solid.group); group != 0) ++counts[group];
    const auto largest = std::ranges::max_element(counts, {}, [](const auto& count) { return count.second; });
    finding = atMost(largest == counts.end() ? 1 : double(largest->second), most, "solid", "solids");
    if (largest == counts.end()) {
        finding.note = "Every solid stands for itself";
        return finding;
    }
    const std::string& name = shown->scene.groups.at(largest->first).name;
    finding.note = fmt::format("The largest group is \"{}\", with what is in the groups in it", name);
    if (!finding.holds)
        finding.nodes = nodesWhere(m.model(), *shown, [&](const solids::Solid& solid, std::size_t) {
            return outermost(shown->scene, solid.group) == largest->first;
        });
    return finding;
}

Finding measureSolidSize(const Measures& m, const Sheet& sheet, const RuleSpec& rule) {
    const double least = rule.limit("least", 0.02), most = rule.limit("most", 50);
    Finding finding;
    const solids::Shown* shown =
        sceneOr(m, finding,
                fmt::format("{} to {}", sheet.showLength(least * sheet.metresPerUnit),
                            sheet.showLength(most * sheet.metresPerUnit)));
    if (!shown) return finding;
    const std::vector<int> nodes = solids::nodesOf(m.model());
    const auto world = worldMatrices(m.model());
    double smallest = 1e30, largest = 0;
    std::vector<glm::dvec3> sizes;
    for (std::size_t p = 0; p < shown->parts.size(); ++p) {
        const glm::dmat3 by(world[std::size_t(nodes[p])]);
        const glm::dvec3 size = shown->scene.solids.at(shown->parts[p].solid).shape.size *
                                glm::dvec3(glm::length(by[0]), glm::length(by[1]), glm::length(by[2])) /
                                sheet.metresPerUnit;
        sizes.push_back(size);
        smallest = std::min({smallest, size.x, size.y, size.z});
        largest = std::max({largest, size.x, size.y, size.z});
    }
    constexpr double rounding = 1e-9;
    const auto wrong = [&](const glm::dvec3& size) {
        return std::min({size.x, size.y, size.z}) < least * (1 - rounding) ||
               std::max({size.x, size.y, size.z}) > most * (1 + rounding);
    };
    const auto count = std::ranges::count_if(sizes, wrong);
    finding.holds = count == 0;
    finding.low = smallest, finding.high = largest;
    finding.value = largest;
    finding.share = largest / most;
    finding.measured = fmt::format("{} to {}", sheet.showLength(smallest * sheet.metresPerUnit),
                                   sheet.showLength(largest * sheet.metresPerUnit));
    finding.note = finding.holds ? "Every side of every solid is taken"
                                 : fmt::format("{} a side that is too short or too long",
                                               showCount(long(count), "solid has", "solids have"));
    if (!finding.holds)
        finding.nodes = nodesWhere(m.model(), *shown,
                                   [&](const solids::Solid&, std::size_t p) { return wrong(sizes[p]); });
    return finding;
}

Finding measureSolidFaces(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 1000);
    Finding finding;
    const solids::Shown* shown = sceneOr(m, finding, fmt::format("of {}", showNumber(most)));
    if (!shown) return finding;
    std::size_t faces = 0;
    for (const solids::Part& part : shown->parts) faces += part.faces.size();
    return atMost(double(faces), most, "face", "faces");
}

Finding measureRegionRoom(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 5000), shaped = rule.limit("shaped", 1);
    Finding finding;
    const solids::Shown* shown = sceneOr(m, finding, fmt::format("of {}", showNumber(most)));
    if (!shown) return finding;
    double room = 0;
    std::size_t dear = 0;
    for (const auto& [number, solid] : shown->scene.solids) {
        const solids::Shape& shape = solid.shape;
        const bool more = shape.hollow > 0 || shape.gap > 0 || shape.twist != 0;
        room += more ? shaped : 1;
        dear += more;
    }
    finding = atMost(room, most, "place", "places");
    finding.note = fmt::format("{}, of which {} {} places each: hollow, with a gap or twisted",
                               showCount(long(shown->scene.solids.size()), "solid", "solids"),
                               showCount(long(dear), "takes", "take"), showNumber(shaped));
    return finding;
}

Finding measureLightBaked(const Measures& m, const Sheet&, const RuleSpec&) {
    Finding finding;
    const solids::Shown* shown = sceneOr(m, finding, "in pictures");
    if (!shown) return finding;
    finding.holds = shown->lit;
    finding.measured = shown->lit ? "yes" : "no";
    finding.note = shown->lit
                       ? "Its pictures show its light"
                       : fmt::format("{} nothing of what it looks like there yet",
                                     showCount(long(shown->scene.lights.size()), "light does", "lights do"));
    return finding;
}

} // namespace zl::platform
