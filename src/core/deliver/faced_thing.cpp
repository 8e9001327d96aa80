#include "core/deliver/faced_thing.h"

#include "core/base/json_text.h"
#include "core/base/unique_names.h"
#include "core/deliver/placed_for.h"
#include "core/deliver/solid_scene.h"
#include "core/formats/format.h"
#include "core/model/clothe_bare.h"
#include "core/model/used_only.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_format.h"

#include <nlohmann/json.hpp>

namespace zl::deliver {

std::vector<OutFile> FacedThing::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                      const Progress& progress) const {
    progress.report(0, "writing the thing");
    const std::string name = fileNameFrom(labels.name);
    if (const solids::Shown* scene = solids::shownBy(model))
        return solidSceneFiles(model, *scene, sheet, labels.name, progress);
    Model clothed = withUsedMaterialsOnly(model);
    clotheBare(clothed, name.substr(0, 40));
    const Model whole = withNormalsAdded(withMaterialNamesOnce(std::move(clothed)));
    auto files = formats::writeGlb(withoutPictures(whole), writeOptionsFor(sheet, name), nullptr);
    UniqueNames names = uniqueFileNames();
    for (const OutFile& file : files) names.take(file.name);
    auto faces = nlohmann::ordered_json::array();
    for (const Material& material : whole.materials) {
        nlohmann::ordered_json face{{"name", material.name}, {"picture", nullptr}};
        if (const int image = material.picture(PictureRole::Colour).image; image >= 0) {
            const auto bytes = texture::encodedOf(whole.images[std::size_t(image)]);
            const auto* format = texture::pictureFormatOf(*bytes);
            const std::string file = names.made(fileNameFrom(name + "-" + material.name) +
                                                std::string(format ? format->extension : ".png"));
            face["picture"] = file;
            files.push_back({file, *bytes});
        }
        faces.push_back(std::move(face));
    }
    const nlohmann::ordered_json about{{"format", "faced-thing"}, {"version", 1},   {"name", labels.name},
                                       {"model", files[0].name},  {"faces", faces}, {"lendable", lendable},
                                       {"credit", labels.credit}};
    files.push_back({name + ".thing.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
