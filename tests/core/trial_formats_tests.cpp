// Models as the trial ground reads them: what the product delivers, in every format, and what others wrote.
#include "core/base/archive.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "standins/files/delivered.h"
#include "standins/world/collada_file.h"
#include "support/rich_model.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace trial_formats_tests {

using namespace zl::standins::files;
using Catch::Contains;
namespace fs = std::filesystem;

/// Two objects in two materials, one of them moved and with a picture.
Model twoThings() {
    Model model = shapes::modelOf(shapes::sphere(16, 8, 0.5), "Float");
    Model post = shapes::box({-0.1, 0, -0.1}, {0.1, 2, 0.1});
    model.nodes.push_back({"Post", -1, glm::translate(glm::dmat4(1.0), {3.0, 0.0, 0.0}), 1});
    Mesh ball = *model.meshes[0], pole = *post.meshes[0];
    ball.runs[0].material = 0, pole.runs = {{0, std::uint32_t(pole.triangleCount()), 1}};
    model.meshes = {std::make_shared<Mesh>(ball), std::make_shared<Mesh>(pole)};
    model.materials = {{.name = "cork", .baseColour = {0.5f, 0.3f, 0.1f, 1}}, {.name = "oak"}};
    return model;
}

/// What was written, read by the trial ground.
Read written(const std::string& format, const Model& model, const formats::WriteOptions& options = {}) {
    const formats::Format& writer = *formats::formatWithId(format);
    const TemporaryFolder folder;
    const auto files = formats::writeModel(writer, model, formats::inFrameOf(writer, options), nullptr);
    writeAllOrNone(folder.path(), files);
    const auto read = readModelFile(folder.path(), files.at(0).name);
    REQUIRE(read);
    return *read;
}

glm::vec3 sizeOf(const Read& read) {
    glm::vec3 low(1e30f), high(-1e30f);
    for (const auto& object : read.objects)
        low = glm::min(low, object.shape.low()), high = glm::max(high, object.shape.high());
    return high - low;
}

Read readText(const std::string& name, const std::string& text) {
    const TemporaryFolder folder;
    folder.write(name, text);
    const auto read = readModelFile(folder.path(), name);
    REQUIRE(read);
    return *read;
}

TEST_CASE("every format that a sheet can deliver in is read by the trial ground") {
    const Model model = twoThings();
    const std::size_t triangles = std::size_t(triangleCount(model));
    for (const auto& format : formats::allFormats()) {
        if (!format.write || format.id == "vrm") continue; // a VRM is a GLB with a figure's set-up
        INFO(format.id);
        formats::WriteOptions options{.name = "both"};
        if (format.id == "level") options.up = Up::Z, options.front = "+X"; // as its engine takes it
        const Read read = written(std::string(format.id), model, options);
        CHECK(read.problem == "");
        CHECK(read.triangles == triangles);
        const glm::vec3 size = sizeOf(read);
        CHECK(std::max({size.x, size.y, size.z}) == Approx(3.6).margin(1e-4));
        CHECK(std::min({size.x, size.y, size.z}) == Approx(0.9755).epsilon(0.03)); // of a ball of 16 sides
        if (!format.loses.has(formats::Aspect::Objects)) {
            CHECK(read.nodes == std::vector<std::string>{"Float", "Post"});
            CHECK(read.materials == std::vector<std::string>{"cork", "oak"});
        }
        if (format.id == "3mf" || format.id == "dae" || format.id == "x3d" || format.id == "level")
            CHECK(read.metres == 1);
    }
    const Read small = written("3mf", model, {.name = "both", .metresPerUnit = 0.01});
    CHECK(small.metres == 0.01);
    CHECK(sizeOf(small).x == Approx(360));
}

TEST_CASE("PLY in text and in either order of bytes says the same, with faces of more than three corners") {
    const std::string head = "element vertex 4\nproperty float x\nproperty float y\nproperty float z\n"
                             "property uchar red\nelement face 1\nproperty list uchar int vertex_indices\n"
                             "element edge 0\nproperty int vertex1\nend_header\n";
    const Read text = readText("a.ply", "ply\nformat ascii 1.0\ncomment made by hand\n" + head +
                                            "0 0 0 9\n2 0 0 9\n2 1 0 9\n0 1 0 9\n4 0 1 2 3\n");
    std::string large = "ply\nformat binary_big_endian 1.0\n" + head,
                little = "ply\nformat binary_little_endian 1.0\n" + head;
    const auto put = [](std::string& to, const auto& value, bool turned) {
        char bytes[sizeof(value)];
        std::memcpy(bytes, &value, sizeof(value));
        if (turned) std::reverse(bytes, bytes + sizeof(value));
        to.append(bytes, sizeof(value));
    };
    for (std::string* bytes : {&large, &little}) {
        for (const glm::vec3 p : {glm::vec3(0), glm::vec3(2, 0, 0), glm::vec3(2, 1, 0), glm::vec3(0, 1, 0)}) {
            for (int k = 0; k < 3; ++k) put(*bytes, p[k], bytes == &large);
            *bytes += '\x09';
        }
        *bytes += '\x04';
        for (std::int32_t index = 0; index < 4; ++index) put(*bytes, index, bytes == &large);
    }
    for (const Read& read : {text, readText("b.ply", large), readText("c.ply", little)}) {
        CHECK(read.problem == "");
        CHECK(read.triangles == 2);
        CHECK(read.corners == 4);
        CHECK(sizeOf(read) == glm::vec3(2, 1, 0));
    }
    // Cut anywhere behind the head it says so, and nothing of it is believed.
    for (std::size_t cut = large.size() - 1; cut > large.size() - 70; cut -= 3) {
        const Read read = readText("d.ply", large.substr(0, cut));
        CHECK(read.problem != "");
        CHECK(read.objects.empty());
    }
    const auto fault = [](const std::string& text) { return readText("e.ply", text).problem; };
    CHECK_THAT(fault("plyy\n"), Contains("no PLY"));
    CHECK_THAT(fault("ply\nformat ascii 1.0\n"), Contains("does not end"));
    CHECK_THAT(fault("ply\nformat runes 1.0\nend_header\n"), Contains("nobody knows"));
    CHECK_THAT(fault("ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float x\nend_header\n1\n"),
               Contains("cut short"));
    CHECK_THAT(
        fault("ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nelement face 1\nproperty list "
              "uchar int vertex_index\nend_header\n1\n3 0 0 7\n"),
        Contains("not there"));
    CHECK_THAT(fault("ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nend_header\nnan\n"),
               Contains("no number"));
}

TEST_CASE("X3D is read with groups that are moved, turned and used again") {
    const auto scene = [](const std::string& inside) {
        return readText("a.x3d", "<X3D><Scene>" + inside + "</Scene></X3D>");
    };
    const std::string quad =
        "<Shape DEF='Leaf'><Appearance><Material DEF='tin' diffuseColor='0.25 0 1'/>"
        "<ImageTexture url='\"tin.png\" \"other.png\"'/></Appearance><IndexedFaceSet "
        "coordIndex='0 1 2 3 -1'><Coordinate point='0 0 0, 1 0 0, 1 1 0, 0 1 0'/></IndexedFaceSet></Shape>";
    const Read read =
        scene("<Group><Transform DEF='Door' translation='5 0 0' rotation='0 1 0 1.5707963' scale='2 2 2'>" +
              quad + "</Transform><Transform DEF='Again'><Shape USE='Leaf'/></Transform></Group>");
    CHECK(read.problem == "");
    CHECK(read.triangles == 4);
    CHECK(read.nodes == std::vector<std::string>{"Door", "Again"});
    CHECK(read.materials == std::vector<std::string>{"tin"});
    CHECK(read.names == std::set<std::string>{"tin.png"});
    REQUIRE(read.objects.size() == 2);
    // Scaled, then turned a quarter about Y (x becomes -z), then moved.
    CHECK(read.objects[0].shape.low().x == Approx(5).margin(1e-5));
    CHECK(read.objects[0].shape.low().z == Approx(-2));
    CHECK(read.objects[0].shape.high().y == Approx(2));
    CHECK(read.objects[1].shape.size() == glm::vec3(1, 1, 0));
    CHECK(read.objects[1].colour.x == Approx(0.5));
    CHECK_THAT(scene("<Shape USE='gone'/>").problem, Contains("not there"));
    CHECK_THAT(scene("<Group DEF='g'><Group USE='g'/></Group>").problem, Contains("holds itself"));
    CHECK_THAT(scene("<Shape><TriangleSet/></Shape><Shape><IndexedFaceSet coordIndex='0 1 7'><Coordinate "
                     "point='0 0 0 1 1 1'/></IndexedFaceSet></Shape>")
                   .problem,
               Contains("not there"));
    CHECK_THAT(readText("a.x3d", "<X3D/>").problem, Contains("no X3D scene"));
    std::string deep;
    for (int i = 0; i < 5000; ++i) deep += "<Group>";
    for (int i = 0; i < 5000; ++i) deep += "</Group>";
    CHECK(scene(deep).problem != "");
    // Wide reuse multiplies; it ends in a message, soon.
    std::string wide = "<Group DEF='g0'>" + quad + "</Group>";
    for (int i = 1; i < 12; ++i) {
        wide += "<Group DEF='g" + std::to_string(i) + "'>";
        for (int k = 0; k < 10; ++k) wide += "<Group USE='g" + std::to_string(i - 1) + "'/>";
        wide += "</Group>";
    }
    CHECK(scene(wide).problem != "");
}

TEST_CASE("3MF is read with objects that are made of others, each where it stands") {
    const auto packed = [](const std::string& inside, const std::string& unit = "inch") {
        return readText("a.3mf",
                        zipped({{"3D/any.model", "<model unit='" + unit + "'>" + inside + "</model>"}}));
    };
    const std::string mesh =
        "<resources><basematerials id='9'><base name='brass' displaycolor='#FF8000FF'/></basematerials>"
        "<object id='1' name='Bar' pid='9' pindex='0'><mesh><vertices><vertex x='0' y='0' z='0'/><vertex "
        "x='4' y='0' z='0'/>"
        "<vertex x='0' y='1' z='0'/></vertices><triangles><triangle v1='0' v2='1' "
        "v3='2'/></triangles></mesh></object>";
    const Read read =
        packed(mesh + "<object id='2'><components><component objectid='1'/><component objectid='1' "
                      "transform='0 1 0 -1 0 0 0 0 1 10 0 0'/></components></object></resources>"
                      "<build><item objectid='2' transform='1 0 0 0 1 0 0 0 1 0 0 7'/></build>");
    CHECK(read.problem == "");
    CHECK(read.metres == 0.0254);
    CHECK(read.up == "Z");
    REQUIRE(read.objects.size() == 2);
    CHECK(read.objects[0].name == "Bar");
    CHECK(read.objects[0].material == "brass");
    CHECK(read.objects[0].colour.y == Approx(128.0 / 255));
    CHECK(read.objects[0].shape.high() == glm::vec3(4, 1, 7));
    CHECK(read.objects[1].shape.low() == glm::vec3(9, 0, 7)); // turned a quarter, and moved by ten
    CHECK(read.objects[1].shape.high() == glm::vec3(10, 4, 7));
    CHECK_THAT(packed(mesh + "</resources><build><item objectid='5'/></build>").problem,
               Contains("not there"));
    CHECK_THAT(packed("", "furlong").problem, Contains("unit"));
    CHECK_THAT(packed("<resources><object id='1'><components><component objectid='1'/></components></object>"
                      "</resources><build><item objectid='1'/></build>")
                   .problem,
               Contains("without end"));
    CHECK_THAT(readText("a.3mf", "no zip").problem, Contains("zip"));
    CHECK_THAT(readText("a.3mf", zipped({{"a.txt", "x"}})).problem, Contains("no model"));
    CHECK_THAT(readText("a.3mf", zipped({{"a.model", "<<"}})).problem, Contains("not XML"));
}

TEST_CASE("a file that states its unit and axes stands as it states them, others as the sheet says") {
    // A rod of 2 m that stands, in a game of units of 0.5 m whose files are in them.
    const Model rod = shapes::box({-0.1, 0, -0.2}, {0.1, 2, 0.2});
    for (const Up up : {Up::Y, Up::Z})
        for (const char* format : {"obj", "stl", "ply", "dae", "glb", "x3d", "3mf"}) {
            INFO(format << (up == Up::Y ? ", Y up" : ", Z up"));
            const Read read = written(format, rod, {.name = "rod", .metresPerUnit = 0.5, .up = up});
            platform::FileTerms terms;
            terms.metres = terms.fileMetres = 0.5;
            terms.up = up, terms.front = up == Up::Y ? "+Z" : "-Y";
            Delivered delivered;
            delivered.models = {read};
            const auto [low, high] = shownBox(delivered, terms);
            CHECK(high.y - low.y == Approx(4));
            CHECK(high.z - low.z == Approx(0.8));
            standins::TryReport report;
            checkDelivered(delivered, terms, report);
            const bool fixed = formats::formatWithId(format)->fixFrame != nullptr;
            CHECK(std::ranges::any_of(report.messages, [](const auto& message) {
                      return message.text.starts_with("states");
                  }) == fixed);
        }
}

TEST_CASE("a COLLADA node is moved by whatever is no transform of nothing, also by one that lacks numbers") {
    const auto isMoved = [](const std::string& transform) {
        const auto file = standins::world::readColladaFile(
            "<COLLADA><library_visual_scenes><visual_scene id='s'><node name='n'>" + transform +
            "</node></visual_scene></library_visual_scenes><scene><instance_visual_scene url='#s'/></scene>"
            "</COLLADA>");
        CHECK(file.problem == "");
        return file.transformed == std::vector<std::string>{"n"};
    };
    for (const char* nothing :
         {"", "<translate>0 0 0</translate>", "<scale>1 1 1</scale>", "<rotate>0 0 0 0</rotate>",
          "<matrix>1 0 0 0 0 1 0 0 0 0 1 0 0 0 0 1</matrix>"})
        CHECK_FALSE(isMoved(nothing));
    for (const char* something :
         {"<translate>0 1 0</translate>", "<translate>0 0</translate>", "<scale>1 1</scale>",
          "<rotate>0 0 0 90</rotate>", "<rotate>0 1 0 90</rotate>", "<matrix>1 0 0 0</matrix>",
          "<matrix>1 0 0 5 0 1 0 0 0 0 1 0 0 0 0 1</matrix>", "<lookat>0 0 0 0 0 0 0 0 0</lookat>",
          "<skew/>"}) {
        INFO(something);
        CHECK(isMoved(something));
    }
}

/// The one example in a folder, beside a delivery of a quad.
std::optional<Delivered> exampleIn(const fs::path& folder) {
    const TemporaryFolder own;
    own.write("own.obj", "v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\n");
    standins::TryReport report;
    return exampleFor(folder, readDelivered(own.path(), report));
}

TEST_CASE("an example is read however its maker wrote it") {
    const auto only = [](const std::string& name, const std::string& text) {
        const TemporaryFolder folder;
        folder.write(name, text);
        const auto example = exampleIn(folder.path());
        REQUIRE(example);
        REQUIRE(example->models.size() == 1);
        return example->models[0];
    };
    // Faces of four corners, counted from the end.
    const Read quads = only("crate.obj", "o crate\nv 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\nf -4 -3 -2 -1\n");
    CHECK(quads.problem == "");
    CHECK(quads.triangles == 2);
    CHECK(sizeOf(quads) == glm::vec3(2, 1, 0));
    // A glTF whose numbers lie in its text, unindexed and under a node that scales.
    const Read tree = only(
        "crate.gltf",
        R"({"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"Big","mesh":0,"scale":[3,3,3]}],
"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
"accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]}],
"bufferViews":[{"buffer":0,"byteLength":36}],
"buffers":[{"byteLength":36,"uri":"data:application/octet-stream;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAA"}]})");
    CHECK(tree.problem == "");
    CHECK(tree.triangles == 1);
    CHECK(sizeOf(tree) == glm::vec3(3, 3, 0));
    const Read off = only("crate.off", "OFF\n4 1 0\n0 0 0\n2 0 0\n2 1 0\n0 1 0\n4 0 1 2 3\n");
    CHECK(off.triangles == 2);
    // Such as nobody reads stays an example that cannot be shown, with the reason.
    CHECK(only("crate.obj", "f 1 2 3\n").problem != "");
    CHECK(only("crate.fbx", "no such thing").problem != "");
}

TEST_CASE("pictures inside a model are judged and are part of the comparison") {
    const Model model = richModel();
    const TemporaryFolder folder;
    const auto files = formats::writeGlb(model, {.name = "rich"}, nullptr);
    writeAllOrNone(folder.path(), files);
    standins::TryReport report;
    const Delivered read = readDelivered(folder.path(), report);
    REQUIRE(read.models.size() == 1);
    CHECK(
        std::ranges::any_of(read.models[0].objects, [](const auto& object) { return bool(object.inside); }));
    const auto refusals = [&](double edge) {
        platform::FileTerms terms;
        terms.pictureEdge = edge;
        standins::TryReport said;
        checkDelivered(read, terms, said);
        return std::ranges::count_if(said.messages, [](const auto& message) {
            return message.kind == standins::Message::Kind::Refused && message.text.starts_with("picture of");
        });
    };
    CHECK(refusals(0) == 0);
    CHECK(refusals(4096) == 0);
    CHECK(refusals(1) > 0);
}

} // namespace trial_formats_tests
