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
#include "core/project/project.h"
#include "core/recipe/recipe.h"
#include "core/texture/picture_file.h"

#include <stb_image_write.h>

#include <fmt/format.h>

#include <cstring>
#include <iostream>

using namespace zl;

namespace {

recipe::Entry entry(const char* step, nlohmann::json params) {
    auto made = steps::makeStep(step);
    made->setParams(params);
    return {step, true, made->params()};
}

/// The kiosk's pictures of relief, height and the packed ones, by material.
recipe::Entry kioskSets() {
    auto rows = nlohmann::json::array();
    for (const char* material : {"stall wood", "awning cloth", "press iron", "crate wood", "fruit peel"}) {
        std::string stem = material;
        std::ranges::replace(stem, ' ', '-');
        const auto add = [&](const char* ending, const char* role, const char* channel) {
            rows.push_back({{"of", {material}},
                            {"role", role},
                            {"channel", channel},
                            {"picture", {{"file", fmt::format("kiosk-sets/{}-{}.png", stem, ending)}}}});
        };
        add("n", "normal", "all"), add("h", "height", "all");
        add("orm", "occlusion", "red"), add("orm", "roughness", "green"), add("orm", "metalness", "blue");
    }
    return entry("set-pictures", {{"pictures", rows}});
}

project::Project harvestFair(const std::filesystem::path& folder) {
    project::Project fair;
    fair.name = "Bergamot Quay harvest fair";
    fair.file = folder / "bergamot-quay.zestloom";
    fair.platforms = {"hearthboard", "playmeadow", "lampwright", "mudhaul",    "thistledown", "fellmark",
                      "oxbow",       "saltbranch", "skerry",     "commonmoor", "brindle",     "kitecup",
                      "mirrorfolk",  "cobblekeep", "portcalder", "culvert"};
    project::Piece bell;
    bell.name = "Tide bell";
    bell.sources = {{"tide-bell.stl", "Mira Quill", "CC BY 4.0", project::Permission::Allowed}};
    const auto scan = entry("unit-and-up", {{"unit", "mm"}, {"up", "z"}});
    const auto weld = entry("weld-and-clean", nlohmann::json::object());
    bell.crossings = {
        {"hearthboard", {}, {{"finish", "satin"}}},
        {"playmeadow",
         {scan, entry("size", {{"by", "height"}, {"measure", 1.9}}),
          entry("stand-on-floor", nlohmann::json::object()), weld,
          entry("reduce-triangles", {{"goal", "number"}, {"number", 9500}})}},
        {"lampwright",
         {scan, entry("size", {{"by", "height"}, {"measure", 1.9}}), entry("origin", {{"at", "foot"}}), weld,
          entry("reduce-triangles", {{"goal", "limit"}}), entry("rename-parts", {{"legal", true}})}},
        {"skerry",
         {scan, entry("size", {{"by", "height"}, {"measure", 1.9}}), entry("heading", {{"front", "+z"}}),
          entry("origin", {{"at", "foot"}}), weld},
         {{"note", "Scanned in the harbour, with its moss."}}}};
    project::Piece kiosk;
    kiosk.name = "Press kiosk";
    kiosk.sources = {{"press-kiosk.obj", "Odd Fennel", "own", project::Permission::OwnWork}};
    kiosk.recipe = {entry("unit-and-up", {{"unit", "m"}, {"up", "y"}}), entry("heading", {{"front", "+z"}}),
                    entry("origin", {{"at", "foot"}})};
    kiosk.crossings = {{"hearthboard", {}, {{"finish", "wood"}}},
                       {"playmeadow", {weld}},
                       {"lampwright", {}},
                       {"saltbranch", {weld, kioskSets()}},
                       {"commonmoor", {}}};
    const nlohmann::json none = nlohmann::json::object();
    project::Piece hoist;
    hoist.name = "Dock hoist";
    hoist.sources = {{"dock-hoist.obj", "Odd Fennel", "own", project::Permission::OwnWork}};
    // The file is in centimetres with Z up, as its maker said.
    hoist.recipe = {entry("unit-and-up", {{"unit", "cm"}, {"up", "z"}}), entry("heading", {{"front", "+z"}}),
                    entry("origin", {{"at", "foot"}})};
    hoist.crossings = {{"playmeadow", {entry("split-parts", {{"by", "material"}})}},
                       {"lampwright", {entry("rename-parts", {{"legal", true}})}}};
    project::Piece cart;
    cart.name = "Haul cart";
    cart.sources = {{"haul-cart.glb", "Tamsin Reed", "CC BY 4.0", project::Permission::Allowed}};
    cart.recipe = {entry("heading", {{"front", "-x"}}), entry("size", {{"by", "width"}, {"measure", 2.2}}),
                   entry("origin", {{"at", "foot"}}), entry("bake-placement", none),
                   entry("remove-wrappers", none)};
    cart.crossings = {{"playmeadow", {entry("split-parts", {{"by", "material"}})}},
                      {"mudhaul", {entry("rename-parts", {{"what", "materials"}, {"legal", true}})}}};
    project::Piece props;
    props.name = "Kiosk props";
    props.sources = {{"kiosk-props.glb", "Odd Fennel", "own", project::Permission::OwnWork}};
    props.recipe = {
        entry("heading", {{"front", "+z"}}), entry("stand-on-floor", none), entry("remove-wrappers", none),
        entry("rename-parts", {{"what", "objects"}, {"find", "*"}, {"become", "{1}"}, {"legal", true}})};
    props.crossings = {{"playmeadow", {entry("one-material", {{"scope", "each"}, {"keep", "colour"}})}}};
    project::Piece lantern;
    lantern.name = "Storm lantern";
    lantern.sources = {{"storm-lantern.rowpackage/geometry/armLantern.rowmesh", "Thistledown Row", "",
                        project::Permission::Allowed, "Night market"}};
    lantern.crossings = {{"thistledown",
                          {entry("size", {{"by", "height"}, {"measure", 0.5}})},
                          {{"called", "tall-lantern"}, {"maker", "Tamsin Reed"}}}};
    project::Piece net;
    net.name = "Net over the shoulder";
    net.sources = {{"saltglass.rowcatalogue/geometry/shoulderNet.rowmesh", "Thistledown Row", "",
                    project::Permission::Allowed, "Quay set"}};
    net.crossings = {{"thistledown", {}}};
    project::Piece hand;
    hand.name = "Dock hand";
    hand.sources = {{"figure-grown-a.glb", "Odd Fennel", "own", project::Permission::OwnWork}};
    const auto worn = [](const char* piece, const char* bone, const char* place) {
        return nlohmann::json{{"item", {{"piece", piece}}}, {"bone", bone}, {"place", place},
                              {"offset", {0, 0, 0}},        {"turn", 0},    {"shown", true}};
    };
    hand.crossings = {
        {"thistledown",
         {entry("wear", {{"items",
                          {worn("Storm lantern", "hand.right", "hand, right"),
                           worn("Net over the shoulder", "chest", "shoulder, left")}}}),
          entry("pose",
                {{"called", "lantern up"},
                 {"turns", {{{"bone", "head"}, {"x", -10}, {"y", -25}, {"z", 0}}}},
                 {"reaches",
                  {{{"end", "hand.right"}, {"to", {-0.45, 1.5, 0.35}}, {"bend", {-0.2, -0.6, -0.3}}}}}})},
         {{"what", "poses"}, {"called", "dock-poses"}, {"maker", "Odd Fennel"}}}};
    project::Piece apron;
    apron.name = "Fair apron";
    for (const char* size : {"slim", "broad"})
        apron.sources.push_back({fmt::format("fair-apron_{}.glb", size), "Mira Quill", "own",
                                 project::Permission::OwnWork, "", size});
    const auto wears = [](const char* material) {
        return nlohmann::json::array({{{"materials", {material}}}});
    };
    apron.selections = {{"pockets", selection::fromJson(wears("pocket quilt"))},
                        {"lamp lens", selection::fromJson(wears("lens glass"))}};
    const auto kept = [](const char* name) { return nlohmann::json::array({{{"named", name}}}); };
    apron.crossings = {{"fellmark",
                        {entry("cut-out", {{"faces", kept("pockets")}, {"name", "pockets"}}),
                         entry("cut-out", {{"faces", kept("lamp lens")}, {"name", "lamp lens"}}),
                         entry("split-parts", {{"by", "material"}}),
                         entry("part-material", {{"faces", kept("lamp lens")},
                                                 {"called", "lit lens"},
                                                 {"settings",
                                                  {{{"name", "glow"}, {"value", "0.6"}},
                                                   {{"name", "shine"}, {"value", "0.9"}}}}})}}};
    project::Piece derby;
    derby.name = "Derby cart";
    derby.sources = {{"derby-cart/derby-cart.glb", "Tamsin Reed", "own", project::Permission::OwnWork}};
    derby.recipe = {entry("heading", {{"front", "+z"}})};
    derby.crossings = {
        {"oxbow",
         {entry("take-parts",
                {{"from", {{"piece", "Dandy cart"}}}, {"parts", {"wheel.*"}}, {"without", {"brake*"}}}),
          entry("stand-on-floor", none)},
         {{"steering", 18}, {"camber", -4}, {"camera-turn", 38}, {"camera-above", 14}}}};
    project::Piece dandy;
    dandy.name = "Dandy cart";
    dandy.sources = {{"dandy-cart/dandy-cart.glb", "Odd Fennel", "CC BY 4.0", project::Permission::Allowed}};
    dandy.recipe = derby.recipe;
    dandy.crossings = {{"oxbow", {}}};
    project::Piece bollard;
    bollard.name = "Rope bollard";
    bollard.sources = {{"rope-bollard.obj", "Mira Quill", "own", project::Permission::OwnWork}};
    bollard.recipe = {entry("unit-and-up", {{"unit", "m"}, {"up", "y"}}),
                      entry("heading", {{"front", "+z"}})};
    bollard.crossings = {{"saltbranch", {}}};
    project::Piece pip;
    pip.name = "Pip the winder";
    pip.sources = {{"pip-the-winder.glb", "Odd Fennel", "own", project::Permission::OwnWork}};
    pip.recipe = {entry("heading", {{"front", "+z"}})};
    pip.crossings = {
        {"brindle",
         {entry("stay-on-the-spot", none), entry("clip-rate", none), entry("loop-clips", {{"of", {"walk"}}}),
          entry("rigid-segments", none), entry("reduce-triangles", {{"goal", "limit"}}),
          entry("picture-bytes", none)},
         {{"called", "pip"}}},
        {"mirrorfolk",
         {entry("take-setup", {{"from", {{"piece", "Pip of last year"}}}}), entry("avatar-licence", none)},
         {{"called", "pip"}}}};
    project::Piece lastYear;
    lastYear.name = "Pip of last year";
    lastYear.sources = {{"pip-of-last-year.vrm", "Odd Fennel", "own", project::Permission::OwnWork}};
    lastYear.crossings = {{"mirrorfolk", {}}};
    project::Piece fish;
    fish.name = "Lantern fish";
    fish.sources = {{"lantern-fish.glb", "Mira Quill", "own", project::Permission::OwnWork}};
    fish.recipe = {entry("heading", {{"front", "+z"}})};
    const auto plays = [](const char* slot, const char* clip) {
        return nlohmann::json{{"slot", slot}, {"clip", clip}};
    };
    fish.crossings = {
        {"kitecup",
         {entry("stand-on-floor", none), entry("scale-rig", none), entry("stay-on-the-spot", none),
          entry("clip-rate", none),
          entry("slots",
                {{"filled", {plays("hop", "startle"), plays("spin", "startle"), plays("lose", "glide")}},
                 {"others", "swim"}}),
          entry("hide", {{"of", {"rider"}}}), entry("platform-settings", none),
          entry("picture-size", {{"goal", "limit"}}), entry("reduce-triangles", {{"goal", "limit"}})}}};
    project::Piece lamp;
    lamp.name = "Crate lamp";
    lamp.sources = {{"crate-lamp.glb", "Mira Quill", "own", project::Permission::OwnWork}};
    lamp.recipe = {entry("heading", {{"front", "+z"}})};
    lamp.crossings = {
        {"cobblekeep",
         {entry("size", {{"by", "height"}, {"measure", 1}}), entry("origin", {{"at", "foot"}}),
          entry("collider-box", {{"around", "everything"}, {"inset", 0}}), entry("holder", none),
          entry("marks", {{"wanted", {{{"mark", "CarryMe"}}}}}), entry("engine-version", none)}}};
    project::Piece clock;
    clock.name = "Quay clock";
    clock.sources = {{"quay-clock.obj", "Odd Fennel", "own", project::Permission::OwnWork}};
    clock.recipe = {entry("unit-and-up", {{"unit", "m"}, {"up", "z"}}), entry("heading", {{"front", "+z"}}),
                    entry("origin", {{"at", "foot"}})};
    const auto of = [](const char* material, const char* kind) {
        return nlohmann::json{{"material", material}, {"kind", kind}};
    };
    const auto inCity = [&](int number, double x, double y, double turn, const nlohmann::json& kinds) {
        return std::vector<recipe::Entry>{
            entry("number", {{"number", number}, {"traits", {{{"trait", "solid"}}}}}),
            entry("place-on-map", {{"places", {{{"at", {x, y, 6}}, {"turn", turn}}}}}),
            entry("join-parts", none),
            entry("bake-placement", none),
            entry("rename-parts", {{"legal", true}}),
            entry("surface-kind", {{"by", "materials"}, {"materials", kinds}}),
            entry("collision-mesh", none)};
    };
    clock.crossings = {{"portcalder", inCity(41207, 412.6, 88.15, 35,
                                             {of("harbour_wood", "wood"), of("harbour_iron", "iron"),
                                              of("harbour_cloth", "cloth"), of("lamp_glass", "glass")})}};
    hoist.crossings.push_back(
        {"culvert",
         {entry("rename-parts", {{"legal", true}}),
          entry("surface-kind",
                {{"by", "materials"},
                 {"materials",
                  {of("harbour_wood", "wood"), of("harbour_iron", "metal"), of("harbour_cloth", "cloth")}}}),
          entry("convex-pieces", none)}});
    hoist.crossings.push_back({"portcalder", inCity(41208, 424, 100.5, -90,
                                                    {of("harbour_wood", "wood"), of("harbour_iron", "iron"),
                                                     of("harbour_cloth", "cloth")})});
    fair.pieces = {bell,  kiosk, hoist, cart, props, bollard,  lantern, net,  hand,
                   apron, derby, dandy, pip,  fish,  lastYear, lamp,    clock};
    fair.yardsticks = {{"Market stall", "press-kiosk.obj", "m", "y"}};
    return fair;
}

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
    auto files =
        std::vector<OutFile>{{"tide-bell.stl", scan},
                             {"press-kiosk.obj", kiosk.obj},
                             {"press-kiosk.mtl", kiosk.mtl},
                             {"stall-wood.png", png(wood)},
                             {"crate-wood.png", png(crates)},
                             {"awning-cloth.png", png(demo::clothPicture(512))},
                             {"fruit-peel.png", png(demo::fruitPicture(512))},
                             {"press-iron.png", png(demo::ironPicture(512))},
                             {"bergamot-quay.zestloom", jsonText(toJson(harvestFair(folder)), 2) + "\n"}};
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
    add(kiteGame(harvestFair(folder)));
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
        "clock, and a catalogue\n",
        folder.string(),
        (scan.size() - 84) / 50); // the head and what a triangle takes in a binary STL
    return 0;
} catch (const Error& error) {
    std::cerr << "zest-loom-demo-data: " << error.whole() << '\n';
    return 2;
}
