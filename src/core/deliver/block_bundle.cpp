#include "core/deliver/block_bundle.h"

#include "core/base/archive.h"
#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/contact/marks.h"
#include "core/deliver/placed_for.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace zl::deliver {

namespace {

/// The bodies as nodes below the holder, called after the piece; their names.
std::vector<std::string> putBodies(Model& model, int holder, const std::string& name) {
    std::vector<std::string> names;
    const auto colliders = std::move(model.colliders);
    model.colliders.clear();
    const glm::dmat4 fromHolder = glm::inverse(worldMatrices(model)[std::size_t(holder)]);
    for (const Collider& body : colliders) {
        names.push_back(colliders.size() == 1 ? name + ".body"
                                              : fmt::format("{}.body.{}", name, names.size() + 1));
        Mesh bare = *body.mesh;
        bare.surfaces.clear();
        for (MaterialRun& run : bare.runs) run.material = -1;
        model.nodes.push_back({names.back(), holder, fromHolder * body.placement, int(model.meshes.size())});
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(bare)));
    }
    return names;
}

} // namespace

std::vector<OutFile> BlockBundle::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                       const Progress& progress) const {
    const std::string name = fileNameFrom(labels.name);
    progress.report(0, "writing the bundle");
    Model out = withNormalsAdded(model);
    const int holder = contact::holderOf(out);
    if (holder < 0) throw Refused("has no node around everything", labels.name, "Add the step Holder.");
    out.nodes[std::size_t(holder)].name =
        sheet.touch.holderName.empty() ? out.nodes[std::size_t(holder)].name : sheet.touch.holderFor(name);
    const std::string engine = model.madeFor.empty() ? sheet.touch.engine : model.madeFor;
    out.madeFor.clear(); // said in the bundle
    const glm::dvec3 size = geometry::worldBounds(model).size() / sheet.metresPerUnit;
    auto kinds = nlohmann::ordered_json::array();
    for (const Collider& body : model.colliders) kinds.push_back(body.kind);
    const auto bodies = putBodies(out, holder, name);
    auto files = formats::writeGlb(out, {name}, nullptr);
    const nlohmann::ordered_json about{{"format", "block-bundle"},
                                       {"version", 1},
                                       {"name", name},
                                       {"engine", engine},
                                       {"model", files[0].name},
                                       {"holder", out.nodes[std::size_t(holder)].name},
                                       {"bodies", bodies},
                                       {"bodyKinds", kinds},
                                       {"blocks",
                                        {std::max(1.0, std::round(size.x)), std::max(1.0, std::round(size.y)),
                                         std::max(1.0, std::round(size.z))}},
                                       {"credit", labels.credit}};
    files.insert(files.begin(), {"bundle.json", jsonText(about, 2) + "\n"});
    return {{name + ".bundle.zip", zipped(files)}};
}

} // namespace zl::deliver
