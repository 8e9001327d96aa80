// Poses: nodes, bones and morph targets at a moment, by hand, and the flattened mesh that follows them.
#include "core/geometry/world.h"
#include "core/motion/posed.h"
#include "support/rich_model.h"

#include <catch2/catch.hpp>

using namespace zl;
using Target = Channel::Target;
using Curve = Channel::Curve;

namespace {

/// A bar from (0,0,0) to (0,2,0) of three corners; the upper two hang on a joint at (0,1,0).
Model bar() {
    Mesh mesh;
    mesh.positions = {{0, 0, 0}, {0, 1, 0}, {0, 2, 0}};
    mesh.normals = {{0, 0, 1}, {0, 0, 1}, {0, 0, 1}};
    mesh.indices = {0, 1, 2};
    mesh.joints = {{0, 0, 0, 0}, {1, 0, 0, 0}, {1, 0, 0, 0}};
    mesh.weights = {{1, 0, 0, 0}, {1, 0, 0, 0}, {1, 0, 0, 0}};
    Model model = shapes::modelOf(mesh, "bar");
    model.nodes.push_back({"hip", -1, glm::dmat4(1.0)});
    model.nodes.push_back({"knee", 1, glm::translate(glm::dmat4(1.0), {0.0, 1.0, 0.0})});
    model.skins.push_back(
        {"leg", {1, 2}, {glm::mat4(1), glm::translate(glm::mat4(1), glm::vec3(0, -1, 0))}, 1});
    model.nodes[0].skin = 0;
    // The knee turns by 90° about X in a second.
    const float h = std::sqrt(0.5f);
    model.clips.push_back(std::make_shared<const Clip>(
        Clip{"bend", {{2, Target::Rotation, Curve::Linear, {0, 1}, {0, 0, 0, 1, h, 0, 0, h}}}}));
    return model;
}

Mesh at(const Model& model, double seconds) {
    Mesh mesh = geometry::flattened(model);
    motion::poseFlattened(model, motion::posed(model, *model.clips[0], seconds), mesh);
    return mesh;
}

bool near(const glm::vec3& a, const glm::vec3& b) {
    return glm::distance(a, b) < 1e-5f;
}

} // namespace

TEST_CASE("a bone that turns takes what hangs on it along, normals too") {
    const Model model = bar();
    CHECK(motion::lengthOf(*model.clips[0]) == 1);
    CHECK(motion::keysOf(*model.clips[0]) == 2);
    const Mesh rest = at(model, 0), bent = at(model, 1), half = at(model, 0.5), after = at(model, 9);
    CHECK(near(rest.positions[2], {0, 2, 0}));
    CHECK(near(bent.positions[0], {0, 0, 0}));
    CHECK(near(bent.positions[1], {0, 1, 0}));
    CHECK(near(bent.positions[2], {0, 1, 1})); // +Y turns to +Z about +X
    CHECK(near(bent.normals[2], {0, -1, 0}));
    CHECK(near(half.positions[2], {0, 1 + std::sqrt(0.5f), std::sqrt(0.5f)}));
    CHECK(after.positions == bent.positions);
}

TEST_CASE("a skinned mesh follows its bones and not its node, and is placed as a whole") {
    Model model = bar();
    model.nodes[0].local = glm::translate(glm::dmat4(1.0), {5.0, 0.0, 0.0});
    CHECK(near(at(model, 1).positions[2], {0, 1, 1}));
    const Model twice = moved(model, glm::scale(glm::dmat4(1.0), glm::dvec3(2)));
    CHECK(near(at(twice, 1).positions[2], {0, 2, 2}));
}

TEST_CASE("corners without weights stay with their node; weights that are no whole are made one") {
    Model model = bar();
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->weights[1] = glm::vec4(0);
    mesh->weights[2] = glm::vec4(0.5f, 0, 0, 0);
    model.meshes[0] = mesh;
    const Mesh bent = at(model, 1);
    CHECK(near(bent.positions[1], {0, 1, 0}));
    CHECK(near(bent.positions[2], {0, 1, 1}));
}

TEST_CASE("morph targets are added before bones") {
    Model model = bar();
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->morphs.push_back({"longer", {{0, 0, 0}, {0, 0, 0}, {0, 1, 0}}, {}});
    model.meshes[0] = mesh;
    auto clip = std::make_shared<Clip>(*model.clips[0]);
    clip->channels.push_back({0, Target::Weights, Curve::Linear, {0, 1}, {0, 1}});
    model.clips[0] = clip;
    CHECK(near(at(model, 1).positions[2], {0, 1, 2}));
    CHECK(near(at(model, 0).positions[2], {0, 2, 0}));
}

TEST_CASE("nodes below one that moves move along") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.nodes[0].parent = -1;
    model.nodes.insert(model.nodes.begin(), {"arm", -1, glm::dmat4(1.0)});
    model.nodes[1].parent = 0;
    model.clips.push_back(std::make_shared<const Clip>(
        Clip{"lift", {{0, Target::Translation, Curve::Step, {0, 1}, {0, 0, 0, 0, 3, 0}}}}));
    CHECK(geometry::meshBounds(at(model, 0.99)).max.y == Approx(1));
    CHECK(geometry::meshBounds(at(model, 1)).max.y == Approx(4));
}

TEST_CASE("a rich model and a clip that animates nothing take any moment") {
    Model model = richModel();
    for (const double seconds : {-1.0, 0.0, 0.3, 1.0, 1e9}) {
        const Mesh mesh = at(model, seconds);
        for (const auto& p : mesh.positions) CHECK(std::isfinite(p.x + p.y + p.z));
    }
    model.clips[0] = std::make_shared<const Clip>(Clip{"nothing", {}});
    CHECK(motion::lengthOf(*model.clips[0]) == 0);
    at(model, 0.5);
}

TEST_CASE("coarser copies and differently placed pictures are posed as they are flattened") {
    Mesh square; // of two triangles, the first's picture moved: the corners between them are parted
    square.positions = {
        {0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {5, 5, 5}}; // one corner that nothing uses
    square.uvSets = {{{0, 0}, {1, 0}, {1, 1}, {0, 1}, {0, 0}}};
    square.indices = {0, 1, 2, 0, 2, 3};
    square.runs = {{0, 1, 0}, {1, 1, 1}};
    Model model;
    model.materials.resize(2);
    for (Material& material : model.materials) material.wear(PictureRole::Colour, {.image = 0});
    model.materials[0].picture(PictureRole::Colour).placement.offset = {0.5f, 0};
    model.meshes = {std::make_shared<const Mesh>(shapes::sphere(12, 8)),
                    std::make_shared<const Mesh>(square)};
    model.nodes = {{"coarse", -1, glm::dmat4(1.0), 0},
                   {"cloth", -1, glm::dmat4(1.0), 1},
                   {"again", -1, glm::dmat4(1.0), 1}};
    model.nodes[0].level = 1;
    const Mesh flat = geometry::flattened(model);
    Mesh posed = flat;
    std::ranges::fill(posed.positions, glm::vec3(9));
    motion::poseFlattened(model, motion::posed(model, Clip{}, 0), posed);
    REQUIRE(posed.positions.size() == flat.positions.size());
    for (std::size_t i = 0; i < flat.positions.size(); ++i)
        CHECK(glm::distance(posed.positions[i], flat.positions[i]) < 1e-6f);
}
