// Small things of Bergamot Quay as kits: jars, lamps, baskets and what else hangs, stands and lies about a
// harbour.
#include "demo_data.h"
#include "saltglass_items.h"

#include "core/base/archive.h"
#include "core/formats/format.h"
#include "core/texture/picture_file.h"

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

/// A model without materials, as programs often leave it, and pictures that only their names tie to it.
std::vector<OutFile> tideBoard(const std::string& folder) {
    Model model;
    model.name = "tide-board";
    Solids solids;
    sign(solids);
    Mesh mesh = solids.take("tide-board");
    for (MaterialRun& run : mesh.runs) run.material = -1;
    addNode(model, "tide-board", -1, glm::dmat4(1.0), std::move(mesh));
    std::vector<OutFile> out;
    for (OutFile& file : formats::writeObj(model, {"tide-board"}, nullptr))
        if (file.name.ends_with(".obj")) out.push_back({folder + file.name, std::move(file.bytes)});
    const auto add = [&](const char* name, const Pixels& pixels) {
        out.push_back({folder + "pictures/" + name, texture::encodePng(pixels, false)});
    };
    constexpr int edge = 128;
    add("tide-board_d.png", woodPicture(edge, 11, 0.7f));
    Pixels bumps = woodPicture(edge, 12, 0.0f), packed = ironPicture(edge);
    for (std::size_t i = 0; i < bumps.rgba.size(); i += 4) {
        const int bump = (bumps.rgba[i] - 128) / 6;
        bumps.rgba[i] = std::uint8_t(128 + bump), bumps.rgba[i + 1] = 128, bumps.rgba[i + 2] = 250;
        // Occlusion, roughness, metalness, as several trades pack them.
        packed.rgba[i] = 255, packed.rgba[i + 1] = std::uint8_t(150 + packed.rgba[i + 1] / 4),
        packed.rgba[i + 2] = 0;
    }
    add("tide-board_normal.png", bumps);
    add("tide-board_orm.png", packed);
    add("tide-board_draft.png", clothPicture(edge));
    return out;
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
    for (OutFile& file : tideBoard("board/")) kit.push_back(std::move(file));
    kit.push_back({"night-market.zip", zipped(filesOf(market, "market/"))});
    const std::string key = "low tide at noon";
    return {{"saltglass-kit.zip", zipped(kit)},
            {"saltglass-locked.zip", zipped(filesOf(market, "market/"), key)},
            {"saltglass-key.txt", key + "\n"}};
}

} // namespace zl::demo
