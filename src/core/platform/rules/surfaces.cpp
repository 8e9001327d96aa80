// Rules about what faces are made of: whether each has a surface kind, and whether the platform knows it.
#include "core/platform/rules/all_rules.h"

#include "core/base/words.h"
#include "core/contact/surfaces.h"
#include "core/geometry/world.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::platform {

Finding measureSurfacesSet(const Measures& m, const Sheet&, const RuleSpec&) {
    const Model& model = m.model();
    const auto counts = contact::surfaceCounts(model);
    std::size_t all = 0, unset = 0;
    long kinds = 0;
    for (const auto& [kind, faces] : counts.used()) {
        all += faces;
        if (kind < 0)
            unset = faces;
        else
            ++kinds;
    }
    Finding finding;
    finding.canBeTight = false;
    finding.holds = unset == 0;
    finding.value = double(unset);
    finding.limit = "all faces";
    finding.measured = unset > 0 ? fmt::format("{} without", showNumber(double(unset), 0))
                       : all > 0 ? showCount(kinds, "kind", "kinds")
                                 : "no faces";
    finding.note =
        unset == 0 ? fmt::format("Every face is made of something; {}", showCount(kinds, "kind", "kinds"))
                   : fmt::format("{} of {} faces{} are made of nothing", showNumber(double(unset), 0),
                                 showNumber(double(all), 0), counts.bodies.empty() ? "" : " of its bodies");
    if (unset == 0) return finding;
    // Those that are seen are lit, for bodies take after them.
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4&) {
        for (std::uint32_t t = 0; t < mesh.triangleCount(); ++t)
            if (mesh.surfaces.empty() || mesh.surfaces[t] < 0) finding.faces.push_back({node, t});
    });
    return finding;
}

Finding measureSurfaceKnown(const Measures& m, const Sheet& sheet, const RuleSpec&) {
    const Model& model = m.model();
    const auto counts = contact::surfaceCounts(model);
    Finding finding;
    finding.canBeTight = false;
    finding.limit = fmt::format("of {}", sheet.touch.surfaces.size());
    std::vector<std::string> unknown;
    std::size_t known = 0, faces = 0;
    for (const auto& [kind, number] : counts.used()) {
        if (kind < 0) continue;
        const std::string& name = model.surfaceKinds[std::size_t(kind)];
        if (sheet.touch.surface(name))
            ++known;
        else
            unknown.push_back(name), faces += number;
    }
    finding.holds = unknown.empty();
    finding.value = double(known);
    finding.measured = unknown.empty() ? showNumber(double(known), 0) : showNames(unknown);
    finding.note = "Every kind is one that the platform knows";
    if (unknown.empty()) return finding;
    std::vector<std::string_view> words;
    for (const contact::SurfaceKind& kind : sheet.touch.surfaces) words.push_back(kind.name);
    const std::string_view near = nearestWord(unknown[0], words);
    finding.note = fmt::format("{} are of {}, which the platform does not know{}",
                               showCount(long(faces), "face", "faces"), showNames(unknown),
                               near.empty() ? std::string() : fmt::format("; {} perhaps", near));
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4&) {
        for (std::uint32_t t = 0; t < mesh.surfaces.size(); ++t)
            if (mesh.surfaces[t] >= 0 &&
                !sheet.touch.surface(model.surfaceKinds[std::size_t(mesh.surfaces[t])]))
                finding.faces.push_back({node, t});
    });
    return finding;
}

} // namespace zl::platform
