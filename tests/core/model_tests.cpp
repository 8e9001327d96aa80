// Models as values: placement, frames, counting, and their way to another process.
#include "core/base/error.h"
#include "core/geometry/world.h"
#include "core/model/model_bytes.h"
#include "core/texture/picture_file.h"
#include "support/random_tree.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;

TEST_CASE("a model goes through bytes unchanged") {
    Model model = shapes::randomTree(40, 5);
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->normals = mesh->positions;
    mesh->uvSets = {std::vector<glm::vec2>(mesh->vertexCount(), {0.25f, 0.5f}), {}};
    mesh->colours.assign(mesh->vertexCount(), glm::vec4(1, 2, 3, 4));
    mesh->joints.assign(mesh->vertexCount(), glm::u16vec4(1, 2, 3, 65535));
    mesh->weights.assign(mesh->vertexCount(), glm::vec4(0.25f));
    mesh->morphs.push_back({"swell", mesh->positions, {}});
    model.meshes[0] = mesh;
    model.images = {
        texture::pictureFromBytes("a.png", texture::encodePng({2, 2, std::vector<std::uint8_t>(16, 7)}))};
    Material bronze;
    bronze.name = "bronze";
    bronze.picture(PictureRole::Colour).image = 0;
    bronze.picture(PictureRole::Colour).placement.turn = 0.5f;
    bronze.doubleSided = true;
    bronze.alpha = Material::Alpha::Blend;
    model.materials = {bronze};
    model.skins = {{"rig", {1, 2}, {glm::mat4(2), glm::mat4(3)}, 1}};
    model.clips = {std::make_shared<const Clip>(
        Clip{"swing", {{2, Channel::Target::Scale, Channel::Curve::Step, {0, 1}, {1, 1, 1, 2, 2, 2}}}})};
    model.frame = {unitNamed("in"), Up::Z, true, false};
    model.headingKnown = true;
    model.dropped = {"cameras"};
    model.warnings = {"odd", ""};
    model.files = {"/a/b.dae", "c.png"};
    const std::string bytes = toBytes(model);
    const Model back = modelFromBytes(bytes);
    CHECK(toBytes(back) == bytes);
    CHECK(geometry::worldBounds(back).size() == geometry::worldBounds(model).size());
    REQUIRE(back.nodes.size() == model.nodes.size());
    CHECK(back.nodes[7].name == model.nodes[7].name);
    CHECK(back.nodes[7].local == model.nodes[7].local);
    CHECK(back.meshes[0]->joints[0].w == 65535);
    CHECK(back.meshes[0]->uvSets[1].empty());
    CHECK(back.images[0]->encoded == model.images[0]->encoded);
    CHECK(back.materials[0].alpha == Material::Alpha::Blend);
    CHECK(back.skins[0].inverseBind[1] == glm::mat4(3));
    CHECK(back.clips[0]->channels[0].curve == Channel::Curve::Step);
    CHECK(back.frame.unit.id == "in");
    CHECK(back.frame.unitAssumed);
    CHECK(back.warnings == model.warnings);
    CHECK(back.files == model.files);
}

TEST_CASE("bytes that end too soon or promise too much are refused, wherever they are cut") {
    const std::string bytes = toBytes(shapes::box({0, 0, 0}, {1, 1, 1}));
    for (std::size_t size = 0; size < bytes.size(); size += 7)
        CHECK_THROWS_AS(modelFromBytes(std::string_view(bytes).substr(0, size)), Error);
    std::string huge = bytes;
    for (int k = 0; k < 8; ++k) huge[k] = '\xff'; // the length of the first text
    CHECK_THROWS_AS(modelFromBytes(huge), Error);
}

TEST_CASE("moving a model moves its colliders, and its nodes stay as they are") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.colliders = {{"c", "box", model.meshes[0]}};
    const Model there = moved(model, glm::translate(glm::dmat4(1.0), {1.0, 2.0, 3.0}));
    CHECK(there.nodes[0].local == model.nodes[0].local);
    CHECK(geometry::worldBounds(there).min == glm::dvec3(1, 2, 3));
    CHECK(geometry::meshBounds(*there.colliders[0].mesh, there.colliders[0].placement).min ==
          glm::dvec3(1, 2, 3));
    CHECK(geometry::worldBounds(model).min == glm::dvec3(0)); // the first is as it was
}

TEST_CASE("another frame replaces what the old one did, and keeps what placing did") {
    Model model = shapes::box({0, 0, 0}, {1, 2, 3});
    model.frame = {unitNamed("m"), Up::Y, true, true};
    model.placement = model.frame.toMetres();
    const Model inches = withFrame(model, {unitNamed("in"), Up::Z, false, false});
    const auto size = geometry::worldBounds(inches).size();
    CHECK(size.x == Approx(0.0254));
    CHECK(size.y == Approx(3 * 0.0254)); // what was Z is up now
    CHECK(size.z == Approx(2 * 0.0254));
    CHECK_FALSE(inches.frame.unitAssumed);
    const Model shifted = moved(model, glm::translate(glm::dmat4(1.0), {0.0, 5.0, 0.0}));
    const Model both = withFrame(shifted, {unitNamed("m"), Up::Y, false, false});
    CHECK(geometry::worldBounds(both).min.y == Approx(5));
}

TEST_CASE("what is used is counted in the order in which it is met") {
    Model model = shapes::modelOf(shapes::sphere(8, 6), "ball");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, 10, 2}, {10, 0, 1}, {10, std::uint32_t(mesh->triangleCount() - 10), -1}};
    model.meshes[0] = mesh;
    model.materials.resize(3);
    model.images.resize(
        3, texture::pictureFromBytes("a.png", texture::encodePng({1, 1, std::vector<std::uint8_t>(4, 7)})));
    model.materials[2].picture(PictureRole::Colour).image = 1;
    model.materials[2].picture(PictureRole::Normal).image = 1;
    model.materials[1].picture(PictureRole::Colour).image = 2; // on no triangle
    auto used = usedMaterials(model);
    std::ranges::sort(used);
    CHECK(used == std::vector<int>{-1, 2});
    CHECK(usedImages(model) == std::vector<int>{1});
    CHECK(objectCount(model) == 1);
    model.nodes.push_back({"twin", -1, glm::dmat4(1.0), 0});
    model.nodes.push_back({"group", -1, glm::dmat4(1.0)});
    CHECK(objectCount(model) == 2);
    CHECK(shownNodes(model) == std::vector<int>{0, 1});
    CHECK(triangleCount(model) == 2 * mesh->triangleCount());
}

TEST_CASE("UVs are placed as glTF's texture transform says: scaled, turned, moved") {
    UvPlacement lie;
    CHECK(lie.isPlain());
    lie.scale = {2, 3};
    lie.offset = {0.5f, 0.25f};
    CHECK_FALSE(lie.isPlain());
    CHECK(lie.of({0.1f, 0.1f}).x == Approx(0.7));
    CHECK(lie.of({0.1f, 0.1f}).y == Approx(0.55));
    lie = {.turn = static_cast<float>(shapes::pi / 2)};
    // KHR_texture_transform turns (u, v) by [cos sin; -sin cos]: (1, 0) goes to (0, -1).
    CHECK(lie.of({1, 0}).x == Approx(0).margin(1e-6));
    CHECK(lie.of({1, 0}).y == Approx(-1));
}

TEST_CASE("a frame in metres is a scale, and for Z up a quarter turn, to the last bit") {
    const auto axis = [](const SourceFrame& frame, int k) { return frame.toMetres()[k]; };
    const SourceFrame z{unitNamed("cm"), Up::Z, false, false}, y{unitNamed("cm"), Up::Y, false, false};
    const double cm = unitNamed("cm").metres;
    CHECK(axis(z, 0) == glm::dvec4(cm, 0, 0, 0));
    CHECK(axis(z, 1) == glm::dvec4(0, 0, -cm, 0)); // the file's y goes away from who looks
    CHECK(axis(z, 2) == glm::dvec4(0, cm, 0, 0));  // its z goes up
    CHECK(axis(z, 3) == glm::dvec4(0, 0, 0, 1));
    CHECK(y.toMetres() == glm::scale(glm::dmat4(1.0), glm::dvec3(cm)));
}
