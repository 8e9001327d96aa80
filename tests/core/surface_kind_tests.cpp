// What faces are made of: painted, carried along by what rebuilds meshes, taken over by bodies, and ruled on.
#include "core/contact/body_mesh.h"
#include "core/contact/surfaces.h"
#include "core/geometry/world.h"
#include "core/model/model_bytes.h"
#include "core/model/promises.h"
#include "core/platform/check.h"
#include "support/companions.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;
using nlohmann::json;

namespace {

/// A sheet with so many kinds called k0, k1 …, wood and stone among them by their hints.
platform::Sheet kindsSheet(int more = 0, const std::string& rule = "id = \"surfaces-set\"\n") {
    std::string text = rule;
    text +=
        "[[surface]]\nname = \"stone\"\ncolour = \"#8d8f88\"\nhatch = \"crossed\"\nhints = [\"paving\"]\n";
    text += "[[surface]]\nname = \"wood\"\ncolour = \"#a07040\"\nsound = \"knock\"\ngrip = 0.8\n";
    for (int k = 0; k < more; ++k)
        text += fmt::format("[[surface]]\nname = \"k{}\"\ncolour = \"#102030\"\n", k);
    return sheetWith(text);
}

/// The kind of each shown triangle by name, keyed by where its middle is to a hundredth of a millimetre.
std::map<std::array<long, 3>, std::string> kindsByPlace(const Model& model, const Mesh& mesh) {
    std::map<std::array<long, 3>, std::string> out;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        glm::dvec3 middle(0);
        for (std::size_t k = 0; k < 3; ++k)
            middle += glm::dvec3(mesh.positions[mesh.indices[3 * t + k]]) / 3.0;
        const int kind = mesh.surfaces.empty() ? -1 : mesh.surfaces[t];
        out[{std::lround(middle.x * 1e5), std::lround(middle.y * 1e5), std::lround(middle.z * 1e5)}] =
            kind < 0 ? "" : model.surfaceKinds[std::size_t(kind)];
    }
    return out;
}

/// A ball whose faces are of random kinds, some of none.
Model spottedBall(int kinds, unsigned seed) {
    Model ball = shapes::modelOf(shapes::sphere(24, 16), "ball");
    std::mt19937 random(seed);
    Mesh mesh = *ball.meshes[0];
    for (int k = 0; k < kinds; ++k) surfaceKindIn(ball, fmt::format("k{}", k));
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
        mesh.surfaces.push_back(std::int16_t(int(random() % unsigned(kinds + 1)) - 1));
    ball.meshes[0] = std::make_shared<const Mesh>(std::move(mesh));
    return ball;
}

json facesUpTo(double height) {
    return json::array({{{"box", {{"least", {-9, -9, -9}}, {"most", {9, height, 9}}}}}});
}

} // namespace

TEST_CASE("what a triangle wears goes into one number and comes out of it") {
    for (const int material : {-1, 0, 1, 7, 4000})
        for (const int surface : {-1, 0, 1, 23, mostSurfaceKinds - 1}) {
            CHECK(materialOf(wearOf(material, surface)) == material);
            CHECK(surfaceOf(wearOf(material, surface)) == surface);
        }
    CHECK(wearOf(1, mostSurfaceKinds - 1) < wearOf(2, -1)); // materials stay together when sorted
    CHECK(Wear{} == wearOf(-1));
}

TEST_CASE("faces are of a kind: all, some, or by what they wear") {
    const auto sheet = kindsSheet();
    const Model box = shapes::box({-1, 0, -1}, {1, 2, 1});
    const auto all = ranStep(box, "surface-kind", {{"kind", "wood"}}, &sheet);
    CHECK(all.facts["kinds"] == json{{"wood", 12}});
    CHECK(all.facts["unset"] == 0);
    CHECK(platform::check(all.model, sheet).fits());
    CHECK_FALSE(platform::check(box, sheet).fits());

    SECTION("some of them, and the rest stays as it was") {
        const auto some =
            ranStep(all.model, "surface-kind", {{"kind", "stone"}, {"faces", facesUpTo(0.1)}}, &sheet);
        CHECK(some.facts["kinds"] == json{{"stone", 2}, {"wood", 10}}); // the bottom is two triangles
    }
    SECTION("by material, with what names say as an offer and never by itself") {
        Model worn = box;
        worn.materials.resize(2);
        worn.materials[0].name = "Paving 3", worn.materials[1].name = "old wood";
        Mesh mesh = *box.meshes[0];
        std::vector<int> materials(12, 0);
        for (std::size_t t = 4; t < 12; ++t) materials[t] = 1;
        dress(mesh, wearOf(materials));
        worn.meshes[0] = std::make_shared<const Mesh>(mesh);
        const auto none = ranStep(worn, "surface-kind", {{"by", "materials"}}, &sheet);
        CHECK(none.facts["unset"] == 12);
        REQUIRE(none.facts["offers"].size() == 1);
        CHECK(none.facts["offers"][0]["words"] == "As the names say: Paving 3 is stone, old wood is wood");
        const auto taken = ranStep(worn, "surface-kind", none.facts["offers"][0]["params"], &sheet);
        CHECK(taken.facts["kinds"] == json{{"stone", 4}, {"wood", 8}});
        CHECK(trianglesByMaterial(taken.model) == trianglesByMaterial(worn));
    }
    SECTION("one that the platform does not know is said, with the nearest") {
        const auto odd = ranStep(box, "surface-kind", {{"kind", "wod"}}, &sheet);
        CHECK(odd.shortfall == "Quay knows no \"wod\"; wood perhaps");
        const auto known = kindsSheet(0, "id = \"surface-known\"\n");
        const auto report = platform::check(odd.model, known);
        CHECK_FALSE(report.fits());
        CHECK(report.rules[0].finding.note ==
              "12 faces are of wod, which the platform does not know; wood perhaps");
        CHECK(report.rules[0].finding.faces.size() == 12);
    }
}

TEST_CASE("unset faces are lit one by one") {
    const auto sheet = kindsSheet();
    const auto some = ranStep(shapes::box({-1, 0, -1}, {1, 2, 1}), "surface-kind",
                              {{"kind", "stone"}, {"faces", facesUpTo(0.1)}}, &sheet);
    const auto report = platform::check(some.model, sheet);
    CHECK(report.rules[0].finding.faces.size() == 10);
    CHECK(report.rules[0].finding.measured == "10 without");
}

TEST_CASE("steps that leave shapes where they are leave every face its kind") {
    const Model ball = spottedBall(24, 7);
    const auto before = kindsByPlace(ball, contact::bodyMesh(ball));
    const auto sheet = kindsSheet(24);
    const std::pair<const char*, json> steps[] = {{"weld-and-clean", json::object()},
                                                  {"normals", json::object()},
                                                  {"bake-placement", json::object()},
                                                  {"uvs-anew", json::object()},
                                                  {"one-material", {{"scope", "all"}}},
                                                  {"split-parts", {{"by", "loose"}}},
                                                  {"cut-out", {{"faces", facesUpTo(0.3)}, {"name", "low"}}}};
    for (const auto& [id, params] : steps) {
        CAPTURE(id);
        const auto ran = ranStep(ball, id, params, &sheet);
        REQUIRE(brokenPromise(ran.model).empty());
        CHECK(kindsByPlace(ran.model, contact::bodyMesh(ran.model)) == before);
        CHECK(kindsByPlace(ran.model, geometry::flattened(ran.model)) == before);
    }
    const Model back = modelFromBytes(toBytes(ball));
    CHECK(back.surfaceKinds == ball.surfaceKinds);
    CHECK(back.meshes[0]->surfaces == ball.meshes[0]->surfaces);
}

TEST_CASE("fewer triangles keep to the border between two kinds") {
    Model ball = shapes::modelOf(shapes::sphere(64, 40), "ball");
    Mesh mesh = *ball.meshes[0];
    surfaceKindIn(ball, "low"), surfaceKindIn(ball, "high");
    const auto isHigh = [](const Mesh& of, std::size_t t) {
        float y = 0;
        for (std::size_t k = 0; k < 3; ++k) y += of.positions[of.indices[3 * t + k]].y / 3;
        return y > 0;
    };
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) mesh.surfaces.push_back(isHigh(mesh, t));
    ball.meshes[0] = std::make_shared<const Mesh>(mesh);
    const auto ran = ranStep(ball, "reduce-triangles", {{"goal", "number"}, {"number", 600}});
    const Mesh less = contact::bodyMesh(ran.model);
    REQUIRE(less.triangleCount() <= 600);
    REQUIRE(less.surfaces.size() == less.triangleCount());
    for (std::size_t t = 0; t < less.triangleCount(); ++t) CHECK((less.surfaces[t] == 1) == isHigh(less, t));
}

TEST_CASE("bodies take after the faces, whichever comes first") {
    const auto sheet = kindsSheet(24);
    const Model ball = spottedBall(24, 3);
    const auto before = kindsByPlace(ball, contact::bodyMesh(ball));
    const auto mesh = ranStep(ball, "collision-mesh", {{"goal", "number"}, {"number", 5000}}, &sheet);
    REQUIRE(mesh.model.colliders.size() == 1);
    CHECK(kindsByPlace(mesh.model, *mesh.model.colliders[0].mesh) == before);

    SECTION("painted again, the body follows") {
        const auto painted =
            ranStep(mesh.model, "surface-kind", {{"kind", "wood"}, {"faces", facesUpTo(0)}}, &sheet);
        CHECK(kindsByPlace(painted.model, *painted.model.colliders[0].mesh) ==
              kindsByPlace(painted.model, contact::bodyMesh(painted.model)));
        CHECK(painted.facts["kinds"]["wood"].get<int>() > 300);
    }
    SECTION("a convex piece is of what most of its faces are") {
        Model two = shapes::box({-1, 0, -1}, {1, 1, 1});
        const auto low = ranStep(two, "surface-kind", {{"kind", "stone"}}, &sheet);
        const auto top =
            ranStep(low.model, "surface-kind",
                    {{"kind", "wood"},
                     {"faces", json::array({{{"box", {{"least", {-9, 0.9, -9}}, {"most", {9, 9, 9}}}}}})}},
                    &sheet);
        const auto body = ranStep(top.model, "convex-pieces", {{"goal", "number"}, {"pieces", 1}}, &sheet);
        REQUIRE(body.model.colliders.size() == 1);
        const auto counts = contact::surfaceCounts(body.model).bodies;
        REQUIRE(counts.size() == 1);
        CHECK(body.model.surfaceKinds[std::size_t(counts.begin()->first)] == "stone"); // 12 of 16 m²
    }
}

TEST_CASE("a body that no face is nearest to takes after the face nearest to it") {
    const auto sheet = kindsSheet(24);
    Model block =
        ranStep(shapes::box({-1, 0, -1}, {1, 2, 1}), "surface-kind", {{"kind", "stone"}}, &sheet).model;
    const auto boxOf = [](double half) {
        return shapes::box({-half, 1 - half, -half}, {half, 1 + half, half}).meshes[0];
    };
    block.colliders = {{"around", "hull", boxOf(1)}, {"within", "hull", boxOf(0.1)}};
    contact::surfacesOntoBodies(block);
    const auto counts = contact::surfaceCounts(block).bodies;
    CHECK(counts.size() == 1);
    CHECK_FALSE(counts.contains(-1));
}

TEST_CASE("a sheet's surfaces and marks are read, or refused with their line") {
    const auto sheet = kindsSheet(22);
    REQUIRE(sheet.touch.surfaces.size() == 24);
    CHECK(sheet.touch.surface("stone")->hatch == contact::Hatch::Crossed);
    CHECK(sheet.touch.surface("stone")->colour.r == Approx(0x8d / 255.0));
    CHECK(sheet.touch.surface("wood")->grip == Approx(0.8));
    const auto refused = [](const std::string& text) {
        try {
            sheetWith("id = \"triangles\"\nmost = 1\n" + text);
        } catch (const Error& error) {
            return std::string(error.what());
        }
        return std::string("was read");
    };
    CHECK(refused("[[surface]]\nname = \"a\"\ncolour = \"#8D8F88\"\n") == "\"#8D8F88\" is no colour");
    CHECK(refused("[[surface]]\nname = \"a\"\ncolour = \"grey\"\n") == "\"grey\" is no colour");
    CHECK(refused("[[surface]]\nname = \"a\"\ncolour = \"#101010\"\nhatch = \"doted\"\n") ==
          "there is no hatch \"doted\"");
    CHECK(refused("[[surface]]\nname = \"a\"\ncolour = \"#101010\"\n[[surface]]\nname = \"a\"\ncolour = "
                  "\"#101010\"\n") == "the surface \"a\" stands here twice");
    CHECK(refused("[[mark]]\nplace = 2.5\nname = \"A\"\n") == "there is no place 2.5");
    CHECK(refused("[[mark]]\nplace = 2\nname = \"A\"\n[[mark]]\nplace = 2\nname = \"B\"\n") ==
          "place 2 or \"B\" stands here twice");
    CHECK(refused("[holder]\nname = \"all\"\n") == "every holder would be called the same");
    CHECK(refused("[engine]\nversions = \"4.1\"\n") == "\"version\" is missing");
}

TEST_CASE("a body that is kept for many comes under each foot, as large as it is, or inset") {
    Model base = shapes::box({2, 0, 2}, {2.032, 0.004, 2.032}); // 32 mm, drawn aside
    base = ranStep(base, "collider-cylinder", nlohmann::json::object()).model;
    REQUIRE(base.colliders.size() == 1);
    TestSurroundings around;
    around.add("Round base 32", base, 7);
    const auto of = [&](const Model& model, nlohmann::json params) {
        const Progress progress;
        steps::StepContext context{progress, nullptr, &around};
        params["from"] = {{"piece", "Round base 32"}};
        Model out = steps::makeStep("collider-from", params)->apply(model, context);
        REQUIRE(out.colliders.size() == 1);
        return geometry::meshBounds(*out.colliders[0].mesh, out.colliders[0].placement);
    };
    const auto own = geometry::meshBounds(*base.colliders[0].mesh, base.colliders[0].placement);
    const auto under = of(shapes::box({-0.3, 0.5, 0.4}, {-0.28, 0.55, 0.42}), nlohmann::json::object());
    CHECK(under.size().x == Approx(own.size().x));
    CHECK(under.min.y == Approx(0.5));
    CHECK(under.centre().x == Approx(-0.29).margin(1e-6));
    CHECK(under.centre().z == Approx(0.41).margin(1e-6));
    const auto inset = of(shapes::box({0, 0, 0}, {0.02, 0.05, 0.02}), {{"inset", 0.25}});
    CHECK(inset.size().x == Approx(0.75 * own.size().x));
    CHECK(inset.size().y == Approx(own.size().y));
    Model bare = base;
    bare.colliders.clear();
    around.add("Round base 32", bare, 8);
    const Progress progress;
    steps::StepContext context{progress, nullptr, &around};
    const Model same =
        steps::makeStep("collider-from", {{"from", {{"piece", "Round base 32"}}}})->apply(base, context);
    CHECK(context.shortfall == "Round base 32 has no body");
    CHECK(same.colliders.size() == 1);
}
