// OBJ with its materials, PLY and STL as many programs write them, and what our writers put into them.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/geometry/topology.h"
#include "core/geometry/world.h"
#include "core/texture/picture_file.h"
#include "support/rich_model.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <cstring>

using namespace zl;

namespace {

Model objModel(const TemporaryFolder& folder, const std::string& text) {
    return formats::readModel(folder.write("in.obj", text));
}

const std::string square = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n";

double area(const Mesh& mesh) {
    double sum = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a(mesh.positions[mesh.indices[3 * t]]), b(mesh.positions[mesh.indices[3 * t + 1]]),
            c(mesh.positions[mesh.indices[3 * t + 2]]);
        sum += glm::length(glm::cross(b - a, c - a)) / 2;
    }
    return sum;
}

template <class T>
void put(std::string& out, T value, bool big) {
    char raw[sizeof value];
    std::memcpy(raw, &value, sizeof value);
    if (big) std::reverse(raw, raw + sizeof value);
    out.append(raw, sizeof value);
}

} // namespace

TEST_CASE("OBJ: polygons of any number of corners keep their area") {
    TemporaryFolder folder;
    CHECK(area(*objModel(folder, square + "f 1 2 3 4\n").meshes[0]) == Approx(1));
    // An L of area 3, concave: a fan from its first corner would overlap itself.
    const std::string ell = "v 0 0 0\nv 2 0 0\nv 2 1 0\nv 1 1 0\nv 1 2 0\nv 0 2 0\n";
    for (const char* face : {"f 1 2 3 4 5 6\n", "f 4 5 6 1 2 3\n", "f 3 4 5 6 1 2\n", "f 6 5 4 3 2 1\n"}) {
        const Model model = objModel(folder, ell + face);
        CHECK(triangleCount(model) == 4);
        CHECK(area(*model.meshes[0]) == Approx(3));
    }
    CHECK(triangleCount(objModel(folder, square + "f 1 2\nf 1 2 3\nf 4\n")) == 1);
    CHECK_FALSE(objModel(folder, square + "f 1 2\nf 1 2 3\n").warnings.empty());
}

TEST_CASE("OBJ: corners with UVs and normals in every way of writing them") {
    TemporaryFolder folder;
    const std::string data = square + "vt 0 0\nvt 1 0\nvt 1 1\nvn 0 0 1\nvn 0 1 0\n";
    const auto mesh = [&](const char* face) { return *objModel(folder, data + face).meshes[0]; };
    CHECK(mesh("f 1 2 3\n").uvSets.empty());
    const Mesh uv = mesh("f 1/1 2/2 3/3\n");
    REQUIRE(uv.uvSets.size() == 1);
    CHECK(uv.uvSets[0][2] == glm::vec2(1, 0)); // the file counts from the bottom, we from the top
    CHECK(uv.normals.empty());
    const Mesh normal = mesh("f 1//2 2//2 3//2\n");
    CHECK(normal.uvSets.empty());
    CHECK(normal.normals[0] == glm::vec3(0, 1, 0));
    const Mesh both = mesh("f 1/3/1 2/2/1 3/1/1\n");
    CHECK(both.uvSets[0][0] == glm::vec2(1, 0));
    CHECK(both.normals[2] == glm::vec3(0, 0, 1));
    // Counted back from what stands above.
    const Mesh back = mesh("f -4/-3/-2 -3/-2/-2 -2/-1/-2\n");
    CHECK(back.positions[0] == glm::vec3(0, 0, 0));
    CHECK(back.uvSets[0][1] == glm::vec2(1, 1));
}

TEST_CASE("OBJ: one place with two UVs becomes two corners, with one UV it stays one") {
    TemporaryFolder folder;
    const std::string data = square + "vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n";
    CHECK(objModel(folder, data + "f 1/1 2/2 3/3\nf 1/1 3/3 4/4\n").meshes[0]->vertexCount() == 4);
    CHECK(objModel(folder, data + "f 1/1 2/2 3/3\nf 1/2 3/3 4/4\n").meshes[0]->vertexCount() == 5);
    CHECK(objModel(folder, data + "f 1/1 2/2 3/3\nf 1 3 4\n").meshes[0]->vertexCount() ==
          6); // two without a UV
}

TEST_CASE("OBJ: objects are new each time, groups are taken up again") {
    TemporaryFolder folder;
    const Model objects = objModel(folder, square + "o lid\nf 1 2 3\no box\nf 1 3 4\no lid\nf 2 3 4\n");
    CHECK(objects.nodes.size() == 3);
    const Model groups = objModel(folder, square + "g lid\nf 1 2 3\ng box\nf 1 3 4\ng lid\nf 2 3 4\n");
    REQUIRE(groups.nodes.size() == 2);
    CHECK(groups.nodes[0].name == "lid");
    CHECK(groups.meshes[groups.nodes[0].mesh]->triangleCount() == 2);
    // Groups within objects do not cut them up.
    CHECK(objModel(folder, square + "o box\ng a\nf 1 2 3\ng b\nf 1 3 4\n").nodes.size() == 1);
    CHECK(objModel(folder, square + "f 1 2 3\n").nodes[0].name == "in");
}

TEST_CASE("OBJ: continued lines, odd blanks, comments and statements nobody needs") {
    TemporaryFolder folder;
    const Model model =
        objModel(folder, "# made by hand\n\n  v   0\t0 0  # first\r\nv 1 0 0 \\\n\nv 1 \\\r\n 1 0\n"
                         "s 1\nf 1 \\\n 2 3\nwhatever 5\ns off");
    CHECK(triangleCount(model) == 1);
    CHECK(model.meshes[0]->positions[2] == glm::vec3(1, 1, 0));
    CHECK_FALSE(model.warnings.empty()); // "whatever" was passed over
    CHECK(objModel(folder, square + "f 1 2 3\nl 1 2\np 3\n").dropped.size() == 1);
}

TEST_CASE("OBJ: colours behind the place, some corners without") {
    TemporaryFolder folder;
    const Model model = objModel(folder, "v 0 0 0 1 0 0\nv 1 0 0\nv 1 1 0 0 0 0.5\nf 1 2 3\n");
    REQUIRE(model.meshes[0]->colours.size() == 3);
    CHECK(model.meshes[0]->colours[0] == glm::vec4(1, 0, 0, 1));
    CHECK(model.meshes[0]->colours[1] == glm::vec4(1, 1, 1, 1));
    CHECK(model.meshes[0]->colours[2].b == 0.5f);
}

TEST_CASE("OBJ: numbers of all sorts, and places in the billions") {
    TemporaryFolder folder;
    const Model model = objModel(folder, "v 1e3 -2.5E-1 +.5\nv 3000000000 0 0\nv 0 1. 0\nf 1 2 3\n");
    CHECK(model.meshes[0]->positions[0] == glm::vec3(1000, -0.25f, 0.5f));
    CHECK(model.meshes[0]->positions[1].x == 3e9f);
    CHECK(model.meshes[0]->positions[2].y == 1);
}

TEST_CASE("MTL: colours, transparency in both ways, shine, emission") {
    TemporaryFolder folder;
    folder.write("in.mtl", "newmtl glass\nKd 1 0.5 0\nd 0.25\nNs 0\nKe 2 0 0\n"
                           "newmtl mist\nTr 0.75\nNs 1e6\nnewmtl\tsteel plate \nPm 1\nPr 0.5\n");
    const Model model =
        objModel(folder, "mtllib in.mtl\n" + square +
                             "usemtl glass\nf 1 2 3\nusemtl mist\nf 1 3 4\nusemtl steel plate\nf 2 3 4\n");
    REQUIRE(model.materials.size() == 3);
    // sRGB 0.5 is 0.214 of full light (IEC 61966-2-1).
    CHECK(model.materials[0].baseColour.g == Approx(0.2140).epsilon(1e-3));
    CHECK(model.materials[0].baseColour.a == Approx(0.25));
    CHECK(model.materials[0].roughness == Approx(1));
    CHECK(model.materials[0].emission.r == Approx(2));
    CHECK(model.materials[1].baseColour.a == Approx(0.25));
    CHECK(model.materials[1].roughness < 0.01);
    CHECK(model.materials[2].name == "steel plate");
}

TEST_CASE("MTL: pictures with options before their name, in folders, in other capitals, used twice") {
    TemporaryFolder folder;
    folder.write("pictures/Wood Grain.png", png(8, 4));
    folder.write("cloth.png", png(2, 2));
    folder.write("in.mtl", "newmtl a\nmap_Kd -s 2 2 1 -o 0.5 0 0 -clamp on pictures/Wood Grain.png\n"
                           "newmtl b\nmap_Kd .\\pictures\\Wood Grain.png\nnewmtl c\nmap_Kd CLOTH.PNG\n"
                           "newmtl d\nmap_Kd cloth.png\nnewmtl e\nmap_Kd gone.png\n");
    std::string text = "mtllib in.mtl\n" + square;
    for (const char* name : {"a", "b", "c", "d", "e"}) text += fmt::format("usemtl {}\nf 1 2 3\n", name);
    const Model model = objModel(folder, text);
    REQUIRE(model.materials.size() == 5);
    const auto width = [&](int m) {
        const int image = model.materials[m].picture(PictureRole::Colour).image;
        return image < 0 ? 0 : model.images[image]->width;
    };
    CHECK(width(0) == 8);
    CHECK(width(1) == 8);
    CHECK(width(2) == 2);
    CHECK(width(3) == 2);
    CHECK(width(4) == 0);
    CHECK(std::ranges::any_of(model.warnings,
                              [](const auto& w) { return w.find("gone.png") != std::string::npos; }));
}

TEST_CASE("MTL: where a picture lies on the UVs is kept") {
    TemporaryFolder folder;
    folder.write("cloth.png", png(2, 2));
    folder.write("in.mtl",
                 "newmtl a\nmap_Kd -s 2 4 1 -o 0.25 0.5 cloth.png\nnewmtl b\nmap_Kd -s 3 cloth.png\n");
    const Model model = objModel(folder, "mtllib in.mtl\n" + square +
                                             "vt 0.1 0.2\nusemtl a\nf 1/1 2/1 3/1\nusemtl b\n"
                                             "f 1/1 2/1 3/1\n");
    // MTL looks the picture up at 0.1 · 2 + 0.25 from the left and 0.2 · 4 + 0.5 from the bottom.
    const glm::vec2 placed = model.materials[0].leading()->placement.of(model.meshes[0]->uvSets[0][0]);
    CHECK(placed.x == Approx(0.45));
    CHECK(1 - placed.y == Approx(1.3));
    const glm::vec2 other = model.materials[1].leading()->placement.of(model.meshes[0]->uvSets[0][0]);
    CHECK(other.x == Approx(0.3));
    CHECK(1 - other.y == Approx(0.2));
}

TEST_CASE("MTL: a material that no file explains still has its name") {
    TemporaryFolder folder;
    const Model model = objModel(folder, "mtllib lost.mtl\n" + square + "usemtl brass\nf 1 2 3\nf 1 3 4\n");
    REQUIRE(model.materials.size() == 1);
    CHECK(model.materials[0].name == "brass");
    CHECK(model.meshes[0]->runs.size() == 1);
    CHECK(std::ranges::any_of(model.warnings,
                              [](const auto& w) { return w.find("lost.mtl") != std::string::npos; }));
}

TEST_CASE("OBJ: triangles of one material lie together, whatever the order in the file") {
    TemporaryFolder folder;
    std::string text = square;
    for (int i = 0; i < 10; ++i) text += fmt::format("usemtl {}\nf 1 2 3\nf 1 3 4\n", i % 2 ? "red" : "blue");
    const Model model = objModel(folder, text);
    REQUIRE(model.meshes[0]->runs.size() == 2);
    CHECK(model.meshes[0]->runs[0].triangleCount == 10);
    CHECK(model.meshes[0]->runs[1].triangleCount == 10);
}

TEST_CASE("OBJ written: places, UVs and normals come back bit for bit, names with blanks too") {
    TemporaryFolder folder;
    Model model = shapes::modelOf(shapes::sphere(17, 9, 1.0 / 3), "tide bell");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    for (const glm::vec3& p : mesh->positions) mesh->normals.push_back(glm::normalize(p + 1e-6f));
    model.meshes[0] = mesh;
    writeAllOrNone(folder.path(), formats::formatToWrite("a.obj").write(model, {.name = "a"}, nullptr));
    const Model back = formats::readModel(folder / "a.obj");
    CHECK(back.nodes[0].name == "tide bell");
    REQUIRE(triangleCount(back) == triangleCount(model));
    for (std::size_t i = 0; i < mesh->indices.size(); ++i) {
        const auto a = mesh->indices[i], b = back.meshes[0]->indices[i];
        REQUIRE(back.meshes[0]->positions[b] == mesh->positions[a]);
        REQUIRE(back.meshes[0]->uvSets[0][b].x == mesh->uvSets[0][a].x);
        REQUIRE(back.meshes[0]->uvSets[0][b].y == Approx(mesh->uvSets[0][a].y).margin(1e-7));
    }
}

TEST_CASE("PLY: every number type in every coding") {
    TemporaryFolder folder;
    const std::string coding = GENERATE("ascii", "binary_little_endian", "binary_big_endian");
    const bool big = coding == "binary_big_endian";
    std::string bytes = "ply\nformat " + coding +
                        " 1.0\ncomment by hand\nelement vertex 3\nproperty double x\nproperty float y\n"
                        "property short z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\n"
                        "property int8 quality\nelement face 1\nproperty list uint16 int32 vertex_indices\n"
                        "property uint flags\nelement extra 2\nproperty list char float rest\nend_header\n";
    const double xs[] = {0.5, 1.5, 0.5};
    const float ys[] = {0, 0, 2};
    for (int i = 0; i < 3; ++i)
        if (coding == "ascii") {
            bytes += fmt::format("{} {} {} 255 {} 0 -3\n", xs[i], ys[i], -i, i * 51);
        } else {
            put(bytes, xs[i], big), put(bytes, ys[i], big), put(bytes, std::int16_t(-i), big);
            put(bytes, std::uint8_t(255), big), put(bytes, std::uint8_t(i * 51), big);
            put(bytes, std::uint8_t(0), big), put(bytes, std::int8_t(-3), big);
        }
    if (coding == "ascii") {
        bytes += "3 0 1 2 7\n0\n2 1.5 2.5\n";
    } else {
        put(bytes, std::uint16_t(3), big);
        for (int i = 0; i < 3; ++i) put(bytes, std::int32_t(i), big);
        put(bytes, std::uint32_t(7), big);
        put(bytes, std::int8_t(0), big), put(bytes, std::int8_t(2), big);
        put(bytes, 1.5f, big), put(bytes, 2.5f, big);
    }
    const Model model = formats::readModel(folder.write("types.ply", bytes));
    CHECK(triangleCount(model) == 1);
    CHECK(geometry::fileBounds(model).size() == glm::dvec3(1, 2, 2));
    REQUIRE(model.meshes[0]->colours.size() == 3);
    CHECK(model.meshes[0]->colours[1].g == Approx(0.2));
    CHECK(model.meshes[0]->colours[1].r == Approx(1));
    CHECK_FALSE(model.dropped.empty()); // the element nobody knows
    CHECK_THROWS_AS(formats::readModel(folder.write("cut.ply", bytes.substr(0, bytes.size() - 30))), Error);
}

TEST_CASE("PLY written comes back with colours, normals and UVs") {
    TemporaryFolder folder;
    Model model = shapes::modelOf(shapes::sphere(9, 5), "float");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->normals = mesh->positions;
    for (std::size_t v = 0; v < mesh->vertexCount(); ++v) mesh->colours.emplace_back(v % 2, 0.2f, 0.4f, 1);
    model.meshes[0] = mesh;
    writeAllOrNone(folder.path(), formats::formatToWrite("a.ply").write(model, {.name = "a"}, nullptr));
    const Mesh back = *formats::readModel(folder / "a.ply").meshes[0];
    REQUIRE(back.vertexCount() == mesh->vertexCount());
    CHECK(back.positions == mesh->positions);
    CHECK(back.normals.size() == mesh->normals.size());
    CHECK(back.colours[1].r == Approx(1));
    CHECK(back.colours[1].g == Approx(0.2).margin(1.0 / 255));
    REQUIRE(back.uvSets.size() == 1);
    CHECK(back.uvSets[0][3].x == Approx(mesh->uvSets[0][3].x));
    CHECK(back.uvSets[0][3].y == Approx(mesh->uvSets[0][3].y));
}

TEST_CASE("STL: text with odd blanks and capitals of its own, and two solids in one file") {
    TemporaryFolder folder;
    const std::string facet =
        "facet normal 0 0 1\n outer loop\n  vertex 0 0 0\n  vertex 1 0 0\n\tvertex 0 1e0 0\n"
        " endloop\nendfacet\n";
    const Model one =
        formats::readModel(folder.write("one.stl", "solid bell of the quay\n" + facet + "endsolid\n"));
    CHECK(triangleCount(one) == 1);
    const Model two = formats::readModel(folder.write(
        "two.stl", "solid a\n" + facet + "endsolid a\nsolid b\n" + facet + facet + "endsolid b"));
    CHECK(triangleCount(two) == 3);
    CHECK(one.frame.unitAssumed);
    CHECK(one.frame.up == Up::Z);
}

TEST_CASE("STL written: 50 bytes a triangle, normals that stand on their faces, our name nowhere else") {
    TemporaryFolder folder;
    const Model model = shapes::box({0, 0, 0}, {1, 2, 3});
    const auto files = formats::formatToWrite("a.stl").write(model, {.name = "a"}, nullptr);
    REQUIRE(files.size() == 1);
    const std::string& bytes = files[0].bytes;
    REQUIRE(bytes.size() == 84 + 50 * 12);
    CHECK_FALSE(bytes.starts_with("solid")); // text readers would take it for text
    for (int t = 0; t < 12; ++t) {
        float numbers[12];
        std::memcpy(numbers, bytes.data() + 84 + 50 * t, 48);
        const glm::vec3 n(numbers[0], numbers[1], numbers[2]), a(numbers[3], numbers[4], numbers[5]),
            b(numbers[6], numbers[7], numbers[8]), c(numbers[9], numbers[10], numbers[11]);
        CHECK(glm::dot(n, glm::normalize(glm::cross(b - a, c - a))) == Approx(1));
        CHECK(glm::dot(n, (a + b + c) / 3.0f - glm::vec3(0.5f, -1.5f, 1)) != 0);
    }
}

TEST_CASE("X3D, 3MF and COLLADA written: what a box is there, whatever its name") {
    TemporaryFolder folder;
    Model model = shapes::box({0, 0, 0}, {0.3, 0.2, 0.1});
    model.nodes[0].name = "crate <&\"'>"; // letters that XML keeps for itself
    const std::string name = GENERATE("a.x3d", "a.3mf", "a.dae");
    writeAllOrNone(folder.path(),
                   formats::formatToWrite(name).write(
                       model, formats::inFrameOf(formats::formatToWrite(name), {.name = "a"}), nullptr));
    const Model back = formats::readModel(folder / name);
    CHECK(triangleCount(back) == 12);
    const auto size = geometry::worldBounds(back).size();
    CHECK(size.x == Approx(0.3).epsilon(1e-5));
    CHECK(size.y == Approx(0.2).epsilon(1e-5));
    CHECK(size.z == Approx(0.1).epsilon(1e-5));
    if (name == "a.dae") // the others' names are words without such letters
        CHECK(back.nodes[0].name == model.nodes[0].name);
    CHECK(geometry::topologyOf(*back.meshes[0]).nonManifoldEdges == 0);
}
