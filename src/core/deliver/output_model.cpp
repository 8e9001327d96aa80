#include "core/deliver/output_model.h"

#include "core/base/pattern.h"
#include "core/base/unique_names.h"
#include "core/deliver/placed_for.h"
#include "core/geometry/bake.h"
#include "core/geometry/extract.h"
#include "core/geometry/world.h"
#include "core/model/used_only.h"
#include "core/motion/still.h"
#include "core/platform/delivered_path.h"

namespace zl::deliver {

namespace {

using platform::Each;
using platform::FileOutput;

/// The bodies that physics uses, each an object.
Model bodiesOf(const Model& model) {
    Model out;
    for (const Collider& collider : model.colliders) {
        out.nodes.push_back({collider.name, -1, collider.placement, static_cast<int>(out.meshes.size())});
        Mesh bare = *collider.mesh;
        for (MaterialRun& run : bare.runs) run.material = -1;
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(bare)));
    }
    return out;
}

/// Without the shapes of objects that `keep` does not name; nodes stay.
Model withObjects(Model model, const auto& keep) {
    for (int n = 0; n < int(model.nodes.size()); ++n)
        if (model.nodes[n].mesh >= 0 && !keep(n)) model.nodes[n].mesh = -1, model.nodes[n].skin = -1;
    return model;
}

/// Without faces of other materials.
Model withMaterial(Model model, int material) {
    for (Node& node : model.nodes) {
        if (node.mesh < 0) continue;
        const Mesh& mesh = *model.meshes[node.mesh];
        const auto worn = triangleMaterials(mesh);
        std::vector<std::uint32_t> kept;
        for (std::uint32_t t = 0; t < worn.size(); ++t)
            if (worn[t] == material) kept.push_back(t);
        if (kept.empty()) {
            node.mesh = -1, node.skin = -1;
            continue;
        }
        node.mesh = int(model.meshes.size());
        model.meshes.push_back(std::make_shared<const Mesh>(geometry::inOwnOrder(mesh, kept)));
    }
    return model;
}

/// One object alone, with what lies above it in its corners: pictures and materials stay as they are
/// numbered.
Model alone(const Model& model, int node, const glm::dmat4& world) {
    Model out;
    out.name = model.nodes[node].name;
    out.materials = model.materials;
    out.images = model.images;
    out.nodes.push_back({model.nodes[node].name, -1, glm::dmat4(1.0), 0});
    out.meshes.push_back(
        std::make_shared<const Mesh>(geometry::transformed(*model.meshes[model.nodes[node].mesh], world)));
    return out;
}

/// Nothing is left on nodes: corners are in the file's numbers, and the writer's own way there is taken off.
Model baked(Model model, const formats::WriteOptions& options) {
    const glm::dmat4 toFile = formats::worldToFile(options);
    model.placement = toFile * model.placement;
    Model out = withNormalsAdded(geometry::baked(model).model);
    out.placement = glm::inverse(toFile);
    return out;
}

} // namespace

formats::WriteOptions writeOptionsFor(const FileOutput& file, const platform::Sheet& sheet) {
    formats::WriteOptions out = writeOptionsFor(sheet, {});
    if (file.metres > 0) out.metresPerUnit = file.metres;
    if (file.metres < 0) out.metresPerUnit = sheet.metresPerUnit * -file.metres;
    if (!file.up.empty() && file.front.empty()) out.front.clear();
    if (!file.up.empty()) out.up = file.up == "Y" ? Up::Y : Up::Z;
    if (!file.front.empty()) out.front = file.front;
    out.picturesBeside = file.pictures == FileOutput::Pictures::Beside;
    return out;
}

std::vector<Output> outputsOf(const FileOutput& file, const Model& model, const platform::Sheet& sheet,
                              const std::map<std::string, std::string>& values) {
    const formats::WriteOptions options = writeOptionsFor(file, sheet);
    Model whole = file.what == FileOutput::What::Body ? bodiesOf(model) : model;
    if (file.still) whole = motion::stillAtRest(whole);
    if (file.what == FileOutput::What::Model) whole = withNormalsAdded(whole);
    if (file.placedUvs) whole = withPicturesPlaced(std::move(whole));
    const NamePatterns wanted(file.parts), unwanted(file.without);
    const auto isMeant = [&](int n) {
        const Node& node = whole.nodes[n];
        return node.mesh >= 0 && node.level == 0 && wanted.match(node.name) &&
               (file.without.empty() || !unwanted.match(node.name));
    };
    std::vector<Output> out;
    UniqueNames taken = uniqueFileNames();
    const auto add = [&](const std::map<std::string, std::string>& places, Model made,
                         const std::string& object, int material) {
        if (triangleCount(made) == 0) return;
        if (file.baked) made = baked(std::move(made), options);
        // A GLB is in metres, Y up; one of a game that has it otherwise holds that game's numbers.
        const bool own = file.metres != 0 || !file.up.empty() || !file.front.empty();
        if (file.format == "glb" && own) made.placement = formats::worldToFile(options) * made.placement;
        const std::string path = platform::filledPath(file.path, places);
        const std::filesystem::path folder = std::filesystem::path(path).parent_path();
        const std::string name = taken.made(std::filesystem::path(path).filename().string());
        out.push_back({(folder / name).generic_string(), std::move(made), options, object, material});
    };
    if (file.each == Each::Piece) {
        const bool all = file.parts.empty() && file.without.empty();
        add(values, all ? std::move(whole) : withObjects(std::move(whole), isMeant), {}, -1);
        return out;
    }
    const auto world = worldMatrices(whole);
    int number = 0;
    if (file.each == Each::Object)
        for (int n = 0; n < int(whole.nodes.size()); ++n) {
            if (!isMeant(n)) continue;
            auto places = values;
            places["object"] = whole.nodes[n].name;
            places["n"] = std::to_string(++number);
            const bool moves = whole.nodes[n].skin >= 0;
            add(places,
                moves ? withObjects(whole, [n](int other) { return other == n; }) : alone(whole, n, world[n]),
                whole.nodes[n].name, -1);
        }
    else
        for (const int m : usedMaterials(whole)) {
            auto places = values;
            places["material"] = m < 0 ? "plain" : sheet.surface.materialFor(whole.materials[m].name);
            places["n"] = std::to_string(++number);
            add(places, withMaterial(withObjects(whole, isMeant), m), {}, m);
        }
    return out;
}

} // namespace zl::deliver
