// A figure for the virtual table: NAME.obj with MTL and picture, NAME-collider.obj when there is a collider,
// and NAME.table.json that says which files belong together. The description is in
// docs/formats/table-figure.md.
#include "core/deliver/placed_for.h"
#include "core/base/json_text.h"
#include "core/base/words.h"

#include "core/base/error.h"
#include "core/geometry/world.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace zl::deliver {

namespace {

Model colliderModel(const Model& model) {
    Model out;
    for (const Collider& collider : model.colliders) {
        out.nodes.push_back({collider.name, -1, collider.placement, static_cast<int>(out.meshes.size())});
        Mesh bare = *collider.mesh;
        for (MaterialRun& run : bare.runs) run.material = -1;
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(bare)));
    }
    return out;
}

} // namespace

std::vector<OutFile> makeTableFigure(const Model& model, const platform::Sheet& sheet, const Options& options,
                                     const Progress& progress) {
    const std::string name = fileNameFrom(options.name);
    std::string finish = options.finish;
    if (finish.empty() && !sheet.finishes.empty()) finish = sheet.finishes.front();
    if (!sheet.finishes.empty() && std::ranges::find(sheet.finishes, finish) == sheet.finishes.end()) {
        throw Refused(fmt::format("there is no finish \"{}\"", finish), sheet.name,
                      "Choose one of " + inARow(sheet.finishes) + ".");
    }
    progress.report(0, "writing the figure");
    const formats::WriteOptions write = writeOptionsFor(sheet, name);
    auto files = formats::writeObj(withNormalsAdded(model), write, nullptr);
    nlohmann::ordered_json about{
        {"format", "table-figure"},
        {"version", 1},
        {"name", options.name},
        {"model", files[0].name},
        {"pictures", namesFrom(files, 2)},
        {"collider", nullptr},
        {"finish", finish},
        {"unit", {{"name", sheet.unitName}, {"millimetres", sheet.metresPerUnit * 1000}}},
        {"scale", 1.0},
        {"credit", options.credit}};
    if (!model.colliders.empty()) {
        progress.report(0.6, "writing the collider");
        auto collider =
            formats::writeObj(colliderModel(model), writeOptionsFor(sheet, name + "-collider"), nullptr);
        about["collider"] = collider[0].name;
        files.push_back(std::move(collider[0]));
    }
    files.push_back({name + ".table.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
