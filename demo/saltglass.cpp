// Small things of Bergamot Quay as kits: jars, lamps, baskets and what else hangs, stands and lies about a
// harbour.
#include "demo_data.h"
#include "saltglass_items.h"

#include "core/base/archive.h"
#include "core/formats/format.h"

#include <algorithm>

namespace zl::demo {

namespace {

struct KitItem {
    const char* file;
    std::function<void(Solids&)> make;
};

/// OBJ, its materials, and those of the harbour's pictures that it wears.
std::vector<OutFile> filesOf(const KitItem& item, const std::string& folder) {
    Model model = withHarbourMaterials();
    model.name = item.file;
    Solids solids;
    item.make(solids);
    addNode(model, item.file, -1, glm::dmat4(1.0), solids.take(item.file));
    auto files = formats::writeObj(model, {item.file}, nullptr);
    for (OutFile& file : files) file.name = folder + file.name;
    return files;
}

std::vector<OutFile> filesOf(const std::vector<KitItem>& items, const std::string& folder) {
    std::vector<OutFile> all;
    for (const KitItem& item : items)
        for (OutFile& file : filesOf(item, folder))
            if (std::ranges::find(all, file.name, &OutFile::name) == all.end())
                all.push_back(std::move(file));
    return all;
}

} // namespace

std::vector<OutFile> saltglassKits() {
    const std::vector<KitItem> quay{{"crab-basket", crabBasket},
                                    {"mooring-bollard", bollard},
                                    {"net-float", netFloat},
                                    {"low-jar", [](Solids&s) { jar(s, 0.14, 0.24); }},
                                    {"tall-jar", [](Solids&s) { jar(s, 0.11, 0.38); }}},
        market{{"storm-lamp", stormLamp}, {"folding-sign", sign}, {"fruit-scales", scales}},
        loose{{"net-menders-stool", [](Solids&s) { stool(s); }}};
    std::vector<OutFile> kit{
        {"read-me.txt", "Saltglass, the harbour set. Ask Tamsin Reed before you publish it.\n"}};
    for (OutFile& file : filesOf(quay, "quay/")) kit.push_back(std::move(file));
    for (OutFile& file : filesOf(loose, "loose/")) kit.push_back(std::move(file));
    kit.push_back({"night-market.zip", zipped(filesOf(market, "market/"))});
    const std::string key = "low tide at noon";
    return {{"saltglass-kit.zip", zipped(kit)},
            {"saltglass-locked.zip", zipped(filesOf(market, "market/"), key)},
            {"saltglass-key.txt", key + "\n"}};
}

} // namespace zl::demo
