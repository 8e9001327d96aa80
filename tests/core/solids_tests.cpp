// Parametric solids: volume and area against closed forms, closed whatever their numbers, faces by stable
// numbers.
#include "core/base/error.h"
#include "core/geometry/clean.h"
#include "core/geometry/topology.h"
#include "core/geometry/world.h"
#include "core/solids/solid_mesh.h"

#include <catch2/catch.hpp>
#include <glm/gtc/constants.hpp>

#include <map>
#include <random>
#include <set>

using namespace zl;
using namespace zl::solids;
using solids::Kind;

namespace {

constexpr Kind kinds[] = {Kind::Box, Kind::Cylinder, Kind::Wedge, Kind::Ball, Kind::Tube, Kind::Ring};
const double pi = glm::pi<double>();

double volume(const Shape& shape, int sides = 256) {
    return geometry::signedVolume(meshOf(shape, sides).mesh);
}

double area(const Shape& shape, int sides = 256) {
    const Mesh mesh = meshOf(shape, sides).mesh;
    double out = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a(mesh.positions[mesh.indices[3 * t]]);
        out += glm::length(glm::cross(glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) - a,
                                      glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]]) - a)) /
               2;
    }
    return out;
}

Shape sized(Kind kind, glm::dvec3 size) {
    Shape out;
    out.kind = kind, out.size = size;
    return out;
}

} // namespace

TEST_CASE("each kind has the volume of its closed form, with a gap and hollow too") {
    for (const Kind kind : kinds)
        for (const double hollow : {0.0, 0.3, 0.8})
            for (const double gap : {0.0, 90.0, 200.0}) {
                if (gap > 0 && (kind == Kind::Box || kind == Kind::Wedge)) continue; // a sector of no circle
                Shape shape = sized(kind, {2, 3, 2});
                shape.hollow = hollow, shape.gap = gap, shape.gapFrom = 30;
                CAPTURE(kindNames[std::size_t(kind)], hollow, gap);
                CHECK(volume(shape) == Approx(plainVolume(shape)).epsilon(kind == Kind::Ball ? 2e-3 : 1e-3));
            }
    CHECK(volume(sized(Kind::Box, {2, 3, 4}), 8) == Approx(24));
    CHECK(volume(sized(Kind::Wedge, {2, 3, 4}), 8) == Approx(12));
    Shape quarter = sized(Kind::Box, {2, 3, 4}); // a quarter of a square, corner to corner
    quarter.gap = 90, quarter.gapFrom = 45;
    CHECK(volume(quarter) == Approx(18));
}

TEST_CASE("areas are those of closed forms") {
    CHECK(area(sized(Kind::Box, {2, 3, 4})) == Approx(2 * (6 + 12 + 8)));
    CHECK(area(sized(Kind::Cylinder, {2, 3, 2})) == Approx(2 * pi + 6 * pi).epsilon(1e-3));
    CHECK(area(sized(Kind::Ball, {2, 2, 2})) == Approx(4 * pi).epsilon(1e-3));
    Shape tube = sized(Kind::Tube, {2, 3, 2}); // radii 1 and ½
    CHECK(area(tube) == Approx(2 * pi * 3 * 1.5 + 2 * pi * 0.75).epsilon(1e-3));
    Shape ring = sized(Kind::Ring, {4, 1, 4}); // a circle of ½ about one of 1½
    ring.thick = 0.5;
    CHECK(area(ring) == Approx(4 * pi * pi * 1.5 * 0.5).epsilon(1e-3));
    CHECK(volume(ring) == Approx(2 * pi * pi * 1.5 * 0.25).epsilon(1e-3));
    CHECK(area(sized(Kind::Wedge, {2, 3, 4})) == Approx(8 + 6 + 2 * 5 + 2 * 6.0));
}

TEST_CASE("narrowing, leaning and twisting do what they say") {
    Shape shape = sized(Kind::Box, {2, 3, 2});
    shape.head = {0, 0}; // a pyramid
    CHECK(volume(shape) == Approx(4));
    shape.head = {0.5, 0.5}; // a frustum: h/3 (A + √(A a) + a)
    CHECK(volume(shape) == Approx(3 / 3.0 * (4 + 2 + 1)));
    shape.head = {0, 1}; // a roof
    CHECK(volume(shape) == Approx(6));
    shape.head = {1, 1}, shape.lean = {1.5, -0.5};
    CHECK(volume(shape) == Approx(12)); // Cavalieri
    const auto bounds = geometry::meshBounds(meshOf(shape).mesh);
    CHECK(bounds.size().x == Approx(2 * 2.5));
    CHECK(bounds.size().z == Approx(2 * 1.5));
    shape.lean = {0, 0}, shape.twist = 90;
    CHECK(volume(shape) == Approx(12).epsilon(0.01));
    Shape cone = sized(Kind::Cylinder, {2, 3, 2});
    cone.head = {0, 0};
    CHECK(volume(cone) == Approx(pi).epsilon(1e-3));
    // A square hollow in a round solid keeps within it.
    Shape round = sized(Kind::Cylinder, {2, 1, 2});
    round.hollow = 0.9, round.outline = Outline::Square;
    CHECK(volume(round) == Approx(pi - 2 * 0.81).epsilon(1e-3)); // the largest square in it has √2 sides
}

TEST_CASE("a thousand random solids are closed, face outward and hold no number that is none") {
    std::mt19937 random(21);
    const auto number = [&](double low, double high) {
        return std::uniform_real_distribution<>(low, high)(random);
    };
    const auto maybe = [&](double value, double otherwise) { return random() % 2 ? value : otherwise; };
    for (int round = 0; round < 1000; ++round) {
        Shape shape = sized(kinds[random() % 6], {number(0.02, 50), number(0.02, 50), number(0.02, 50)});
        shape.gap = maybe(number(1, 350), 0), shape.gapFrom = number(-360, 360);
        shape.hollow = maybe(number(0.01, 0.95), 0), shape.outline = Outline(random() % 4);
        shape.thick = number(0.05, 1);
        for (int k = 0; k < 2; ++k) {
            shape.foot[k] = maybe(number(0, 2), random() % 4 ? 1 : 0);
            shape.head[k] = maybe(number(0, 2), random() % 4 ? 1 : 0);
            shape.lean[k] = maybe(number(-1, 1), 0);
        }
        for (int k = 0; k < 2; ++k)
            if (shape.foot[k] < 0.01)
                shape.foot[k] = shape.head[k] < 0.01 || shape.kind == Kind::Wedge ? 1 : 0;
        shape.twist = maybe(number(-720, 720), 0);
        const SolidMesh made = meshOf(shape, 8 + int(random() % 40));
        const auto topology = geometry::topologyOf(made.mesh);
        CAPTURE(round, kindNames[std::size_t(shape.kind)], shape.gap, shape.hollow, shape.twist, shape.foot.x,
                shape.foot.y, shape.head.x, shape.head.y, int(shape.outline), shape.thick);
        REQUIRE(made.faces.size() == made.mesh.triangleCount());
        for (const glm::vec3& p : made.mesh.positions) REQUIRE(std::isfinite(p.x + p.y + p.z));
        CHECK(topology.openEdges == 0);
        CHECK(topology.disagreeingEdges == 0);
        CHECK(geometry::signedVolume(made.mesh) > 0);
    }
}

TEST_CASE("faces keep their numbers") {
    const auto numbers = [](const Shape& shape) {
        const auto made = meshOf(shape, 16);
        return std::set<int>(made.faces.begin(), made.faces.end());
    };
    Shape box = sized(Kind::Box, {1, 1, 1});
    CHECK(numbers(box) == std::set<int>{0, 1, 2, 3, 4, 5});
    box.hollow = 0.5;
    CHECK(numbers(box) == std::set<int>{0, 1, 2, 3, 4, 5, Inside});
    box.gap = 20;
    CHECK(numbers(box) == std::set<int>{0, 1, 2, 3, 4, 5, Inside, GapFrom, GapTo});
    CHECK(numbers(sized(Kind::Ball, {1, 1, 1})) == std::set<int>{FirstSide});
    CHECK(numbers(sized(Kind::Tube, {1, 1, 1})) == std::set<int>{0, 1, FirstSide, Bore});
    CHECK(numbers(sized(Kind::Wedge, {1, 1, 1})) == std::set<int>{0, 2, 3, 4, 5});
    // Side 2 of a box looks to +Z, 3 to +X.
    const auto made = meshOf(sized(Kind::Box, {1, 1, 1}));
    std::map<int, glm::dvec3> looks;
    for (std::size_t t = 0; t < made.faces.size(); ++t) {
        const auto at = [&](std::size_t k) {
            return glm::dvec3(made.mesh.positions[made.mesh.indices[3 * t + k]]);
        };
        looks[made.faces[t]] += glm::cross(at(1) - at(0), at(2) - at(0)) / 2.0;
    }
    CHECK(glm::distance(looks[FirstSide], {0, 0, 1}) < 1e-6);
    CHECK(glm::distance(looks[FirstSide + 1], {1, 0, 0}) < 1e-6);
    CHECK(glm::distance(looks[FootFace], {0, -1, 0}) < 1e-6);
    CHECK(glm::distance(looks[HeadFace], {0, 1, 0}) < 1e-6);
}

TEST_CASE("numbers beyond their ranges are refused by name") {
    const auto problem = [](auto change) {
        Shape shape;
        change(shape);
        try {
            meshOf(shape);
            return std::string();
        } catch (const Error& error) {
            return std::string(error.what());
        }
    };
    const double nan = std::nan("");
    CHECK(problem([](Shape&) {}).empty());
    CHECK(problem([&](Shape& s) { s.size.y = nan; }).find("size") != std::string::npos);
    CHECK(problem([](Shape& s) { s.size.x = 0; }).find("size") != std::string::npos);
    CHECK(problem([](Shape& s) { s.hollow = 1; }).find("hollow") != std::string::npos);
    CHECK(problem([](Shape& s) { s.gap = 360; }).find("gap") != std::string::npos);
    CHECK(problem([&](Shape& s) { s.twist = nan; }).find("twist") != std::string::npos);
    CHECK(problem([](Shape& s) { s.head.x = -1; }).find("head") != std::string::npos);
    CHECK(problem([](Shape& s) { s.head.x = s.foot.x = 0; }).find("both ends") != std::string::npos);
    CHECK(problem([](Shape& s) { s.thick = 0; }).find("thick") != std::string::npos);
}
