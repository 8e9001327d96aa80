// Makes the demo project "Bergamot Quay harvest fair" in a folder. With --scan it makes the large textured
// scan of the bell instead: 2.1 million triangles and an 8K picture; with --large-catalogue the catalogue
// with 20 000 generated entries.
#include "demo_data.h"

#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/deliver/kart.h"
#include "core/deliver/race_car.h"
#include "core/figure/figure.h"
#include "core/formats/format.h"
#include "core/formats/material_settings.h"
#include "core/platform/sheet.h"
#include "core/project/documents.h"
#include "core/project/project.h"
#include "core/project/solids_document.h"
#include "core/recipe/recipe.h"
#include "core/texture/picture_file.h"

#include <stb_image_write.h>

#include <fmt/format.h>

#include <cstring>
#include <iostream>

using namespace zl;

namespace {

/// The GLB called `name`, its pictures and its materials' settings, all below `folder`.
std::vector<OutFile> withSkins(const Model& car, const std::string& name, const std::string& folder) {
    formats::WriteOptions options{name};
    options.pictureFolder = "skins/";
    auto files = formats::writeGlb(car, options, nullptr);
    files.push_back({name + ".materials.toml", formats::settingsTable(car.materials)});
    for (OutFile& file : files) file.name = folder + file.name;
    return files;
}

/// A small installation of Oxbow Circuit with cars in it: one as the game delivers it, and two of others.
std::vector<OutFile> oxbowGame() {
    std::vector<OutFile> out{{"oxbow.txt", "Oxbow Circuit: the river loop, three cars.\n"}};
    const auto add = [&](const std::string& car, std::vector<OutFile> files) {
        for (OutFile& file : files) out.push_back({"cars/" + car + "/" + file.name, std::move(file.bytes)});
    };
    Model own = demo::derbyCart();
    own.frame.unitAssumed = own.frame.upAssumed = false;
    add("derby-cart",
        deliver::RaceCar{}.make(own, {}, {.name = "derby-cart", .credit = "Oxbow Circuit"}, {}));
    for (const char* car : {"dandy-cart", "pump-trolley"}) {
        auto files = withSkins(demo::dandyCart(), car, "");
        files.push_back({fmt::format("{}.car.json", car),
                         fmt::format("{{\"format\": \"race-car\", \"version\": 1, \"model\": \"{0}.glb\", "
                                     "\"materials\": \"{0}.materials.toml\", \"credit\": \"\"}}\n",
                                     car)});
        add(car, std::move(files));
    }
    for (OutFile& file : out) file.name = "games/oxbow-circuit/" + file.name;
    return out;
}

/// A small installation of Kite Cup with two karts in it, one of them under the name of our fish.
std::vector<OutFile> kiteGame(const project::Project& fair) {
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "kitecup");
    Model fish = demo::lanternFish();
    const auto& recipe = fair.piece("Lantern fish")->on("kitecup")->recipe;
    const Model kart = recipe::evaluate(fish, 1, recipe, sheet.get(), nullptr).model;
    std::vector<OutFile> out{{"kite-cup.txt", "Kite Cup: two karts of others.\n"}};
    for (const auto& [name, maker] : {std::pair{"lantern-fish", "Kite Cup"}, {"paper-eel", "Tamsin Reed"}})
        for (OutFile& file : deliver::Kart{}.make(kart, *sheet, {.name = name, .credit = maker}, {}))
            out.push_back({"karts/" + file.name, std::move(file.bytes)});
    for (OutFile& file : out) file.name = "games/kite-cup/" + file.name;
    return out;
}

std::string jpeg(const Pixels& pixels) {
    std::string out;
    stbi_write_jpg_to_func(
        [](void* to, void* bytes, int size) {
            static_cast<std::string*>(to)->append(static_cast<const char*>(bytes), std::size_t(size));
        },
        &out, pixels.width, pixels.height, 4, pixels.rgba.data(), 90);
    return out;
}

} // namespace

int main(int argc, char** argv) try {
    const std::string_view asked = argc > 2 ? argv[2] : "";
    if (argc < 2 || argc > 3 || argv[1][0] == '-' ||
        (argc == 3 && asked != "--scan" && asked != "--large-catalogue")) {
        std::cerr << "usage: zest-loom-demo-data FOLDER [--scan | --large-catalogue]\n";
        return 2;
    }
    const std::filesystem::path folder = argv[1];
    if (asked == "--large-catalogue") {
        writeAllOrNone(folder, demo::saltglassCatalogue(20'000));
        std::cout << fmt::format("made a catalogue of 20\u202f060 entries in {}\n", folder.string());
        return 0;
    }
    if (asked == "--scan") {
        Mesh bell = demo::tideBell(std::sqrt(2.1e6 / 789000));
        writeAllOrNone(folder,
                       {{"tide-bell-scan.obj", demo::texturedObj(bell, "tide-bell-scan.mtl", "bronze")},
                        {"tide-bell-scan.mtl",
                         "newmtl bronze\nKd 0.8 0.8 0.8\nPr 0.4\nPm 0.7\nmap_Kd tide-bell-scan.jpg\n"},
                        {"tide-bell-scan.jpg", jpeg(demo::bronzePicture(8192))}});
        std::cout << fmt::format("made the scan of {} triangles in {}\n", bell.triangleCount(),
                                 folder.string());
        return 0;
    }
    const std::string scan = demo::scannedStl(demo::tideBell(1));
    const auto kiosk = demo::pressKiosk();
    const Pixels wood = demo::woodPicture(512, 4, 0.35f), crates = demo::woodPicture(512, 17, 1.0f);
    const auto png = [](const Pixels& pixels) { return texture::encodePng(pixels, false); };
    auto files = std::vector<OutFile>{
        {"tide-bell.stl", scan},
        {"press-kiosk.obj", kiosk.obj},
        {"press-kiosk.mtl", kiosk.mtl},
        {"stall-wood.png", png(wood)},
        {"crate-wood.png", png(crates)},
        {"awning-cloth.png", png(demo::clothPicture(512))},
        {"fruit-peel.png", png(demo::fruitPicture(512))},
        {"press-iron.png", png(demo::ironPicture(512))},
        {"bergamot-quay.zestloom", jsonText(toJson(demo::harvestFair(folder)), 2) + "\n"}};
    const auto add = [&](std::vector<OutFile> more) {
        for (OutFile& file : more) { // a picture that two things of the harbour wear lies there once
            const auto same = std::ranges::find(files, file.name, &OutFile::name);
            if (same == files.end() || same->bytes != file.bytes) files.push_back(std::move(file));
        }
    };
    add(demo::materialSet("stall-wood", wood, {4, 0.8f}));
    add(demo::materialSet("crate-wood", crates, {4, 0.85f}));
    add(demo::materialSet("awning-cloth", demo::clothPicture(512), {1.5f, 0.9f}));
    add(demo::materialSet("fruit-peel", demo::fruitPicture(512), {2, 0.5f}));
    add(demo::materialSet("press-iron", demo::ironPicture(512), {3, 0.4f, true}));
    add(formats::writeObj(demo::ropeBollard(), {"rope-bollard", 1.0, Up::Y}, nullptr));
    add(formats::writeObj(demo::dockHoist(), {"dock-hoist", 0.01, Up::Z}, nullptr));
    add(formats::writeGlb(figure::figureOf(figure::kindNamed("grown-a")), {"figure-grown-a"}, nullptr));
    add(formats::writeGlb(demo::crateLamp(), {"crate-lamp"}, nullptr));
    add(formats::writeObj(demo::quayClock(), {"quay-clock", 1.0, Up::Z}, nullptr));
    add(formats::writeObj(demo::fairAirship(), {"fair-airship", 1.0, Up::Z}, nullptr));
    add(formats::writeGlb(demo::steamRoller(), {"steam-roller"}, nullptr));
    project::SolidsDocument pergola;
    pergola.scene = demo::pergola();
    add({{"pergola.solids", project::documentText(project::solidsKind, pergola)}});
    add(formats::writeGlb(demo::haulCart(), {"haul-cart"}, nullptr));
    add(formats::writeGlb(demo::pipTheWinder(), {"pip-the-winder"}, nullptr));
    add(formats::writeVrm(demo::olderPip(), {"pip-of-last-year"}, nullptr));
    add(formats::writeGlb(demo::lanternFish(), {"lantern-fish"}, nullptr));
    for (const bool broad : {false, true})
        add(formats::writeGlb(demo::fairApron(broad), {broad ? "fair-apron_broad" : "fair-apron_slim"},
                              nullptr));
    for (const Model& cart : {demo::derbyCart(), demo::dandyCart()})
        add(withSkins(cart, cart.name, cart.name + "/"));
    add(oxbowGame());
    add(kiteGame(demo::harvestFair(folder)));
    add(demo::portCalderGame());
    add(formats::writeGlb(demo::kioskProps(), {"kiosk-props"}, nullptr));
    add(demo::saltglassKits());
    add(demo::saltglassCatalogue());
    add(demo::saltglassPackages());
    writeAllOrNone(folder, files);
    using std::filesystem::perms; // somebody has locked a car and a table of theirs
    std::filesystem::permissions(folder / "games/port-calder/placements-ropewalk.csv",
                                 perms::owner_read | perms::group_read | perms::others_read);
    std::filesystem::permissions(folder / "games/oxbow-circuit/cars/dandy-cart/dandy-cart.glb",
                                 perms::owner_read | perms::group_read | perms::others_read);
    std::cout << fmt::format(
        "made the harvest fair in {}: a bell of {} triangles, a kiosk with sets of pictures, a hoist, a "
        "cart, a bollard, eight props, a figure, an apron in two sizes, two derby carts and games "
        "to put things into, a winder, as it is and as it was worn last year, a fish, a lamp in a crate, a "
        "clock, an airship, a steam roller, a pergola, and a catalogue\n",
        folder.string(),
        (scan.size() - 84) / 50); // the head and what a triangle takes in a binary STL
    return 0;
} catch (const Error& error) {
    std::cerr << "zest-loom-demo-data: " << error.whole() << '\n';
    return 2;
}
