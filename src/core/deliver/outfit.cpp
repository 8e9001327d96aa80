#include "core/deliver/outfit.h"

#include "core/deliver/placed_for.h"
#include "core/formats/outfit_text.h"
#include "core/model/used_only.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/formats/format.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <numbers>

namespace zl::deliver {

namespace {

/// With normals that split no corner: at a split one size might have more corners than another.
Model shaded(const Model& model) {
    return withNormalsAdded(withUsedMaterialsOnly(model), 2 * std::numbers::pi);
}

} // namespace

std::vector<OutFile> Outfit::make(const Model& model, const platform::Sheet& sheet, const Labels& labels,
                                  const Progress& progress) const {
    std::vector<std::pair<std::string, const Model*>> sizes{{labels.sizes.first, &model}};
    for (const Sizes::Twin& twin : labels.sizes.others) sizes.emplace_back(twin.size, &twin.model);
    for (const std::string& size : sheet.sizes)
        if (std::ranges::find(sizes, size, &std::pair<std::string, const Model*>::first) == sizes.end())
            throw Refused(fmt::format("has no {} size", size), labels.name, "Bring it in on Gather.");
    std::vector<OutFile> files;
    nlohmann::ordered_json about{{"format", "outfit"},
                                 {"version", 1},
                                 {"name", labels.name},
                                 {"sizes", nlohmann::json::object()},
                                 {"credit", labels.credit}};
    const std::string base = fileNameFrom(labels.name);
    for (std::size_t i = 0; i < sizes.size(); ++i) {
        const auto& [size, made] = sizes[i];
        progress.report(double(i) / double(sizes.size()), "writing " + size);
        const std::string name = size.empty() ? base : base + "_" + fileNameFrom(size);
        auto written = format == Format::Glb
                           ? formats::writeGlb(withPicturesPlaced(shaded(*made)), {name}, nullptr)
                           : std::vector{formats::outfitText(bakedFor(sheet, shaded(*made)), name)};
        about["sizes"][size.empty() ? "only" : size] = written[0].name;
        for (OutFile& file : written) files.push_back(std::move(file));
    }
    files.push_back({base + ".outfit.json", jsonText(about, 2) + "\n"});
    return files;
}

} // namespace zl::deliver
