#include "core/deliver/truck_scene.h"

#include "core/deliver/placed_for.h"

#include "core/base/json_text.h"

#include <nlohmann/json.hpp>

namespace zl::deliver {

std::vector<OutFile> TruckScene::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const {
    const std::string name = fileNameFrom(labels.name);
    progress.report(0, "writing COLLADA");
    auto files = bakedCollada(sheet, model, name);
    nlohmann::ordered_json about{{"format", "truck-scene"},
                                 {"version", 1},
                                 {"name", labels.name},
                                 {"model", files[0].name},
                                 {"pictures", namesFrom(files, 1)},
                                 {"unitMetres", sheet.fileMetresPerUnit()},
                                 {"front", sheet.front},
                                 {"credit", labels.credit}};
    files.push_back({name + ".truck.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
