// A truck for Mudhaul: one COLLADA file in decimetres, declared as 0.1, Y up, front to +X, nothing on the
// nodes; pictures beside it. docs/formats/truck-scene.md.
#include "core/deliver/placed_for.h"

#include "core/base/json_text.h"

#include <nlohmann/json.hpp>

namespace zl::deliver {

std::vector<OutFile> makeTruckScene(const Model& model, const platform::Sheet& sheet, const Options& options,
                                    const Progress& progress) {
    const std::string name = fileNameFrom(options.name);
    progress.report(0, "baking into the platform's axes");
    Model ready = withNormalsAdded(bakedFor(sheet, model));
    // The corners are in the file's numbers already: take the writer's own conversion off again.
    ready.placement = glm::inverse(formats::worldToFile({name, sheet.fileMetresPerUnit(), sheet.up}));
    progress.report(0.5, "writing COLLADA");
    auto files = formats::writeCollada(ready, {name, sheet.fileMetresPerUnit(), sheet.up}, nullptr);
    nlohmann::ordered_json about{{"format", "truck-scene"},
                                 {"version", 1},
                                 {"name", options.name},
                                 {"model", files[0].name},
                                 {"pictures", namesFrom(files, 1)},
                                 {"unitMetres", sheet.fileMetresPerUnit()},
                                 {"front", sheet.front},
                                 {"credit", options.credit}};
    files.push_back({name + ".truck.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
