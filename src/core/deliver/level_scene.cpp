// A prop for Lampwright 3: its level text in metres (the importer multiplies by 40), pictures beside it, and
// NAME.scene.json that says what belongs together. docs/formats/level-text.md, docs/formats/level-scene.md.
#include "core/deliver/placed_for.h"

#include "core/base/json_text.h"

#include <nlohmann/json.hpp>

namespace zl::deliver {

std::vector<OutFile> makeLevelScene(const Model& model, const platform::Sheet& sheet, const Options& options,
                                    const Progress& progress) {
    const std::string name = fileNameFrom(options.name);
    progress.report(0, "writing the level text");
    auto files = formats::writeLevelText(withNormalsAdded(model), writeOptionsFor(sheet, name), nullptr);
    nlohmann::ordered_json about{{"format", "level-scene"},
                                 {"version", 1},
                                 {"name", options.name},
                                 {"level", files[0].name},
                                 {"pictures", namesFrom(files, 1)},
                                 {"metresPerUnitInFile", sheet.fileMetresPerUnit()},
                                 {"importerMultiplies", sheet.importerFactor},
                                 {"credit", options.credit}};
    files.push_back({name + ".scene.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
