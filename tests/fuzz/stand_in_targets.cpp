// Delivered files, as the stand-ins read them.
#include "fuzz/helpers.h"
#include "fuzz/targets.h"

#include "standins/circuit/car_settings.h"
#include "standins/console/headers.h"
#include "standins/files/delivered.h"
#include "standins/level/level_file.h"
#include "standins/region/solid_shape.h"
#include "standins/site/glb_file.h"
#include "standins/slip/floating.h"
#include "standins/stand_in.h"
#include "standins/tunnel/compiler.h"
#include "standins/wardrobe/outfit_file.h"
#include "standins/world/collada_file.h"
#include "standins/world/glb_tree.h"
#include "standins/world/obj_file.h"
#include "standins/world/packed_files.h"

#include <cmath>

namespace fuzz {

using namespace zl;

namespace stand_ins {

namespace {

void standInObj(std::string_view bytes) {
    lookThrough(standins::world::readObjFile(written("s.obj", bytes)).shape);
}

void standInMtl(std::string_view bytes) {
    standins::world::readMaterialFile(written("s.mtl", bytes), "a");
}

void standInGlb(std::string_view bytes) {
    lookThrough(standins::site::readGlbFile(std::string(bytes)).shape);
}

void standInCollada(std::string_view bytes) {
    for (const auto& part : standins::world::readColladaFile(std::string(bytes)).parts)
        lookThrough(part.shape);
}

void standInLevel(std::string_view bytes) {
    for (const auto& object : standins::level::readLevelFile(std::string(bytes)).objects)
        lookThrough(object.shape);
}

void standInCar(std::string_view bytes) {
    for (const auto& node : standins::world::readGlbTree(std::string(bytes)).nodes)
        for (const auto& surface : node.surfaces) lookThrough(surface.shape);
}

void standInSettings(std::string_view bytes) {
    std::string problem;
    standins::circuit::readCarSettings(std::string(bytes), problem);
}

void standInOutfit(std::string_view bytes) {
    const std::string text(bytes);
    for (const auto& file :
         {standins::wardrobe::readGlbOutfit(text), standins::wardrobe::readTextOutfit(text)})
        for (const auto& object : file.objects) lookThrough(object.shape);
}

/// The prop's script, or its body beside a script that is fine, as the engine's compiler takes them.
template <const char* name>
void propText(std::string_view bytes) {
    const auto own = folder() / "prop";
    std::filesystem::create_directories(own);
    const auto write = [](const char* to, std::string_view text) {
        written(std::string("prop/") + to, text);
    };
    write("box.prop.txt", "prop box\nunit 0.02\ncredit Odd Fennel\nmesh box.mesh.txt\nbody box.body.txt\n"
                          "material plain colour 0.5 0.5 0.5\n");
    write("box.mesh.txt", "mesh 1\ncorner 0 0 0 0 0 1 0 0\ncorner 9 0 0 0 0 1 1 0\ncorner 0 9 0 0 0 1 0 1\n"
                          "face 0 1 2 plain\n");
    write("box.body.txt", "body 1\npiece surface wood\ncorner 0 0 0\ncorner 9 0 0\ncorner 0 9 0\n"
                          "corner 0 0 9\n");
    write(name, bytes);
    const auto compiled = standins::tunnel::compiledHere(own);
    for (const auto& part : compiled.prop.parts) lookThrough(part.shape);
    for (const auto& piece : compiled.prop.pieces) lookThrough(piece.shape);
}

constexpr char propScript[] = "box.prop.txt", propMesh[] = "box.mesh.txt", propBody[] = "box.body.txt";

/// The description that each stand-in reads first, with nothing else in the folder.
template <const char* name, const char* id>
void description(std::string_view bytes) {
    const auto own = folder() / id;
    std::filesystem::create_directories(own);
    written(std::string(id) + "/" + name, bytes);
    standins::standInNamed(id)->tryFolder(own);
}

constexpr char tableFile[] = "x.table.json", packFile[] = "pack.json", sceneFile[] = "x.scene.json",
               truckFile[] = "x.truck.json", carFile[] = "x.car.json", outfitFile[] = "x.outfit.json",
               circuit[] = "circuit", wardrobe[] = "wardrobe", table[] = "table", site[] = "site",
               levelId[] = "level", yard[] = "yard", assetFile[] = "x.asset.toml", shed[] = "shed",
               islandFile[] = "x.island.json", island[] = "island", thingFile[] = "x.thing.json",
               dressingRoom[] = "dressing-room", kartFile[] = "kart.x.kcb", track[] = "track",
               avatarFile[] = "x.vrm", mirror[] = "mirror", bundleFile[] = "x.bundle.zip", field[] = "field";

/// Headers are looked through before a compiler sees them; what passes holds no call and no string.
void consoleHeader(std::string_view bytes) {
    const std::string text(bytes);
    if (standins::console::notData(text, "pip")) return;
    std::string code; // without comments, in which anything may stand
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t comment = text.find("/*", at), end = text.find("*/", comment);
        code += text.substr(at, comment - at);
        at = comment == text.npos || end == text.npos ? text.size() : end + 2;
    }
    if (code.find('"') != std::string::npos && code.find("#include \"pip_names.h\"") == std::string::npos)
        complain("a string passed for data");
}

/// A hull as the slip reads it, with what it shows of it and how it floats.
void slipHull(std::string_view bytes) {
    const auto own = folder() / "hull";
    std::filesystem::create_directories(own);
    written("hull/x.hull.xml", bytes);
    standins::TryReport report;
    if (const auto hull = standins::slip::readHull(own, report)) {
        for (const bool strays : {false, true}) lookThrough(standins::slip::shapeOf(*hull, 0, strays));
        if (!std::isfinite(standins::slip::floatingOf(*hull).draught)) complain("a draught is no number");
    }
}

/// A solid as the region reads it, with what it shows of it.
void regionSolid(std::string_view bytes) {
    for (const auto& [face, shape] : standins::region::shapesOf(standins::region::readSolid(bytes)))
        for (const glm::vec3& at : shape.positions)
            if (!std::isfinite(at.x) || !std::isfinite(at.y) || !std::isfinite(at.z))
                complain("a corner is nowhere");
}

/// A model as the trial ground reads it.
template <const char* name>
void trialModel(std::string_view bytes) {
    written(name, bytes);
    if (const auto read = standins::files::readModelFile(folder(), name))
        for (const auto& object : read->objects) lookThrough(object.shape);
}

constexpr char trialPly[] = "t.ply", trialX3d[] = "t.x3d", trial3mf[] = "t.3mf", trialStl[] = "t.stl";

void packed(std::string_view bytes) {
    const auto read = standins::world::readPacked(std::string(bytes), std::size_t(1) << 24);
    for (const auto& [path, content] : read.entries)
        if (standins::world::leadsOut(path)) complain("a path leads out");
    if (!read.problem.empty() && !read.entries.empty()) complain("a broken archive holds files");
}

} // namespace

const std::vector<Target>& targets() {
    static const std::vector<Target> all{{"stand-in-obj", standInObj},
                                         {"stand-in-mtl", standInMtl},
                                         {"stand-in-glb", standInGlb},
                                         {"stand-in-collada", standInCollada},
                                         {"stand-in-level", standInLevel},
                                         {"table-json", description<tableFile, table>},
                                         {"pack-json", description<packFile, site>},
                                         {"scene-json", description<sceneFile, levelId>},
                                         {"truck-json", description<truckFile, yard>},
                                         {"stand-in-car", standInCar},
                                         {"stand-in-settings", standInSettings},
                                         {"stand-in-outfit", standInOutfit},
                                         {"car-json", description<carFile, circuit>},
                                         {"outfit-json", description<outfitFile, wardrobe>},
                                         {"asset-toml", description<assetFile, shed>},
                                         {"island-json", description<islandFile, island>},
                                         {"thing-json", description<thingFile, dressingRoom>},
                                         {"kart", description<kartFile, track>},
                                         {"mirror", description<avatarFile, mirror>},
                                         {"prop-script", propText<propScript>},
                                         {"prop-mesh", propText<propMesh>},
                                         {"prop-body", propText<propBody>},
                                         {"bundle", description<bundleFile, field>},
                                         {"console-header", consoleHeader},
                                         {"stand-in-hull", slipHull},
                                         {"region-solid", regionSolid},
                                         {"trial-ply", trialModel<trialPly>},
                                         {"trial-x3d", trialModel<trialX3d>},
                                         {"trial-3mf", trialModel<trial3mf>},
                                         {"trial-stl", trialModel<trialStl>},
                                         {"packed", packed}};
    return all;
}

} // namespace stand_ins

} // namespace fuzz
