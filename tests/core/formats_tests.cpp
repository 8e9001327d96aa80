#include "core/formats/format.h"
#include "core/geometry/topology.h"
#include "core/geometry/clean.h"
#include "core/geometry/world.h"
#include "core/texture/picture_file.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <assimp/Importer.hpp>
#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;

namespace {

const char* textCube = R"(mtllib textCube.mtl
o textCube
v 0 0 0
v 1 0 0
v 1 1 0
v 0 1 0
v 0 0 1
v 1 0 1
v 1 1 1
v 0 1 1
usemtl red
f 1 4 3 2
f 5 6 7 8
usemtl blue
f 1 2 6 5
f 3 4 8 7
f 1 5 8 4
f -7 -6 -2 -3
)";

Model written(const TemporaryFolder& folder, const Model& model, const std::string& name,
              const formats::WriteOptions& options = {"out"}) {
    const auto& format = formats::formatToWrite(name);
    auto files = format.write(model, options, nullptr);
    writeAllOrNone(folder.path(), files);
    return formats::readModel(folder / files[0].name);
}

std::shared_ptr<const Image> picture(const std::string& name, int edge) {
    return texture::pictureFromBytes(
        name, texture::encodePng({edge, edge, std::vector<std::uint8_t>(std::size_t(4) * edge * edge, 200)}));
}

/// A two-object, two-material, skinned, animated, morphing model.
Model rich() {
    Model model = shapes::modelOf(shapes::sphere(12, 6), "ball");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, 20, 0}, {20, std::uint32_t(mesh->triangleCount() - 20), 1}};
    mesh->joints.assign(mesh->vertexCount(), glm::u16vec4(0, 1, 0, 0));
    mesh->weights.assign(mesh->vertexCount(), glm::vec4(0.25f, 0.75f, 0, 0));
    mesh->colours.assign(mesh->vertexCount(), glm::vec4(0.5f, 0.25f, 1, 1));
    mesh->morphs.push_back({"wink", std::vector<glm::vec3>(mesh->vertexCount(), {0, 0.1f, 0}), {}});
    model.meshes[0] = mesh;
    model.images = {picture("skin.png", 8)};
    model.materials = {{.name = "skin"}, {.name = "cloth"}};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    model.materials[1].metalness = 0.5f;
    model.nodes.push_back({"hip", -1, glm::dmat4(1.0)});
    model.nodes.push_back({"knee", 1, glm::translate(glm::dmat4(1.0), {0.0, 0.5, 0.0})});
    model.skins.push_back({"rig", {1, 2}, {glm::mat4(1), glm::translate(glm::mat4(1), {0, -0.5f, 0})}, 1});
    model.nodes[0].skin = 0;
    Clip clip;
    clip.name = "nod";
    clip.channels.push_back({2,
                             Channel::Target::Rotation,
                             Channel::Curve::Linear,
                             {0, 1},
                             {0, 0, 0, 1, 0, 0.7071068f, 0, 0.7071068f}});
    model.clips.push_back(std::make_shared<const Clip>(clip));
    return model;
}

} // namespace

TEST_CASE("an OBJ textCube with two materials, quads and relative indices") {
    TemporaryFolder folder;
    folder.write("textCube.mtl", "newmtl red\nKd 1 0 0\nnewmtl blue\nKd 0 0 1\nd 0.5\n");
    const Model model = formats::readModel(folder.write("textCube.obj", textCube));
    CHECK(triangleCount(model) == 12);
    CHECK(vertexCount(model) == 8);
    REQUIRE(model.materials.size() == 2);
    CHECK(model.materials[0].baseColour.r == Approx(1));
    CHECK(model.materials[1].baseColour.a == Approx(0.5));
    CHECK(model.meshes[0]->runs.size() == 2);
    CHECK(model.meshes[0]->runs[0].triangleCount == 4);
    const auto topology = geometry::topologyOf(*model.meshes[0]);
    CHECK(topology.watertight);
    CHECK(model.frame.unitAssumed);
    CHECK(model.warnings.empty());
    CHECK(geometry::worldBounds(model).size() == glm::dvec3(1));
}

TEST_CASE("an OBJ large enough for many chunks equals a small one read whole") {
    TemporaryFolder folder;
    std::string text;
    const int n = 30000; // about 3 MB, so that chunks are cut inside relative faces
    for (int i = 0; i < n; ++i)
        text += fmt::format("v {0} 0.123456 0\nv {0} 1.123456 0\nv {0} 0.123456 1\nvt 0.25 0.75\nvn 0 1 0\nf "
                            "-3/-1/-1 -2/-1/-1 -1/-1/-1\n",
                            i);
    const Model model = formats::readModel(folder.write("many.obj", text));
    REQUIRE(triangleCount(model) == std::size_t(n));
    const Mesh& mesh = *model.meshes[0];
    bool right = true;
    for (int i = 0; i < n; ++i)
        for (int k = 0; k < 3; ++k)
            right &= mesh.positions[mesh.indices[3 * std::size_t(i) + k]].x == float(i);
    CHECK(right);
    CHECK(mesh.uvSets[0][0].y == Approx(0.25)); // top-left origin inside
}

TEST_CASE("names survive an OBJ: slashes, dots, emoji and 300 letters") {
    TemporaryFolder folder;
    const std::string name = GENERATE(as<std::string>(), "a/b\\c", "..", "lamp.left.001",
                                      "bell \xF0\x9F\x94\x94", std::string(300, 'x'));
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.nodes[0].name = name;
    const Model back = written(folder, model, "out.obj");
    CHECK(back.nodes[0].name == name);
    CHECK(fileNameFrom(name).find_first_of("/\\.") == std::string::npos);
    CHECK(fileNameFrom(name).size() <= 80);
    CHECK_FALSE(fileNameFrom(name).empty());
}

TEST_CASE("STL binary and text, with heads that mislead") {
    TemporaryFolder folder;
    const Model model = shapes::box({0, 0, 0}, {0.01, 0.02, 0.03});
    auto files = formats::writeStl(model, {"box", 0.001, Up::Z}, nullptr);
    const Model back = formats::readModel(folder.write("box.stl", files[0].bytes));
    CHECK(triangleCount(back) == 12);
    CHECK(back.frame.unit.id == "mm");
    CHECK(glm::length(geometry::worldBounds(back).size() - glm::dvec3(0.01, 0.02, 0.03)) < 1e-8);

    // A face without an area has no direction; zeros say so, and no reader stumbles over them.
    Model flat = model;
    auto mesh = std::make_shared<Mesh>(*flat.meshes[0]);
    mesh->positions.assign(mesh->positions.size(), glm::vec3(0.5f));
    flat.meshes[0] = mesh;
    const std::string collapsed = formats::writeStl(flat, {"box", 0.001, Up::Z}, nullptr)[0].bytes;
    CHECK(collapsed.substr(84, 12) == std::string(12, '\0'));

    // A binary file whose head says "solid".
    std::string misleading = files[0].bytes;
    misleading.replace(0, 11, "solid facet");
    CHECK(triangleCount(formats::readModel(folder.write("m.stl", misleading))) == 12);

    // A text file with bytes in its name that look binary, and Windows line ends.
    const std::string text = "solid \x01\x02\xff\xfe\r\nfacet normal 0 0 1\r\n outer loop\r\n vertex 0 0 "
                             "0\r\n vertex 1 0 0\r\n vertex 0 +1e0 0\r\n endloop\r\nendfacet\r\nendsolid\r\n";
    CHECK(triangleCount(formats::readModel(folder.write("t.stl", text))) == 1);
}

TEST_CASE("PLY text, both byte orders, and lists of polygons") {
    TemporaryFolder folder;
    const std::string head = "element vertex 4\nproperty float x\nproperty float y\nproperty float "
                             "z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face "
                             "1\nproperty list uchar int vertex_indices\nend_header\n";
    const Model text = formats::readModel(folder.write(
        "a.ply", "ply\nformat ascii 1.0\n" + head +
                     "0 0 0 255 0 0\n2 0 0 0 255 0\n2 3 0 0 0 255\n0 3 0 255 255 255\n4 0 1 2 3\n"));
    CHECK(triangleCount(text) == 2);
    CHECK(text.meshes[0]->colours[1].g == Approx(1));
    CHECK(geometry::worldBounds(text).size() == glm::dvec3(2, 3, 0));
    std::string big;
    const auto put = [&](auto value) {
        char raw[sizeof value];
        std::memcpy(raw, &value, sizeof value);
        std::reverse(raw, raw + sizeof value);
        big.append(raw, sizeof value);
    };
    for (const auto& p : {glm::vec3(0, 0, 0), {2, 0, 0}, {2, 3, 0}, {0, 3, 0}}) {
        for (int k = 0; k < 3; ++k) put(p[k]);
        big += std::string("\x10\x20\x30", 3);
    }
    big += '\x04';
    for (const int i : {0, 1, 2, 3}) put(i);
    const Model binary =
        formats::readModel(folder.write("b.ply", "ply\nformat binary_big_endian 1.0\n" + head + big));
    CHECK(triangleCount(binary) == 2);
    CHECK(geometry::worldBounds(binary).size() == glm::dvec3(2, 3, 0));
    const Model sphere = shapes::modelOf(shapes::sphere(20, 10));
    CHECK(triangleCount(written(folder, sphere, "out.ply")) == triangleCount(sphere));
}

TEST_CASE("a GLB keeps names, hierarchy, materials, pictures, skin, clips and morphs") {
    TemporaryFolder folder;
    const Model model = rich();
    const Model back = written(folder, model, "out.glb");
    REQUIRE(back.nodes.size() == 3);
    CHECK(back.nodes[2].name == "knee");
    CHECK(back.nodes[2].parent == 1);
    CHECK(back.materials.size() == 2);
    CHECK(back.materials[1].name == "cloth");
    CHECK(back.materials[1].metalness == Approx(0.5));
    REQUIRE(back.images.size() == 1);
    CHECK(back.images[0]->width == 8);
    REQUIRE(back.skins.size() == 1);
    CHECK(back.skins[0].joints == std::vector<int>{1, 2});
    REQUIRE(back.clips.size() == 1);
    CHECK(back.clips[0]->name == "nod");
    CHECK(back.clips[0]->channels[0].values == model.clips[0]->channels[0].values);
    const Mesh& mesh = *back.meshes[0];
    REQUIRE(mesh.morphs.size() == 1);
    CHECK(mesh.morphs[0].name == "wink");
    CHECK(mesh.weights[0].y == Approx(0.75));
    CHECK(mesh.colours[0].g == Approx(0.25));
    CHECK(mesh.runs.size() == 2);
    CHECK(triangleCount(back) == triangleCount(model));
}

TEST_CASE("what is written is read alike by a reader that is not ours") {
    TemporaryFolder folder;
    Model model = shapes::modelOf(shapes::sphere(20, 10), "ball");
    model = moved(model, glm::translate(glm::dmat4(1.0), {1.0, 2.0, 3.0}));
    const std::string name = GENERATE("ball.obj", "ball.stl", "ball.ply", "ball.glb");
    const auto files = formats::formatToWrite(name).write(model, {"ball"}, nullptr);
    writeAllOrNone(folder.path(), files);
    Assimp::Importer importer;
    const aiScene* scene =
        importer.ReadFile((folder / files[0].name).string(), aiProcess_PreTransformVertices);
    REQUIRE(scene);
    REQUIRE(scene->mNumMeshes == 1);
    CHECK(scene->mMeshes[0]->mNumFaces == triangleCount(model));
    geometry::Bounds bounds;
    for (unsigned i = 0; i < scene->mMeshes[0]->mNumVertices; ++i) {
        const auto& v = scene->mMeshes[0]->mVertices[i];
        bounds.add(glm::dvec3(v.x, v.y, v.z));
    }
    CHECK(glm::length(bounds.centre() - geometry::worldBounds(model).centre()) < 1e-5);
    CHECK(glm::length(bounds.size() - geometry::worldBounds(model).size()) < 1e-5);
}

TEST_CASE("COLLADA comes in metres and Y up, with names") {
    TemporaryFolder folder;
    const char* dae =
        R"(<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><unit name="centimeter" meter="0.01"/><up_axis>Z_UP</up_axis></asset>
<library_geometries><geometry id="g" name="plate"><mesh><source id="p"><float_array id="pa" count="9">0 0 0 100 0 0 0 0 300</float_array>
<technique_common><accessor source="#pa" count="3" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>
<vertices id="v"><input semantic="POSITION" source="#p"/></vertices><triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles></mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="s"><node id="n" name="plate"><instance_geometry url="#g"/></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#s"/></scene></COLLADA>)";
    const Model model = formats::readModel(folder.write("plate.dae", dae));
    CHECK(triangleCount(model) == 1);
    CHECK(geometry::worldBounds(model).size().y == Approx(3));
    CHECK(geometry::worldBounds(model).size().x == Approx(1));
    CHECK_FALSE(model.frame.unitAssumed);
}
