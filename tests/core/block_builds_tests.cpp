// A model as a build of blocks: all of its objects, in one piece, on a centre line, thin parts of one block,
// painted; and what the step says of it.
#include "core/base/error.h"
#include "core/blocks/greedy_mesh.h"
#include "core/blocks/made.h"
#include "core/blocks/paint.h"
#include "core/blocks/pieces.h"
#include "core/geometry/clean.h"
#include "core/geometry/world.h"
#include "core/platform/check.h"
#include "core/texture/perceived.h"
#include "support/ran_step.h"
#include "support/shapes.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>
#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <random>
#include <set>

using namespace zl;
using namespace zl::blocks;
using nlohmann::json;

namespace {

Wanted plain(double value, Size::By by = Size::By::Blocks, int axis = 2) {
    Wanted out;
    out.size = {by, axis, value};
    out.wall = 0;
    return out;
}

Model ofBoxes(const std::vector<std::pair<glm::dvec3, glm::dvec3>>& boxes) {
    Model out;
    for (const auto& [low, high] : boxes) {
        out.nodes.push_back({"box", -1, glm::dmat4(1), int(out.meshes.size())});
        out.meshes.push_back(std::make_shared<const Mesh>(geometry::boxMesh(low, high)));
    }
    return out;
}

/// A model as if its world were turned.
Model turned(Model model, const glm::dvec3& about, double angle) {
    return moved(std::move(model), glm::rotate(glm::dmat4(1), angle, glm::normalize(about)));
}

/// Without every so-manieth triangle.
Model holed(const Model& model, std::size_t every) {
    Model out = model;
    for (auto& mesh : out.meshes) {
        Mesh left = *mesh;
        left.indices.clear();
        for (std::size_t t = 0; t < mesh->triangleCount(); ++t)
            if (t % every != 0)
                left.indices.insert(left.indices.end(), &mesh->indices[3 * t], &mesh->indices[3 * t] + 3);
        left.runs = {{0, std::uint32_t(left.triangleCount()), -1}};
        mesh = std::make_shared<const Mesh>(left);
    }
    return out;
}

std::size_t across(const Build& build, int axis) {
    std::set<int> layers;
    for (std::size_t i = 0; i < build.cellCount(); ++i)
        if (build.isThere(i)) layers.insert(cellIn(build.size(), i)[axis]);
    return layers.size();
}

} // namespace

TEST_CASE("a size is so many blocks, so many metres or so many times as large") {
    const Model box = shapes::box({-1, 0, -2.5}, {1, 1.5, 2.5}); // 2 × 1.5 × 5 m
    for (const auto& [wanted, factor] : {std::pair(plain(20), 1.0),
                                         {plain(40), 2.0},
                                         {plain(10, Size::By::Metres), 2.0},
                                         {plain(0.5, Size::By::Factor), 0.5},
                                         {plain(12, Size::By::Blocks, 1), 2.0}}) {
        Wanted now = wanted;
        now.edge = 0.25;
        const Made made = blocks::made(box, now);
        CAPTURE(wanted.size.value);
        CHECK(made.factor == Approx(factor));
        CHECK(made.hull.build.size().z == int(20 * factor));
        CHECK(made.hull.build.size().y == int(6 * factor));
        CHECK(made.hull.build.size().x % 2 == 1); // 8 across leave no block for the centre line
        CHECK(made.hull.first.x == -made.hull.build.size().x / 2);
    }
    Wanted none = plain(0);
    CHECK_THROWS_AS(blocks::made(box, none), Error);
    none = plain(1e9, Size::By::Factor);
    CHECK_THROWS_AS(blocks::made(box, none), Error);
    CHECK_THROWS_AS(blocks::made(Model(), plain(10)), Error);
}

TEST_CASE("all objects of a model are in its build") {
    std::vector<std::pair<glm::dvec3, glm::dvec3>> boxes;
    for (int i = 0; i < 12; ++i) {
        const glm::dvec3 low(3 * (i % 3) - 3, 2 * (i / 6), 3 * (i / 3 % 2));
        boxes.emplace_back(low, low + 1.0);
    }
    Wanted wanted = plain(4, Size::By::Metres);
    wanted.edge = 0.25, wanted.strays = 0;
    const Made made = blocks::made(ofBoxes(boxes), wanted);
    CHECK(made.objects == 12);
    CHECK(piecesOf(made.hull.build).blocks.size() == 12);
    // Each is four blocks high and long; those in the middle take five columns, half of the outer ones full.
    CHECK(volumeOf(made.hull.build) == Approx(12 * 64).margin(12 * 16));
}

TEST_CASE("both sides are exactly alike, about the plane that was found, with one block on it") {
    for (int round = 0; round < 12; ++round) {
        std::mt19937 random{unsigned(round)};
        const auto number = [&](double low, double high) {
            return std::uniform_real_distribution<>(low, high)(random);
        };
        const double plane = number(-3, 3);
        std::vector<std::pair<glm::dvec3, glm::dvec3>> boxes{
            {{plane - number(0.4, 1), 0, -3}, {plane, 1, 3}}};
        boxes[0].second.x = 2 * plane - boxes[0].first.x;
        for (const double side : {-1.0, 1.0}) {
            const double near = plane + side * 0.3, far = plane + side * 2;
            boxes.push_back({{std::min(near, far), 0.3, -1}, {std::max(near, far), 0.7, 0.5}});
        }
        Wanted wanted = plain(number(20, 50));
        wanted.edge = 0.25, wanted.slopes = Slopes(round % 3);
        const Made made = blocks::made(ofBoxes(boxes), wanted);
        CAPTURE(round, plane);
        CHECK(made.plane == Approx(plane).margin(0.02));
        CHECK(made.unlike < 0.02);
        CHECK(isSymmetric(made.hull.build));
        CHECK(made.hull.build.size().x % 2 == 1);
    }
}

TEST_CASE("what was one piece stays one, turned and with holes in it, and is hollow without being open") {
    std::mt19937 random(7);
    const auto number = [&](double low, double high) {
        return std::uniform_real_distribution<>(low, high)(random);
    };
    for (int round = 0; round < 100; ++round) {
        Model model = round % 2
                          ? shapes::modelOf(shapes::sphere(32, 17, 1))
                          : ofBoxes({{{-0.8, -0.5, -2}, {0.8, 0.5, 2}}, {{-2, -0.15, -0.5}, {2, 0.15, 0.5}}});
        model = turned(std::move(model), {number(-1, 1), number(-1, 1), number(0.1, 1)}, number(0, 3));
        if (round % 3 == 0) model = holed(model, 23);
        Wanted wanted = plain(number(12, 40));
        wanted.slopes = Slopes(round / 3 % 3);
        wanted.wall = round % 4 == 1 ? 1 : 0;
        if (round % 5 == 0) wanted.halves.reset();
        const Made made = blocks::made(model, wanted);
        CAPTURE(round);
        CHECK(piecesOf(made.hull.build).blocks.size() == 1);
        CHECK(made.strays.empty());
    }
}

TEST_CASE("a wing is one block thick, also where it climbs, and holds together") {
    for (const double climb : {0.0, 0.12, 0.3, 0.6}) {
        Model model = shapes::box({-0.5, 0, -2}, {0.5, 1, 2});
        for (const double side : {-1.0, 1.0}) {
            // Thinner than a third of a block.
            Model wing = shapes::box({0, -0.04, -0.8}, {3, 0.04, 0.8});
            wing = moved(wing, glm::rotate(glm::translate(glm::dmat4(1), {0, 0.5, 0}),
                                           side > 0 ? climb : glm::pi<double>() - climb, {0, 0, 1}));
            model.nodes.push_back({"wing", -1, wing.placement, int(model.meshes.size())});
            model.meshes.push_back(wing.meshes[0]);
        }
        Wanted wanted = plain(1, Size::By::Factor);
        wanted.edge = 0.25;
        const Made made = blocks::made(model, wanted);
        CAPTURE(climb);
        CHECK(piecesOf(made.hull.build).blocks.size() == 1);
        CHECK(isSymmetric(made.hull.build));
        // Away from the body and from steps every column holds one block of the wing.
        const Build& build = made.hull.build;
        std::size_t columns = 0, of = 0;
        for (int x = 0; x < build.size().x; ++x) {
            if (std::abs(x + made.hull.first.x) < 4 || std::abs(x + made.hull.first.x) > 10) continue;
            for (int z = 0; z < build.size().z; ++z) {
                std::size_t here = 0;
                for (int y = 0; y < build.size().y; ++y) here += build.at({x, y, z}) != nullptr;
                columns += here > 0, of += here;
            }
        }
        CHECK(columns > 60);
        CHECK(double(of) <= (climb == 0 ? 1.0 : 2.0) * double(columns)); // a step has a slope beneath it
    }
    // Left to its volume, the same wing is too thin for any block.
    Model thin = shapes::box({-0.5, 0, -2}, {0.5, 1, 2});
    thin.nodes.push_back({"wing", -1, glm::dmat4(1), 1});
    thin.meshes.push_back(std::make_shared<const Mesh>(geometry::boxMesh({-3, 0.46, -0.8}, {3, 0.54, 0.8})));
    Wanted wanted = plain(1, Size::By::Factor);
    wanted.edge = 0.25, wanted.thin.below = 0;
    CHECK(blocks::made(thin, wanted).hull.build.size().x == 5);
    wanted.thin.below = 1.25;
    CHECK(blocks::made(thin, wanted).hull.build.size().x == 25);
}

TEST_CASE("which side a thin part takes is asked for") {
    // A fin from 1.2 to 1.9 blocks beside the middle, and one below it.
    Model model = shapes::box({-2, 0, -4}, {2, 2, 4});
    const auto add = [&](glm::dvec3 low, glm::dvec3 high) {
        model.nodes.push_back({"fin", -1, glm::dmat4(1), int(model.meshes.size())});
        model.meshes.push_back(std::make_shared<const Mesh>(geometry::boxMesh(low, high)));
    };
    add({1.2, 1.5, -3}, {1.9, 7, 3}); // columns 1 (0.5–1.5) and 2 (1.5–2.5)
    for (const auto& [side, column] :
         {std::pair(ThinSide::Nearest, 2), {ThinSide::Outward, 2}, {ThinSide::Inward, 1}}) {
        Wanted wanted = plain(1, Size::By::Factor);
        wanted.halves.reset(), wanted.plane = 0, wanted.thin = {1.25, side};
        const Made made = blocks::made(model, wanted);
        for (const int x : {1, 2}) CHECK((made.hull.at({x, 4, 4}) != nullptr) == (x == column));
    }
}

TEST_CASE("a surface that encloses nothing becomes one block thick, a closed one with a hole is filled") {
    Mesh sheet;
    for (int i = 0; i <= 20; ++i)
        for (int j = 0; j <= 20; ++j)
            sheet.positions.emplace_back(0.4f * float(i) - 4, 0.5f * std::sin(0.3f * float(i)),
                                         0.4f * float(j) - 4);
    for (std::uint32_t i = 0; i < 20; ++i)
        for (std::uint32_t j = 0; j < 20; ++j) {
            const std::uint32_t a = 21 * i + j, b = a + 1, c = a + 21, d = c + 1;
            sheet.indices.insert(sheet.indices.end(), {a, b, c, b, d, c});
        }
    sheet.runs = {{0, std::uint32_t(sheet.triangleCount()), -1}};
    Wanted wanted = plain(1, Size::By::Factor);
    wanted.edge = 0.5, wanted.halves.reset(), wanted.slopes = Slopes::None;
    const Made flat = blocks::made(shapes::modelOf(sheet), wanted);
    CHECK(flat.sheets == 1);
    CHECK(piecesOf(flat.hull.build).blocks.size() == 1);
    CHECK(across(flat.hull.build, 0) >= 16);
    CHECK(flat.hull.build.count() >= 16 * 16);
    CHECK(flat.hull.build.count() <= 17 * 17 + 3 * 17); // bridges where it steps up and down

    wanted.edge = 0.1;
    const Made ball = blocks::made(holed(shapes::modelOf(shapes::sphere(48, 25, 1)), 31), wanted);
    CHECK(ball.sheets == 0);
    CHECK(ball.unsure > 0);
    CHECK(volumeOf(ball.hull.build) * 0.001 == Approx(4 / 3.0 * glm::pi<double>()).epsilon(0.05));
}

TEST_CASE("braces are what runs inside, and stay where they are asked for") {
    const Model model = ofBoxes({{{-3, 0, -6}, {3, 6, 6}}, {{-2.9, 2.9, -5.9}, {2.9, 3.1, 5.9}}}); // a deck
    Wanted wanted = plain(1, Size::By::Factor);
    wanted.edge = 0.5, wanted.wall = 1;
    const Made empty = blocks::made(model, wanted);
    wanted.braces = true;
    const Made braced = blocks::made(model, wanted);
    CHECK(empty.hull.at({0, 5, 12}) == nullptr);
    CHECK(empty.hull.at({0, 6, 12}) == nullptr);
    CHECK((braced.hull.at({0, 5, 12}) || braced.hull.at({0, 6, 12})));
    CHECK(braced.hull.at({0, 3, 12}) == nullptr);
    CHECK(piecesOf(braced.hull.build).blocks.size() == 1);
}

TEST_CASE("strays are dropped, each with its place") {
    Wanted wanted = plain(1, Size::By::Factor);
    wanted.strays = 10;
    const Model model = ofBoxes({{{-3.5, 0, 0}, {3.5, 4, 9}}, {{-0.5, 8, 3}, {0.5, 9, 5}}});
    const Made made = blocks::made(model, wanted);
    REQUIRE(made.strays.size() == 1);
    CHECK(made.strays[0].blocks == 2);
    CHECK(made.strays[0].at.y == Approx(8.5));
    CHECK(made.hull.build.size().y == 4);
    wanted.strays = 2;
    CHECK(blocks::made(model, wanted).hull.build.size().y == 9);
}

TEST_CASE("blocks get the paint that looks most like what they are made of") {
    // Published values: white and the primaries in Oklab (Ottosson 2020).
    const auto near = [](glm::vec3 a, glm::vec3 b) { return glm::distance(a, b) < 2e-3f; };
    CHECK(near(texture::perceived({1, 1, 1}), {1, 0, 0}));
    CHECK(near(texture::perceived({1, 0, 0}), {0.628f, 0.225f, 0.126f}));
    CHECK(near(texture::perceived({0, 0, 1}), {0.452f, -0.032f, -0.312f}));

    const std::vector<Paint> paints{
        {"red", {0.7f, 0.15f, 0.1f}}, {"green", {0.2f, 0.5f, 0.25f}}, {"white", {1, 1, 1}}};
    const PaintBox box(paints);
    CHECK(box.nearest({0.9f, 0.85f, 0.8f}) == 2);
    CHECK(box.nearest({0.3f, 0.02f, 0.02f}) == 0);
    CHECK(PaintBox({}).nearest({1, 1, 1}) == 0);

    Model model = ofBoxes({{{-2.5, 0, 0}, {2.5, 3, 6}}, {{-2.5, 3, 0}, {2.5, 6, 6}}});
    model.materials = {{.name = "a", .baseColour = {0.4f, 0.02f, 0.02f, 1}},
                       {.name = "b", .baseColour = {0.03f, 0.2f, 0.05f, 1}}};
    for (int i = 0; i < 2; ++i) {
        Mesh mesh = *model.meshes[std::size_t(i)];
        mesh.runs[0].material = i;
        model.meshes[std::size_t(i)] = std::make_shared<const Mesh>(mesh);
    }
    Wanted wanted = plain(1, Size::By::Factor);
    wanted.paints = paints;
    const Made made = blocks::made(model, wanted);
    CHECK(made.hull.at({2, 1, 3})->colour == 0);
    CHECK(made.hull.at({2, 4, 3})->colour == 1);
    CHECK(made.hull.at({0, 5, 3})->colour == 1);
    CHECK(made.hull.at({0, 1, 3})->colour == 0); // inside: as what is around it
}

TEST_CASE("few rectangles show a build, with the faces of its blocks and no others") {
    std::mt19937 random(3);
    for (int round = 0; round < 20; ++round) {
        Hull hull;
        hull.edge = 0.5, hull.build = Build({7, 6, 8}), hull.first = {-3, 0, 0};
        hull.paints = {{"a", {1, 1, 1}}, {"b", {0, 0, 0}}};
        for (int x = 0; x < 7; ++x)
            for (int y = 0; y < 6; ++y)
                for (int z = 0; z < 8; ++z)
                    if (random() % 3 > 0 && (round % 2 == 0 || (x + y + z) % 2 == 0)) // slopes by themselves
                        hull.build.put({x, y, z}, {blocks::Kind(round % 2 ? random() % 4 : 0),
                                                   Turn(random() % 24), std::uint8_t(random() % 2)});
        const Mesh mesh = greedyMesh(hull);
        // Faces between two blocks cancel out, so that the volume is that of all blocks.
        CHECK(geometry::signedVolume(mesh) == Approx(volumeOf(hull.build) * 0.125).epsilon(1e-4));
    }
    Hull solid;
    solid.build = Build({96, 64, 160});
    for (std::size_t i = 0; i < solid.build.cellCount(); ++i)
        solid.build.put(cellIn(solid.build.size(), i), {});
    CHECK(greedyMesh(solid).triangleCount() == 12);
}

TEST_CASE("the step says what came of it, keeps its place and its scale, and the rules see it") {
    const auto hullyard = sheet("hullyard");
    Model model = shapes::box({-1, 0.5, -2.5}, {1, 2, 2.5});
    model.clips = {std::make_shared<const Clip>()};
    const auto made = ranStep(model, "build-of-blocks", {{"by", "factor"}, {"factor", 2}}, hullyard.get());
    const Hull* hull = hullOf(made.model);
    REQUIRE(hull);
    CHECK(made.facts["size"] == json({17, 12, 40}));
    CHECK(made.facts["metres"] == json({4.25, 3.0, 10.0}));
    CHECK(made.facts["components"] == 1);
    CHECK(made.facts["symmetric"] == true);
    CHECK(made.facts["count"] == hull->build.count());
    CHECK(geometry::worldBounds(made.model).min.y == Approx(1.0)); // twice as high up
    CHECK(geometry::worldBounds(made.model).centre().z == Approx(0).margin(1e-6));
    CHECK(made.model.travelled[0][0] == 2);
    CHECK(made.model.clips.empty());
    CHECK(std::ranges::any_of(made.notes, [](const auto& note) { return note.find("1 clip") != note.npos; }));
    for (const auto& rule : platform::check(made.model, *hullyard).rules)
        if (rule.severity == platform::Severity::Must) {
            CAPTURE(rule.id, rule.finding.note);
            CHECK(rule.finding.holds);
        }
    // What is changed in another way is no build any more.
    Model other = made.model;
    Mesh mesh = *other.meshes[0];
    other.meshes[0] = std::make_shared<const Mesh>(mesh);
    CHECK(hullOf(other) == nullptr);
    for (const auto& rule : platform::check(other, *hullyard).rules)
        if (rule.id == "block-count") CHECK_FALSE(rule.finding.holds);
}

TEST_CASE("rules of builds tell what is wrong, each by itself") {
    const auto hullyard = sheet("hullyard");
    const auto broken = [&](const Build& build) {
        Hull hull;
        hull.edge = 0.25, hull.build = build;
        std::set<std::string> out;
        for (const auto& rule : platform::check(modelOf(hull, "x"), *hullyard).rules)
            if (!rule.finding.holds && rule.id != "unit" && rule.id != "heading") out.insert(rule.id);
        return out;
    };
    const auto full = [](glm::ivec3 size) {
        Build out(size);
        for (std::size_t i = 0; i < out.cellCount(); ++i) out.put(cellIn(size, i), {});
        return out;
    };
    using Ids = std::set<std::string>;
    CHECK(broken(full({3, 2, 5})) == Ids{});
    CHECK(broken(full({3, 3, 5})) == Ids{"hollow"});
    CHECK(broken(full({4, 2, 5})) == Ids{"centre-line"});
    CHECK(broken(full({3, 2, 161})) == Ids{"block-bounds"});
    CHECK(broken(full({95, 2, 60})) == Ids{"block-count"});
    Build lopsided = full({3, 2, 5});
    lopsided.take({0, 1, 2});
    CHECK(broken(lopsided) == Ids{"symmetric"});
    Build apart = full({3, 2, 5});
    for (int x = 0; x < 3; ++x)
        for (int y = 0; y < 2; ++y) apart.take({x, y, 2});
    CHECK(broken(apart) == Ids{"one-piece"});
    CHECK(broken(Build({3, 3, 3})).size() >= 5);
}
