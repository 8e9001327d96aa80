#include "core/deliver/race_car.h"

#include "core/deliver/placed_for.h"
#include "core/formats/format.h"
#include "core/formats/material_settings.h"
#include "core/model/used_only.h"

#include "core/base/json_text.h"

namespace zl::deliver {

std::vector<OutFile> RaceCar::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                   const Progress& progress) const {
    const Model car = withPicturesPlaced(withNormalsAdded(withUsedMaterialsOnly(model)));
    formats::WriteOptions options = writeOptionsFor(sheet, fileNameFrom(labels.name));
    options.pictureFolder = "skins/";
    auto files = formats::writeGlb(car, options, nullptr);
    nlohmann::ordered_json about{
        {"format", "race-car"}, {"version", 1}, {"model", files[0].name}, {"skins", namesFrom(files, 1)}};
    if (std::string settings = formats::settingsTable(car.materials); !settings.empty()) {
        files.push_back({options.name + ".materials.toml", std::move(settings)});
        about["materials"] = files.back().name;
    }
    files.push_back({"preview.png", pictureOf(*this, car, progress)});
    about["preview"] = files.back().name;
    about["credit"] = labels.credit;
    files.push_back({options.name + ".car.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
