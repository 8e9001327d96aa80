// Formats that are read through the shared library: made by its own exporter or written out by hand, so that
// no code of ours made what is read here.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <assimp/Exporter.hpp>
#include <assimp/Importer.hpp>
#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <catch2/catch.hpp>
#include <zip.h>

#include <chrono>
#include <sys/resource.h>

using namespace zl;

namespace {

/// A 2 by 3 by 4 box named "crate" with a red material, in the format called `id`.
std::filesystem::path exported(const TemporaryFolder& folder, const std::string& id,
                               const std::string& name) {
    Model model = shapes::box({0, 0, 0}, {2, 3, 4});
    model.nodes[0].name = "crate";
    model.materials = {{.name = "red", .baseColour = {1, 0, 0, 1}}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs[0].material = 0;
    model.meshes[0] = mesh;
    writeAllOrNone(folder.path(), formats::writeObj(model, {"seed"}, nullptr));
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile((folder / "seed.obj").string(), aiProcess_Triangulate);
    REQUIRE(scene);
    Assimp::Exporter exporter;
    INFO(exporter.GetErrorString());
    REQUIRE(exporter.Export(scene, id, (folder / name).string()) == aiReturn_SUCCESS);
    return folder / name;
}

void checkSize(const Model& model, const glm::dvec3& size) {
    const auto found = geometry::fileBounds(model).size();
    CHECK(found.x == Approx(size.x).epsilon(1e-4));
    CHECK(found.y == Approx(size.y).epsilon(1e-4));
    CHECK(found.z == Approx(size.z).epsilon(1e-4));
}

const char* amf = R"(<?xml version="1.0"?><amf unit="%UNIT%"><object id="0"><mesh><vertices>
<vertex><coordinates><x>0</x><y>0</y><z>0</z></coordinates></vertex>
<vertex><coordinates><x>2</x><y>0</y><z>0</z></coordinates></vertex>
<vertex><coordinates><x>0</x><y>3</y><z>0</z></coordinates></vertex>
<vertex><coordinates><x>0</x><y>0</y><z>4</z></coordinates></vertex></vertices>
<volume><triangle><v1>0</v1><v2>2</v2><v3>1</v3></triangle><triangle><v1>0</v1><v2>1</v2><v3>3</v3></triangle>
<triangle><v1>1</v1><v2>2</v2><v3>3</v3></triangle><triangle><v1>2</v1><v2>0</v2><v3>3</v3></triangle></volume>
</mesh></object></amf>)";

std::string withUnit(std::string text, const std::string& unit) {
    return text.replace(text.find("%UNIT%"), 6, unit);
}

/// A 3MF archive of one tetrahedron whose model part states `unit` (none when empty).
std::filesystem::path archive3mf(const TemporaryFolder& folder, const std::string& unit) {
    const std::string model =
        "<?xml version=\"1.0\"?><model " + (unit.empty() ? "" : "unit=\"" + unit + "\" ") +
        R"(xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources><object id="1" type="model"><mesh><vertices>
<vertex x="0" y="0" z="0"/><vertex x="2" y="0" z="0"/><vertex x="0" y="3" z="0"/><vertex x="0" y="0" z="4"/></vertices><triangles>
<triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/><triangle v1="2" v2="0" v3="3"/>
</triangles></mesh></object></resources><build><item objectid="1"/></build></model>)";
    const std::string types =
        R"(<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>)";
    const std::string relations =
        R"(<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>)";
    const auto path = folder / "tetrahedron.3mf";
    int problem = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &problem);
    REQUIRE(zip);
    for (const auto& [name, text] : {std::pair{"[Content_Types].xml", &types},
                                     {"_rels/.rels", &relations},
                                     {"3D/3dmodel.model", &model}})
        REQUIRE(zip_file_add(zip, name, zip_source_buffer(zip, text->data(), text->size(), 0), 0) >= 0);
    REQUIRE(zip_close(zip) == 0);
    return path;
}

} // namespace

TEST_CASE("OFF is read, with its unit and up axis assumed") {
    TemporaryFolder folder;
    const Model model = formats::readModel(folder.write(
        "t.off", "OFF\n4 4 6\n0 0 0\n2 0 0\n0 3 0\n0 0 4\n3 0 2 1\n3 0 1 3\n3 1 2 3\n3 2 0 3\n"));
    CHECK(triangleCount(model) == 4);
    checkSize(model, {2, 3, 4});
    CHECK(model.frame.unitAssumed);
    CHECK(model.frame.upAssumed);
}

TEST_CASE("AMF is read in the unit it states") {
    TemporaryFolder folder;
    const std::string unit = GENERATE("millimeter", "inch", "feet", "meter", "micron");
    const double metres = unit == "millimeter" ? 1e-3
                          : unit == "inch"     ? 0.0254
                          : unit == "feet"     ? 0.3048
                          : unit == "meter"    ? 1.0
                                               : 1e-6;
    const Model model = formats::readModel(folder.write("t.amf", withUnit(amf, unit)));
    CHECK(triangleCount(model) == 4);
    checkSize(model, {2, 3, 4});
    CHECK_FALSE(model.frame.unitAssumed);
    CHECK(model.frame.unit.metres == Approx(metres));
    CHECK(geometry::worldBounds(model).size().x == Approx(2 * metres));
}

TEST_CASE("AMF without a unit is taken as millimetres, marked as assumed; a wrong one is refused") {
    TemporaryFolder folder;
    std::string text = withUnit(amf, "inch");
    text.replace(text.find(" unit=\"inch\""), 12, "");
    const Model model = formats::readModel(folder.write("t.amf", text));
    CHECK(model.frame.unit.id == "mm");
    CHECK(model.frame.unitAssumed);
    CHECK_THROWS_AS(formats::readModel(folder.write("t.amf", withUnit(amf, "furlong"))), Error);
}

TEST_CASE("3MF is read in the unit it states, millimetres and Z up without a word") {
    TemporaryFolder folder;
    const auto [unit, metres] =
        GENERATE(std::pair{std::string(), 1e-3}, std::pair{std::string("centimeter"), 1e-2},
                 std::pair{std::string("foot"), 0.3048});
    const Model model = formats::readModel(archive3mf(folder, unit));
    CHECK(triangleCount(model) == 4);
    checkSize(model, {2, 3, 4});
    CHECK_FALSE(model.frame.unitAssumed);
    CHECK(model.frame.unit.metres == Approx(metres));
    CHECK(geometry::worldBounds(model).size().y == Approx(4 * metres)); // Z is up in the file
}

TEST_CASE("COLLADA in UTF-16 is read as in UTF-8") {
    TemporaryFolder folder;
    const Model plain = shapes::box({0, 0, 0}, {2, 3, 4});
    const std::string bytes = formats::writeCollada(plain, {"crate"}, nullptr).at(0).bytes;
    const bool little = GENERATE(true, false);
    std::string wide = little ? "\xff\xfe" : "\xfe\xff";
    for (const char c : bytes) { // every letter of the file is one of ASCII
        if (little) wide += c;
        wide += '\0';
        if (!little) wide += c;
    }
    const Model model = formats::readModel(folder.write("crate.dae", wide));
    CHECK(triangleCount(model) == 12);
    CHECK_FALSE(model.frame.unitAssumed);
}

TEST_CASE("a COLLADA scene of cameras and nodes only has no triangles, and none are made up") {
    const TemporaryFolder folder;
    const auto path = folder.write("cameras.dae", R"(<?xml version="1.0"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
  <asset><unit meter="1" name="meter"/><up_axis>Y_UP</up_axis></asset>
  <library_visual_scenes><visual_scene id="s">
    <node id="mast"><translate>0 2 0</translate><node id="boom"><translate>3 0 0</translate></node></node>
  </visual_scene></library_visual_scenes>
  <scene><instance_visual_scene url="#s"/></scene>
</COLLADA>)");
    const Model model = formats::readModel(path);
    CHECK(triangleCount(model) == 0);
    CHECK(model.skins.empty());
}

TEST_CASE("FBX is read with names, materials and its declared unit") {
    TemporaryFolder folder;
    const Model model = formats::readModel(exported(folder, "fbxa", "crate.fbx"));
    CHECK(triangleCount(model) == 12);
    checkSize(model, {2, 3, 4});
    REQUIRE(usedMaterials(model).size() == 1);
    CHECK(model.materials[usedMaterials(model)[0]].name == "red");
    CHECK(std::ranges::any_of(model.nodes, [](const Node& n) { return n.name == "crate"; }));
}

TEST_CASE("X3D is read in metres with Y up") {
    TemporaryFolder folder;
    const Model model = formats::readModel(exported(folder, "x3d", "crate.x3d"));
    CHECK(triangleCount(model) == 12);
    checkSize(model, {2, 3, 4});
    CHECK_FALSE(model.frame.unitAssumed);
    CHECK(model.frame.up == Up::Y);
}

TEST_CASE("COLLADA keeps the file's own numbers beside the unit and axis it declares") {
    TemporaryFolder folder;
    std::string text = readText(exported(folder, "collada", "crate.dae"));
    const auto with = [&](const std::string& unit, const std::string& up) {
        std::string out = text;
        const auto replace = [&](const std::string& from, const std::string& until, const std::string& by) {
            const auto at = out.find(from);
            REQUIRE(at != std::string::npos);
            out.replace(at, out.find(until, at) + until.size() - at, by);
        };
        replace("<unit", "/>", "<unit name=\"x\" meter=\"" + unit + "\"/>");
        replace("<up_axis>", "</up_axis>", "<up_axis>" + up + "</up_axis>");
        return formats::readModel(folder.write("other.dae", out));
    };
    const Model metres = formats::readModel(folder / "crate.dae");
    checkSize(metres, {2, 3, 4});
    CHECK(metres.nodes[0].name == "crate"); // the library's own root is gone
    const Model decimetres = with("0.1", "Y_UP");
    checkSize(decimetres, {2, 3, 4});
    CHECK(decimetres.frame.unit.id == "dm");
    CHECK(geometry::worldBounds(decimetres).size().y == Approx(0.3));
    const Model turned = with("0.0254", "Z_UP");
    checkSize(turned, {2, 3, 4});
    CHECK(turned.frame.up == Up::Z);
    CHECK(geometry::worldBounds(turned).size().y == Approx(4 * 0.0254));
}

TEST_CASE("interchange files that are cut off or are something else end in an error that names them") {
    TemporaryFolder folder;
    for (const char* name : {"x.dae", "x.fbx", "x.x3d", "x.3mf", "x.off", "x.amf"}) {
        INFO(name);
        for (const std::string& bytes : {std::string(), std::string("this is no model at all\n"),
                                         std::string("PK\x03\x04 broken", 12), std::string(400, '\0')}) {
            const auto path = folder.write(name, bytes);
            try {
                const Model model = formats::readModel(path);
                CHECK(triangleCount(model) == 0); // what could be made of it is nothing, and that is said
                CHECK_FALSE(model.warnings.empty());
            } catch (const Error& error) {
                CHECK(error.where().find(name) != std::string::npos);
            }
        }
    }
    const std::string whole = readText(exported(folder, "collada", "crate.dae"));
    CHECK_THROWS_AS(formats::readModel(folder.write("half.dae", whole.substr(0, whole.size() / 2))), Error);
}

TEST_CASE("a letter among a COLLADA file's indices ends soon and takes little memory") {
    TemporaryFolder folder;
    const auto files = formats::formatToWrite("bell.dae")
                           .write(shapes::modelOf(shapes::sphere(6, 4), "bell"), {.name = "bell"}, nullptr);
    std::string text = files[0].bytes;
    const auto at = text.find("<p>");
    REQUIRE(at != std::string::npos);
    text.insert(at + 3, "nan ");
    const auto begin = std::chrono::steady_clock::now();
    CHECK_THROWS_AS(formats::readModel(folder.write("spoiled.dae", text)), Error);
    CHECK(std::chrono::steady_clock::now() - begin < std::chrono::seconds(20));
    rusage children{};
    ::getrusage(RUSAGE_CHILDREN, &children);
    CHECK(children.ru_maxrss < (3 << 20)); // KiB
}
