#include "core/deliver/city_object.h"

#include "core/base/archive.h"
#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/deliver/block_pictures.h"
#include "core/deliver/placed_for.h"
#include "core/formats/city_files.h"
#include "core/model/on_map.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace zl::deliver {

namespace {

std::string number(double value) {
    std::string out = fmt::format("{:.6f}", value + 0.0);
    out.erase(out.find_last_not_of('0') + 1);
    if (out.back() == '.') out.pop_back();
    return out == "-0" ? "0" : out;
}

} // namespace

std::vector<OutFile> CityObject::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const {
    const std::string name = fileNameFrom(called.empty() ? labels.name : called);
    if (!model.onMap || model.onMap->number == 0)
        throw Refused("has no number in the world", labels.name, "Add the step Number, or Place on the map.");
    const OnMap& onMap = *model.onMap;
    const glm::dmat4 toFile = formats::worldToFile(writeOptionsFor(sheet, {}));
    Model ready = withPicturesPlaced(withNormalsAdded(bakedFor(sheet, model)));
    const auto pictures = blockPictures(ready, progress.between(0, 0.8));
    progress.report(0.8, "writing the object");
    std::vector<OutFile> entries{{name + ".mesh", formats::writeCityMesh(formats::cityMeshOf(ready))},
                                 {name + ".pictures", formats::writeCityPictures(pictures)}};
    const std::string made = labels.name + " by "; // a credit says what it is of, which the file does already
    const std::string by =
        labels.credit.starts_with(made) ? labels.credit.substr(made.size()) : labels.credit;
    if (!model.colliders.empty())
        entries.push_back(
            {name + ".contact", formats::writeContact({by, {formats::contactBodyOf(model, name, toFile)}})});
    std::string traits;
    for (const std::string& trait : onMap.traits) traits += (traits.empty() ? "" : " ") + trait;
    const std::string definitions = fmt::format("name,number,pictures,view,traits\n{},{},{},{},{}\n", name,
                                                onMap.number, name, number(onMap.viewDistance), traits);
    // Turned as the axes are, without their scale.
    glm::dmat3 axes(toFile);
    for (int k = 0; k < 3; ++k) axes[k] = glm::normalize(axes[k]);
    const glm::dquat turned = glm::quat_cast(axes);
    std::string placements = "name,x,y,z,qx,qy,qz,qw,district\n";
    for (const MapPlace& place : onMap.places) {
        const glm::dvec3 at(toFile * glm::dvec4(place.at, 1));
        const glm::dquat turn = glm::normalize(turned * place.turn * glm::conjugate(turned));
        placements +=
            fmt::format("{},{},{},{},{},{},{},{},{}\n", name, number(at.x), number(at.y), number(at.z),
                        number(turn.x), number(turn.y), number(turn.z), number(turn.w), place.district);
    }
    const nlohmann::ordered_json about{{"format", "city-object"},
                                       {"version", 1},
                                       {"name", name},
                                       {"collisionFiles", sheet.world.collisionFiles},
                                       {"credit", labels.credit}};
    return {{"objects.zip", zipped(entries)},
            {"definitions.csv", definitions},
            {"placements.csv", placements},
            {name + ".object.json", jsonText(about, 2) + "\n"}};
}

} // namespace zl::deliver
