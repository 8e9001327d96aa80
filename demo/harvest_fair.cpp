// The project "Bergamot Quay harvest fair": its pieces, where they come from, and what is done to them for
// each platform.
#include "demo_data.h"

#include "core/project/project.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::demo {

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

} // namespace

project::Project harvestFair(const std::filesystem::path& folder) {
    project::Project fair;
    fair.name = "Bergamot Quay harvest fair";
    fair.file = folder / "bergamot-quay.zestloom";
    fair.platforms = {"hearthboard", "playmeadow", "lampwright", "mudhaul",    "thistledown", "fellmark",
                      "oxbow",       "saltbranch", "skerry",     "commonmoor", "brindle",     "kitecup",
                      "mirrorfolk",  "cobblekeep", "portcalder", "culvert",    "hullyard"};
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
    project::Piece airship;
    airship.name = "Fair airship";
    airship.sources = {{"fair-airship.obj", "Tamsin Reed", "own", project::Permission::OwnWork}};
    airship.recipe = {entry("unit-and-up", {{"unit", "m"}, {"up", "z"}}),
                      entry("heading", {{"front", "+z"}})};
    airship.crossings = {{"hullyard", {entry("build-of-blocks", {{"by", "blocks"}, {"blocks", 33}})}}};
    project::Piece roller;
    roller.name = "Steam roller";
    roller.sources = {{"steam-roller.glb", "Odd Fennel", "own", project::Permission::OwnWork}};
    roller.recipe = {entry("heading", {{"front", "+z"}})};
    roller.crossings = {{"hullyard", {entry("build-of-blocks", {{"by", "blocks"}, {"blocks", 40}})}}};
    project::Piece pergola;
    pergola.name = "Pergola";
    pergola.sources = {{"pergola.solids", "Odd Fennel", "own", project::Permission::OwnWork}};
    pergola.crossings = {{"commonmoor", {entry("bake-light", {{"pixels", 128}, {"fineness", 1}})}}};
    fair.pieces = {bell,  kiosk, hoist, cart, props,    bollard, lantern, net,     hand,   apron,
                   derby, dandy, pip,   fish, lastYear, lamp,    clock,   airship, roller, pergola};
    fair.yardsticks = {{"Market stall", "press-kiosk.obj", "m", "y"}};
    return fair;
}

} // namespace zl::demo
