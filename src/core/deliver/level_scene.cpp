#include "core/deliver/level_scene.h"

#include "core/deliver/placed_for.h"

#include "core/base/json_text.h"

#include <nlohmann/json.hpp>

namespace zl::deliver {

std::vector<OutFile> LevelScene::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const {
    const std::string name = fileNameFrom(labels.name);
    progress.report(0, "writing the level text");
    auto files = formats::writeLevelText(withNormalsAdded(model), writeOptionsFor(sheet, name), nullptr);
    nlohmann::ordered_json about{{"format", "level-scene"},
                                 {"version", 1},
                                 {"name", labels.name},
                                 {"level", files[0].name},
                                 {"pictures", namesFrom(files, 1)},
                                 {"metresPerUnitInFile", sheet.fileMetresPerUnit()},
                                 {"importerMultiplies", sheet.importerFactor},
                                 {"credit", labels.credit}};
    files.push_back({name + ".scene.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
