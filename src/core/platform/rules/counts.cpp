// Rules that count: triangles, corners, objects, materials, pictures.
#include "core/platform/rules/all_rules.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

namespace zl::platform {

namespace {

/// The node with most of what `count` counts, for limits that hold for each object.
Finding mostPerObject(const Model& model, double most, const auto& count, std::string_view singular,
                      std::string_view plural) {
    double worst = 0;
    std::vector<int> over;
    int worstNode = -1;
    for (int i = 0; i < static_cast<int>(model.nodes.size()); ++i) {
        if (!model.nodes[i].isShown()) continue;
        const double n = count(*model.meshes[model.nodes[i].mesh]);
        if (n > most) over.push_back(i);
        if (n > worst) worst = n, worstNode = i;
    }
    Finding finding = atMost(worst, most, singular, plural);
    finding.nodes = over;
    finding.limit = fmt::format("of {} an object", showNumber(most, 0));
    if (worstNode >= 0) finding.note += fmt::format(" in \"{}\"", model.nodes[worstNode].name);
    return finding;
}

/// The material that most triangles wear, for platforms that draw each as a thing of its own.
Finding mostPerMaterial(const Model& model, double most) {
    const auto worn = trianglesByMaterial(model);
    const auto worst = std::ranges::max_element(worn, {}, [](const auto& entry) { return entry.second; });
    Finding finding = atMost(worst == worn.end() ? 0 : double(worst->second), most, "triangle", "triangles");
    finding.limit = fmt::format("of {} a material", showNumber(most, 0));
    for (const auto& [material, count] : worn)
        if (double(count) > most && material >= 0) finding.materials.push_back(material);
    if (worst != worn.end() && worst->first >= 0)
        finding.note += fmt::format(" wear \"{}\"", model.materials[std::size_t(worst->first)].name);
    return finding;
}

/// Pictures that a mesh's materials show, in whatever role.
std::set<int> picturesOf(const Model& model, const Mesh& mesh) {
    std::set<int> pictures;
    for (const MaterialRun& run : mesh.runs)
        if (run.triangleCount > 0 && run.material >= 0)
            for (const PictureUse& use : model.materials[run.material].pictures)
                if (use) pictures.insert(use.image);
    return pictures;
}

} // namespace

Finding measureTriangles(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 0);
    const auto all = double(triangleCount(m.model()));
    Finding finding =
        rule.limit("per-material", 0) != 0 ? mostPerMaterial(m.model(), most)
        : rule.limit("per-object", 0) != 0
            ? mostPerObject(
                  m.model(), most, [](const Mesh& mesh) { return double(mesh.triangleCount()); }, "triangle",
                  "triangles")
            : atMost(all, most, "triangle", "triangles");
    if (all == 0) {
        finding.holds = false;
        finding.note = "There are no triangles to show";
    }
    return finding;
}

Finding measureCorners(const Measures& m, const Sheet&, const RuleSpec& rule) {
    return mostPerObject(
        m.model(), rule.limit("most", 0), [](const Mesh& mesh) { return double(mesh.vertexCount()); },
        "corner", "corners");
}

Finding measureObjects(const Measures& m, const Sheet&, const RuleSpec& rule) {
    Finding finding = atMost(double(objectCount(m.model())), rule.limit("most", 0), "object", "objects");
    if (!finding.holds) finding.nodes = shownNodes(m.model());
    return finding;
}

Finding measureMaterials(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 0);
    if (rule.limit("per-object", 0) != 0)
        return mostPerObject(
            m.model(), most,
            [](const Mesh& mesh) {
                std::vector<int> used;
                for (const MaterialRun& run : mesh.runs)
                    if (run.triangleCount > 0 && std::ranges::find(used, run.material) == used.end())
                        used.push_back(run.material);
                return double(used.size());
            },
            "material", "materials");
    const auto used = usedMaterials(m.model());
    Finding finding = atMost(double(used.size()), most, "material", "materials");
    if (!finding.holds) finding.materials = used;
    return finding;
}

Finding measurePictures(const Measures& m, const Sheet&, const RuleSpec& rule) {
    const double most = rule.limit("most", 0);
    if (rule.limit("per-object", 0) != 0)
        return mostPerObject(
            m.model(), most, [&](const Mesh& mesh) { return double(picturesOf(m.model(), mesh).size()); },
            "picture", "pictures");
    const auto used = usedImages(m.model());
    Finding finding = atMost(double(used.size()), most, "picture", "pictures");
    if (!finding.holds)
        for (const int material : usedMaterials(m.model()))
            if (material >= 0 && m.model().materials[material].leading())
                finding.materials.push_back(material);
    return finding;
}

} // namespace zl::platform
