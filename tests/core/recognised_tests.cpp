// Boxes, cylinders and balls found in the loose parts of meshes, against the numbers that these were made by.
#include "core/base/error.h"
#include "core/geometry/parts.h"
#include "core/geometry/world.h"
#include "core/solids/nearest_solid.h"
#include "core/solids/recognised.h"
#include "core/solids/scene_model.h"
#include "core/solids/solid_mesh.h"

#include <catch2/catch.hpp>
#include <glm/gtc/constants.hpp>

#include <random>

namespace recognised_tests {

using namespace zl;
using namespace zl::solids;

namespace {

Mesh placed(const Shape& shape, const glm::dvec3& at, const glm::dvec3& turn, int sides = 32) {
    return geometry::transformed(meshOf(shape, sides).mesh, placeOf(at, turn));
}
Shape shaped(solids::Kind kind, const glm::dvec3& size) {
    Shape out;
    out.kind = kind, out.size = size;
    return out;
}
Model modelWith(Mesh mesh) {
    Model out;
    out.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    Node node;
    node.name = "bench", node.mesh = 0;
    out.nodes.push_back(node);
    return out;
}
std::vector<double> sorted(const glm::dvec3& v) {
    std::vector<double> out{v.x, v.y, v.z};
    std::ranges::sort(out);
    return out;
}

} // namespace

TEST_CASE("a turned box far away is found by its own numbers") {
    const glm::dvec3 size(0.4, 1.2, 0.05);
    const Nearest found = nearestSolid(placed(shaped(solids::Kind::Box, size), {40, 3, -80}, {20, 35, 50}));
    CHECK(found.solid.shape.kind == solids::Kind::Box);
    for (int k = 0; k < 3; ++k)
        CHECK(sorted(found.solid.shape.size)[std::size_t(k)] ==
              Approx(sorted(size)[std::size_t(k)]).margin(1e-4));
    CHECK(glm::distance(found.solid.at, glm::dvec3(40, 3, -80)) < 1e-4);
    CHECK(found.error < 1e-4);
}

TEST_CASE("a box that stands level is not turned") {
    const Nearest found = nearestSolid(placed(shaped(solids::Kind::Box, {2, 0.5, 1}), {1, 2, 3}, {}));
    CHECK(glm::length(found.solid.turn) < 1e-6);
    CHECK(glm::distance(found.solid.shape.size, glm::dvec3(2, 0.5, 1)) < 1e-6);
}

TEST_CASE("a lying cylinder of few sides is found, off by as much as its flats lie within the circle") {
    const int sides = 12;
    const Nearest found =
        nearestSolid(placed(shaped(solids::Kind::Cylinder, {0.6, 2, 0.6}), {0, 1, 0}, {0, 25, 90}, sides));
    CHECK(found.solid.shape.kind == solids::Kind::Cylinder);
    CHECK(found.solid.shape.size.y == Approx(2).margin(1e-4));
    CHECK(found.solid.shape.size.x == Approx(0.6).margin(1e-4));
    const double within = 0.3 * (1 - std::cos(glm::pi<double>() / sides));
    CHECK(found.error > 0.5 * within);
    CHECK(found.error < 1.01 * within);
    const glm::dvec3 axis = glm::dmat3(placeOf({}, found.solid.turn))[1],
                     real = glm::dmat3(placeOf({}, {0, 25, 90}))[1];
    CHECK(std::abs(glm::dot(axis, real)) > 1 - 1e-9);
}

TEST_CASE("a ball is one, and what is none of the three says by how much") {
    const Nearest ball =
        nearestSolid(placed(shaped(solids::Kind::Ball, {0.8, 0.8, 0.8}), {0, 4, 0}, {0, 0, 20}));
    CHECK(ball.solid.shape.kind == solids::Kind::Ball);
    CHECK(ball.solid.shape.size.x == Approx(0.8).epsilon(0.01));

    // A tube stood for by a cylinder: the middle of its end is furthest from what there is.
    Shape tube = shaped(solids::Kind::Tube, {1, 1, 1});
    tube.thick = 0.2;
    const Nearest full = nearestSolid(placed(tube, {}, {}));
    CHECK(full.error > 0.3);
    CHECK(full.error < 0.51);
}

TEST_CASE("an open pipe without ends lies along its axis") {
    Mesh pipe = placed(shaped(solids::Kind::Cylinder, {0.1, 3, 0.1}), {}, {40, 10, 0});
    const SolidMesh whole = meshOf(shaped(solids::Kind::Cylinder, {0.1, 3, 0.1}), 32);
    std::vector<std::uint32_t> sidesOnly;
    for (std::size_t t = 0; t < whole.faces.size(); ++t)
        if (whole.faces[t] == FirstSide)
            sidesOnly.insert(sidesOnly.end(), pipe.indices.begin() + long(3 * t),
                             pipe.indices.begin() + long(3 * t + 3));
    pipe.indices = sidesOnly;
    pipe.runs = {{0, std::uint32_t(sidesOnly.size() / 3), -1}};
    const Nearest found = nearestSolid(pipe);
    CHECK(found.solid.shape.kind == solids::Kind::Cylinder);
    CHECK(found.solid.shape.size.y == Approx(3).margin(1e-3));
    CHECK(found.error == Approx(0.05).margin(1e-3)); // the middle of an end that is not there
}

TEST_CASE("scenes of random boxes, cylinders and balls are found again from their triangles") {
    std::mt19937 dice(5);
    std::uniform_real_distribution<double> size(0.05, 2), turn(-90, 90), step(0, 1);
    for (int round = 0; round < 20; ++round) {
        Scene scene;
        for (int k = 1; k <= 20; ++k) {
            Solid& solid = scene.solids[k];
            const double a = size(dice), b = size(dice), c = size(dice);
            solid.shape.kind = k % 3 == 0   ? solids::Kind::Box
                               : k % 3 == 1 ? solids::Kind::Cylinder
                                            : solids::Kind::Ball;
            solid.shape.size = k % 3 == 0   ? glm::dvec3(a, b, c)
                               : k % 3 == 1 ? glm::dvec3(a, b, a)
                                            : glm::dvec3(a);
            solid.at = glm::dvec3(5.0 * k, size(dice), step(dice)),
            solid.turn = {turn(dice), turn(dice), turn(dice)};
            solid.look.colour = glm::vec3(k / 255.0f, 0.2f, 0.4f);
        }
        const auto found = recognisedIn(modelOf(scene, "yard"));
        REQUIRE(found.size() == 20);
        for (std::size_t k = 0; k < 20; ++k) {
            const Solid& was = scene.solids.at(int(k) + 1);
            CAPTURE(round, k, was.shape.size.x, was.shape.size.y, was.shape.size.z);
            CHECK(found[k].solid.shape.kind == was.shape.kind);
            // Edges around what is round stand elsewhere: off by what their flats lie within.
            const double flat = 1 - std::cos(glm::pi<double>() / 32);
            const double most = was.shape.kind == solids::Kind::Box ? 1e-4
                                : was.shape.kind == solids::Kind::Cylinder
                                    ? 1.1 * flat * was.shape.size.x / 2
                                    : 2.2 * flat * was.shape.size.x / 2;
            CHECK(found[k].error < most + 1e-4);
            CHECK(glm::distance(found[k].solid.at, was.at) < 1e-3);
            CHECK(glm::distance(found[k].solid.look.colour, was.look.colour) < 0.004f);
        }
        demandScene(sceneOf(found));
    }
}

TEST_CASE("an object of several parts is a group; what encloses nothing and holds no numbers does no harm") {
    Mesh two = placed(shaped(solids::Kind::Box, {1, 1, 1}), {}, {});
    const Mesh other = placed(shaped(solids::Kind::Box, {1, 1, 1}), {3, 0, 0}, {});
    const auto shift = std::uint32_t(two.vertexCount());
    for (const std::uint32_t i : other.indices) two.indices.push_back(i + shift);
    two.positions.insert(two.positions.end(), other.positions.begin(), other.positions.end());
    two.normals.clear(), two.uvSets.clear();
    const float nan = std::nanf("");
    for (const glm::vec3& p : {glm::vec3(9, 0, 0), glm::vec3(9, 1, 0), glm::vec3(9, 2, 0),    // a line
                               glm::vec3(20, 0, 0), glm::vec3(20, 1, 0), glm::vec3(20, 0, 1), // one triangle
                               glm::vec3(30), glm::vec3(30), glm::vec3(30),                   // a point
                               glm::vec3(nan), glm::vec3(40, 1, 0), glm::vec3(40, 0, 1)}) {
        two.indices.push_back(std::uint32_t(two.positions.size()));
        two.positions.push_back(p);
    }
    two.runs = {{0, std::uint32_t(two.indices.size() / 3), -1}};
    const auto found = recognisedIn(modelWith(two));
    REQUIRE(found.size() >= 4);
    for (const Recognised& one : found) {
        CAPTURE(one.part);
        CHECK(std::isfinite(one.error));
        CHECK(std::isfinite(one.share));
    }
    const Scene scene = sceneOf(found);
    demandScene(scene);
    REQUIRE(scene.groups.size() == 1);
    CHECK(scene.groups.begin()->second.name == "bench");
    CHECK(found[0].part == "bench-1");
    CHECK(sceneOf(std::vector{found[0]}).groups.empty());
}

} // namespace recognised_tests
