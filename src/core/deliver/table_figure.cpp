#include "core/deliver/table_figure.h"

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

std::vector<OutFile> TableFigure::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                       const Progress& progress) const {
    const std::string name = fileNameFrom(labels.name);
    const std::string worn = finish.empty() && !sheet.finishes.empty() ? sheet.finishes.front() : finish;
    if (!sheet.finishes.empty() && std::ranges::find(sheet.finishes, worn) == sheet.finishes.end()) {
        throw Refused(fmt::format("there is no finish \"{}\"", finish), sheet.name,
                      "Choose one of " + inARow(sheet.finishes) + ".");
    }
    progress.report(0, "writing the figure");
    const formats::WriteOptions write = writeOptionsFor(sheet, name);
    auto files = formats::writeObj(withNormalsAdded(model), write, nullptr);
    nlohmann::ordered_json about{
        {"format", "table-figure"},
        {"version", 1},
        {"name", labels.name},
        {"model", files[0].name},
        {"pictures", namesFrom(files, 2)},
        {"collider", nullptr},
        {"finish", worn},
        {"unit", {{"name", sheet.unitName}, {"millimetres", sheet.metresPerUnit * 1000}}},
        {"scale", 1.0},
        {"credit", labels.credit}};
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
