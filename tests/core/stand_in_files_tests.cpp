// The stand-ins' own readers, fed by hand: what their formats say, and every way of getting it wrong.
#include "standins/level/level_file.h"
#include "standins/level/level_arena.h"
#include "standins/site/glb_file.h"
#include "standins/site/pack.h"
#include "standins/stand_in.h"
#include "standins/table/table_tests.h"
#include "standins/world/obj_file.h"
#include "standins/world/collada_file.h"
#include "support/glb_builder.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace zl;
using namespace zl::standins;

namespace {

const std::string levelHead = "lampwright-level 1\nunit 1\naxes Z +X\n";
const std::string levelBody = "material \"iron\"\ncolour 0.2 0.2 0.2\nobject \"press\"\nuse \"iron\"\n"
                              "corner 0 0 0  0 0 1  0 0\ncorner 1 0 0  0 0 1  1 0\ncorner 0 1 0  0 0 1  0 1\n"
                              "face 0 1 2\n";

/// A triangle with indices, which every delivered file has.
GlbBuilder plate() {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["indices"] = glb.values(std::vector<std::uint32_t>{0, 1, 2}, 5125, 3, "SCALAR");
    return glb;
}

std::string levelProblem(const std::string& text) {
    return level::readLevelFile(text).problem;
}

world::ObjFile obj(const TemporaryFolder& folder, const std::string& text) {
    return world::readObjFile(folder.write("figure.obj", text));
}

std::string textOf(const TryReport& report) {
    std::string all;
    for (const Message& message : report.messages)
        all += message.file + " " + message.text + " " + message.detail + "\n";
    return all;
}

} // namespace

TEST_CASE("the level compiler reads its text and multiplies by 40 itself") {
    const auto file = level::readLevelFile(levelHead + levelBody + "end\n");
    CHECK(file.problem.empty());
    REQUIRE(file.objects.size() == 1);
    CHECK(file.objects[0].name == "press");
    CHECK(file.objects[0].triangles() == 1);
    CHECK(file.objects[0].materials == std::vector<std::string>{"iron"});
    CHECK(file.objects[0].shape.size().x == Approx(40));
    REQUIRE(file.materials.size() == 1);
    CHECK(file.materials[0].name == "iron");
    std::string coloured = levelHead + levelBody + "end\n";
    coloured.insert(coloured.find("object"), "colour 0.25 0.5 0.75\n");
    CHECK(level::readLevelFile(coloured).materials[0].colour == glm::vec3(0.25f, 0.5f, 0.75f));
    // In decimetres a corner at 1 is at 4.
    std::string small = levelHead + levelBody + "end\n";
    small.replace(small.find("unit 1"), 6, "unit 0.1");
    CHECK(level::readLevelFile(small).objects[0].shape.size().x == Approx(4));
}

TEST_CASE("the level compiler names the line of what it does not take") {
    CHECK(levelProblem("") != "");
    CHECK(levelProblem("lampwright-level 9\nend\n").find("1") != std::string::npos);
    CHECK(levelProblem(levelHead + levelBody) != ""); // cut off
    const auto with = [&](const std::string& from, const std::string& to) {
        std::string text = levelHead + levelBody + "end\n";
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        return levelProblem(text.replace(at, from.size(), to));
    };
    CHECK(with("face 0 1 2", "face 0 1 7").find("11") != std::string::npos);
    CHECK(with("face 0 1 2", "face 0 1") != "");
    CHECK(with("face 0 1 2", "face 0 1 -1") != "");
    CHECK(with("corner 1 0 0", "corner nan 0 0") != "");
    CHECK(with("use \"iron\"", "use \"brass\"") != "");
    CHECK(with("unit 1", "unit 0") != "");
    CHECK(with("unit 1", "unit -3") != "");
    CHECK(with("unit 1", "unit many") != "");
    CHECK(with("colour 0.2", "paint 0.2") != "");
}

TEST_CASE("the site reads one object of a GLB, and sees wrappers and transforms") {
    GlbBuilder glb = plate();
    auto file = site::readGlbFile(glb.bytes());
    CHECK(file.problem.empty());
    CHECK(file.objectName == "plate");
    CHECK(file.shape.indices.size() == 3);
    CHECK(file.meshNodes == 1);
    CHECK_FALSE(file.carriesTransform);
    glb.json["nodes"][0]["translation"] = {0, 1, 0};
    CHECK(site::readGlbFile(glb.bytes()).carriesTransform);
    glb.json["nodes"][0].erase("translation");
    glb.json["nodes"].push_back({{"name", "group"}, {"children", {0}}});
    glb.json["scenes"][0]["nodes"] = {1};
    file = site::readGlbFile(glb.bytes());
    CHECK(file.nodes == 2);
    CHECK(file.meshNodes == 1);
}

TEST_CASE("the site refuses GLBs that are none, are cut off or promise what is not there") {
    GlbBuilder glb = plate();
    const std::string whole = glb.bytes();
    REQUIRE(site::readGlbFile(whole).problem.empty());
    for (const std::size_t size : {std::size_t(0), std::size_t(3), std::size_t(11), std::size_t(19),
                                   std::size_t(40), whole.size() - 1, whole.size() - 30})
        CHECK_FALSE(site::readGlbFile(whole.substr(0, size)).problem.empty());
    std::string other = whole;
    other[0] = 'x';
    CHECK_FALSE(site::readGlbFile(other).problem.empty());
    other = whole;
    other[12] = '\xff', other[13] = '\xff', other[14] = '\xff', other[15] = '\x7f'; // a chunk of 2 GB
    CHECK_FALSE(site::readGlbFile(other).problem.empty());
    const auto spoil = GENERATE(
        as<std::function<void(GlbBuilder&)>>{}, [](GlbBuilder& g) { g.json["accessors"][0]["count"] = 400; },
        [](GlbBuilder& g) { g.json["accessors"][0]["bufferView"] = 4; },
        [](GlbBuilder& g) { g.json["meshes"] = "none"; },
        [](GlbBuilder& g) { g.json["nodes"][0]["mesh"] = 8; });
    spoil(glb);
    INFO(glb.json.dump());
    CHECK_FALSE(site::readGlbFile(glb.bytes()).problem.empty());
}

TEST_CASE("the site loads a pack by its list, and says what is wrong with each object") {
    TemporaryFolder folder;
    GlbBuilder glb = plate();
    glb.json["materials"] = {{{"name", "pine"}}};
    glb.primitive()["material"] = 0;
    folder.write("plate.glb", glb.bytes());
    folder.write("broken.glb", "glTF");
    const auto pack = [&](const std::string& json) {
        folder.write("pack.json", json);
        TryReport report;
        auto loaded = site::loadPack(folder.path(), report);
        if (!loaded) CHECK_FALSE(textOf(report).empty());
        return loaded;
    };
    const auto list = [](const std::string& objects) {
        return R"({"format": "object-pack", "version": 1, "name": "Props", "unitMetres": 1.0, "files": "glb",
                   "credit": "own work", "objects": [)" +
               objects + "]}";
    };
    const auto fine = pack(list(R"({"name": "plate", "file": "plate.glb"})"));
    REQUIRE(fine);
    REQUIRE(fine->objects.size() == 1);
    CHECK(fine->objects[0].refusal.empty());
    CHECK(fine->objects[0].triangles == 1);
    const auto mixed =
        pack(list(R"({"name": "plate", "file": "plate.glb"}, {"name": "b", "file": "broken.glb"},
                                    {"name": "c", "file": "gone.glb"}, {"name": "d", "file": "../x.glb"})"));
    REQUIRE(mixed);
    CHECK(mixed->refused() == 3);
    CHECK(mixed->objects[0].refusal.empty());
    const auto waiting = pack(list(R"({"name": "plate", "file": "plate.glb", "picture": "pine.png"})"));
    REQUIRE(waiting);
    CHECK(waiting->missingPictures() == std::vector<std::string>{"pine.png"});
    CHECK_FALSE(pack("{\"format\": "));
    CHECK_FALSE(pack("[]"));
    CHECK_FALSE(pack(R"({"format": "another", "version": 1, "objects": []})"));
    CHECK_FALSE(pack(R"({"format": "object-pack", "version": 7, "objects": []})"));
    std::filesystem::remove(folder / "pack.json");
    TryReport report;
    CHECK_FALSE(site::loadPack(folder.path(), report));
}

TEST_CASE("the table's OBJ reader takes triangles and says the line of what it does not take") {
    TemporaryFolder folder;
    const std::string square = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n";
    const auto fine = obj(folder, "mtllib a.mtl\no figure\n" + square + "usemtl bronze\nf 1 2 3\nf 1 3 4\n");
    CHECK(fine.problem.empty());
    CHECK(fine.triangles == 2);
    CHECK(fine.objects == 1);
    CHECK(fine.materialFile == "a.mtl");
    CHECK(fine.materialName == "bronze");
    CHECK(fine.shape.size().x == Approx(1));
    CHECK(obj(folder, "").problem != "");
    CHECK(obj(folder, square).problem != "");                                          // no faces
    CHECK(obj(folder, square + "f 1 2 3 4\n").problem.find("5") != std::string::npos); // not a triangle
    CHECK(obj(folder, square + "f 1 2 9\n").problem != "");
    CHECK(obj(folder, square + "f 0 1 2\n").problem != "");
    CHECK(obj(folder, square + "f 1 2 -2147483648\n").problem != "");
    CHECK(obj(folder, "v 0 0\nf 1 1 1\n").problem != "");
    CHECK(obj(folder, "v nan 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n").problem != "");
    CHECK(world::readObjFile(folder / "gone.obj").problem != "");
    folder.write("a.mtl", "newmtl other\nKd 1 0 0\nnewmtl bronze\nKd 0.25 0.5 0.75\nmap_Kd bronze.png\n");
    const auto material = world::readMaterialFile(folder / "a.mtl", "bronze");
    CHECK(material.found);
    CHECK(material.colour.g == Approx(0.5));
    CHECK(material.picture == "bronze.png");
    CHECK_FALSE(world::readMaterialFile(folder / "a.mtl", "tin").found);
    CHECK_FALSE(world::readMaterialFile(folder / "gone.mtl", "bronze").found);
}

TEST_CASE("the yard names what is broken in a COLLADA file") {
    CHECK(world::readColladaFile("").problem != "");
    CHECK(world::readColladaFile("<COLLADA").problem != "");
    CHECK(world::readColladaFile("<scene/>").problem.find("COLLADA") != std::string::npos);
    const std::string scene =
        "<library_visual_scenes><visual_scene id='s'><node name='a'><instance_geometry url='#g'/></node>"
        "</visual_scene></library_visual_scenes><scene><instance_visual_scene url='#s'/></scene>";
    const auto file = [&](const std::string& mesh) {
        return world::readColladaFile("<COLLADA><library_geometries><geometry id='g'><mesh>" + mesh +
                                      "</mesh></geometry></library_geometries>" + scene + "</COLLADA>");
    };
    const std::string places = "<source id='p'><float_array>0 0 0 1 0 0 0 1 0</float_array></source>"
                               "<vertices id='v'><input semantic='POSITION' source='#p'/></vertices>";
    const std::string open = "<triangles><input semantic='VERTEX' source='#v' offset='0'/><p>",
                      close = "</p></triangles>";
    const auto fine = file(places + open + "0 1 2" + close);
    CHECK(fine.problem.empty());
    REQUIRE(fine.parts.size() == 1);
    CHECK(fine.parts[0].shape.indices.size() == 3);
    CHECK(file(places + open + "0 1 3" + close).problem.find("range") != std::string::npos);
    CHECK(file(places + open + "0 1 -1" + close).problem != "");
    CHECK(file(places + open + "0 1 1e30" + close).problem != "");
    CHECK(file(places + open + "0 1" + close).problem.find("whole") != std::string::npos);
    CHECK(file(places + "<triangles><p>0 1 2</p></triangles>").problem != "");
    CHECK(file(open + "0 1 2" + close).problem != ""); // no places
    CHECK(world::readColladaFile("<COLLADA>" + scene + "</COLLADA>").problem.find("\"a\"") !=
          std::string::npos);
}

TEST_CASE("every stand-in says what is the matter with an empty folder, one that is not there, and a file") {
    TemporaryFolder folder;
    const auto file = folder.write("a.txt", "x");
    REQUIRE(allStandIns().size() >= 4);
    for (const StandIn& standIn : allStandIns())
        for (const auto& path : {folder.path(), folder / "gone", file}) {
            INFO(standIn.id << " on " << path);
            const TryReport report = standIn.tryFolder(path);
            CHECK_FALSE(report.accepted);
            CHECK_FALSE(textOf(report).empty());
            TryReport opened;
            CHECK(standIn.open(path, opened) == nullptr);
        }
    CHECK(standInNamed("nowhere") == nullptr);
}
