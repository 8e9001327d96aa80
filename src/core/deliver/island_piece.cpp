#include "core/deliver/island_piece.h"

#include "core/base/json_text.h"
#include "core/deliver/placed_for.h"
#include "core/formats/format.h"
#include "core/model/used_only.h"
#include "core/platform/cost.h"

#include <nlohmann/json.hpp>

#include <cmath>

namespace zl::deliver {

std::vector<OutFile> IslandPiece::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                       const Progress& progress) const {
    progress.report(0, "writing the piece");
    const std::string name = fileNameFrom(labels.name);
    const Model whole = withPicturesPlaced(withNormalsAdded(withUsedMaterialsOnly(model)));
    auto files = formats::writeGlb(whole, writeOptionsFor(sheet, name), nullptr);
    progress.report(0.8, "reckoning what it takes");
    // Reckoned, so that the island can say beside it what it really takes.
    const platform::Cost cost = platform::costOf(whole, sheet);
    auto qualities = nlohmann::ordered_json::array();
    for (const auto& quality : cost.qualities)
        qualities.push_back({{"name", quality.name}, {"pictureBytes", std::llround(quality.pictures)}});
    nlohmann::ordered_json reckoned{{"uploadBytes", std::llround(cost.upload)},
                                    {"triangles", cost.triangles},
                                    {"meshBytes", std::llround(cost.mesh)},
                                    {"qualities", std::move(qualities)}};
    if (const auto frame = cost.frame(1, true, cost.usual(), sheet.cost))
        reckoned["frameMilliseconds"] = *frame;
    const nlohmann::ordered_json about{{"format", "island-piece"}, {"version", 1}, {"name", labels.name},
                                       {"model", files[0].name},   {"note", note}, {"credit", labels.credit},
                                       {"reckoned", reckoned}};
    files.push_back({name + ".island.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
