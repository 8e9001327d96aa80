// Pieces that take in other pieces: what they get, what is refused, what runs again and what names follow.
#include "core/geometry/world.h"
#include "core/formats/format.h"
#include "core/project/companions.h"
#include "core/project/dependencies.h"
#include "support/companions.h"
#include "support/finds.h"
#include "support/shapes.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;

namespace {

recipe::Entry entry(const char* step, const nlohmann::json& params = nlohmann::json::object()) {
    return {step, true, steps::makeStep(step, params)->params()};
}

/// Two twins in one drawing: "Slim", placed by steps of its own, and "Broad", a little wider.
struct Twins {
    TemporaryFolder folder;
    project::Project project;
    project::SourceCache sources;
    recipe::EvaluationCache cache;

    Twins() {
        write("slim", {1, 0, 1}, {2, 3, 2});
        write("broad", {0.9f, 0, 1}, {2.1f, 3, 2});
        project = projectOf(folder, {{"Slim", "slim.obj"}, {"Broad", "broad.obj"}});
        own("Slim") = {
            entry("unit-and-up", {{"unit", "m"}, {"up", "y"}}), entry("heading", {{"front", "+x"}}),
            entry("size", {{"by", "height"}, {"measure", 1.5}}), entry("origin", {{"at", "centre"}})};
        own("Broad") = {entry("unit-and-up", {{"unit", "m"}, {"up", "y"}}),
                        entry("carry-over-placement", {{"from", {{"piece", "Slim"}}}})};
    }
    void write(const std::string& name, glm::vec3 low, glm::vec3 high) {
        writeAllOrNone(folder.path(), formats::writeObj(shapes::box(low, high), {name}, nullptr));
    }
    recipe::Recipe& own(const char* piece) { return project.piece(piece)->recipe; }
    recipe::Evaluation come(const char* name) {
        const auto& piece = *project.piece(name);
        const auto on = sheet("playmeadow");
        const project::Companions around(project, piece, *on, sources, &cache);
        const auto loaded = sources.load(project, piece);
        return recipe::evaluate(loaded.model, loaded.hash, recipeFor(piece, on->id), {on.get(), &around},
                                &cache);
    }
    Hash key(const char* name) {
        Stamps stamps;
        return dependenciesOf(project, *project.piece(name), *sheet("playmeadow")).shapeKey(stamps);
    }
};

} // namespace

TEST_CASE("a twin takes size, heading and origin from the other's recipe") {
    Twins twins;
    const auto slim = geometry::worldBounds(twins.come("Slim").model);
    const auto broad = twins.come("Broad").model;
    const auto b = geometry::worldBounds(broad);
    CHECK(slim.size().y == Approx(1.5));
    CHECK(b.size().y == Approx(1.5));
    // Half as large, the drawing's X along Z now (its width of 1.2 is 0.6 deep), its middle where Slim's is.
    CHECK(b.size().z == Approx(0.6));
    CHECK(b.size().x == Approx(0.5));
    CHECK(glm::length(b.centre() - slim.centre()) < 1e-6);
    CHECK(broad.headingKnown);
}

TEST_CASE("size, heading and origin can be taken singly") {
    Twins twins;
    const auto with = [&](bool size, bool heading, bool origin) {
        twins.own("Broad").back() =
            entry("carry-over-placement",
                  {{"from", {{"piece", "Slim"}}}, {"size", size}, {"heading", heading}, {"origin", origin}});
        return geometry::worldBounds(twins.come("Broad").model);
    };
    const auto plain = geometry::Bounds{{0.9, 0, 1}, {2.1, 3, 2}};
    const auto nothing = with(false, false, false);
    CHECK(glm::length(nothing.min - plain.min) < 1e-6);
    const auto size = with(true, false, false); // about the drawing's origin, which stays
    CHECK(size.size().y == Approx(1.5));
    CHECK(size.min.x == Approx(0.45));
    const auto heading = with(false, true, false);
    CHECK(heading.size().z == Approx(1.2));
    CHECK(heading.size().y == Approx(3));
    const auto origin = with(false, false, true);
    CHECK(origin.size().y == Approx(3));
    CHECK(glm::length(origin.centre()) < 1e-6);
}

TEST_CASE("baking leaves what a twin carries over as it is") {
    Twins twins;
    const auto before = geometry::worldBounds(twins.come("Broad").model);
    twins.own("Slim").push_back(entry("bake-placement"));
    const auto after = geometry::worldBounds(twins.come("Broad").model);
    CHECK(glm::length(after.min - before.min) < 1e-6);
    CHECK(glm::length(after.max - before.max) < 1e-6);
}

TEST_CASE("a change of the other piece, its file or its recipe runs the step again, and nothing before it") {
    Twins twins;
    twins.come("Broad");
    const Hash key = twins.key("Broad");
    CHECK(twins.come("Broad").outcomes[1].fromCache);
    CHECK(twins.key("Broad") == key);
    SECTION("its recipe") {
        twins.own("Slim")[2] = entry("size", {{"by", "height"}, {"measure", 0.75}});
        CHECK(twins.key("Broad") != key);
        const auto again = twins.come("Broad");
        CHECK(again.outcomes[0].fromCache);
        CHECK_FALSE(again.outcomes[1].fromCache);
        CHECK(geometry::worldBounds(again.model).size().y == Approx(0.75));
    }
    SECTION("its file") {
        twins.write("slim", {1, 0, 1}, {2, 6, 2});
        CHECK(twins.key("Broad") != key);
        CHECK(geometry::worldBounds(twins.come("Broad").model).size().y == Approx(0.75));
    }
    SECTION("a piece that it does not name") {
        twins.project.pieces.push_back({"Third", {{"slim.obj", "", "", {}}}, {}, {}, {}});
        CHECK(twins.key("Broad") == key);
    }
}

TEST_CASE("pieces that take one another in are refused with the names on the circle") {
    Twins twins;
    twins.own("Slim").push_back(entry("carry-over-placement", {{"from", {{"piece", "Broad"}}}}));
    CHECK_THROWS_WITH(twins.come("Broad"), Catch::Contains("Broad → Slim → Broad"));
    CHECK_THROWS_WITH(twins.come("Slim"), Catch::Contains("Slim → Broad → Slim"));
    twins.key("Broad"); // ends
    twins.own("Slim").back() = entry("carry-over-placement", {{"from", {{"piece", "Slim"}}}});
    CHECK_THROWS_WITH(twins.come("Slim"), Catch::Contains("Slim → Slim"));
}

TEST_CASE("pieces that each take in the next twice are worked out once each") {
    Twins twins;
    constexpr int many = 40;
    twins.project.pieces.clear();
    for (int i = 0; i < many; ++i) {
        project::Piece piece{fmt::format("P{}", i), {{"slim.obj", "", "", {}}}, {}, {}, {}};
        const nlohmann::json next{{"piece", fmt::format("P{}", i + 1)}};
        if (i + 1 < many)
            piece.recipe = {entry("carry-over-placement", {{"from", next}}),
                            entry("carry-over-placement", {{"from", next}})};
        twins.project.pieces.push_back(piece);
    }
    CHECK(triangleCount(twins.come("P0").model) == 12);
    CHECK(project::namedInputs(twins.project, *twins.project.piece("P0"), "playmeadow").pieces.size() ==
          many - 1);
}

TEST_CASE("what is not there is said: a piece, a yardstick, a file, or nothing named") {
    Twins twins;
    const auto refusal = [&](const nlohmann::json& from) {
        twins.own("Broad").back() = entry("carry-over-placement", {{"from", from}});
        try {
            twins.come("Broad");
        } catch (const Error& error) {
            return error.whole();
        }
        return std::string("was taken");
    };
    CHECK_THAT(refusal({{"piece", "Keel"}}), Catch::Contains("no piece \"Keel\""));
    CHECK_THAT(refusal({{"yardstick", ""}}), Catch::Contains("no yardstick"));
    CHECK_THAT(refusal({{"file", "gone.obj"}}), Catch::Contains("gone.obj"));
    CHECK_THAT(refusal({{"piece", ""}}), Catch::Contains("no other model is named"));
}

TEST_CASE("renaming a piece renames it wherever a recipe names it") {
    Twins twins;
    twins.project.pieces[1].crossings[0].recipe = {
        entry("match-yardstick", {{"yardstick", {{"piece", "Slim"}}}})};
    project::renamePiece(twins.project, "Slim", "Narrow");
    CHECK(twins.project.pieces[0].name == "Narrow");
    CHECK(twins.own("Broad").back().params["from"] == nlohmann::ordered_json{{"piece", "Narrow"}});
    CHECK(twins.project.pieces[1].crossings[0].recipe[0].params["yardstick"] ==
          nlohmann::ordered_json{{"piece", "Narrow"}});
    CHECK_NOTHROW(twins.come("Broad"));
    CHECK_THROWS_WITH(project::renamePiece(twins.project, "Narrow", "Broad"), Catch::Contains("taken"));
    CHECK_THROWS_AS(project::renamePiece(twins.project, "Narrow", ""), Error);
    twins.project.yardsticks = {{"Narrow", "slim.obj", "", ""}};
    twins.own("Broad").push_back(entry("match-yardstick", {{"yardstick", {{"yardstick", "Narrow"}}}}));
    project::renameYardstick(twins.project, "Narrow", "Gate");
    CHECK(twins.own("Broad").back().params["yardstick"] == nlohmann::ordered_json{{"yardstick", "Gate"}});
    CHECK(twins.own("Broad")[1].params["from"] ==
          nlohmann::ordered_json{{"piece", "Narrow"}}); // a piece of that name
}

TEST_CASE("a kept selection that changed runs again what uses it") {
    const Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    TestSurroundings around;
    around.kept["side"] = {{{selection::InBox{{-9, 0.9, -9}, {9, 9, 9}}, false}}};
    const recipe::Recipe recipe{entry("turn"), entry("leave-out", {{"faces", {{{"named", "side"}}}}})};
    recipe::EvaluationCache cache;
    CHECK(triangleCount(recipe::evaluate(model, 1, recipe, {nullptr, &around}, &cache).model) == 10);
    CHECK(recipe::evaluate(model, 1, recipe, {nullptr, &around}, &cache).outcomes[1].fromCache);
    around.kept["side"] = {{{selection::InBox{{-9, -9, -9}, {9, 0.9, 9}}, false}}};
    const auto again = recipe::evaluate(model, 1, recipe, {nullptr, &around}, &cache);
    CHECK(again.outcomes[0].fromCache);
    CHECK(triangleCount(again.model) == 2);
}

TEST_CASE("kept selections that each use the next twice, or one another, do not hold up a recipe") {
    const Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    TestSurroundings around;
    for (int i = 0; i < 60; ++i) {
        const selection::OfNamed next{fmt::format("{}", i + 1)};
        around.kept[fmt::format("{}", i)] = {{{next, false}, {next, false}}};
    }
    around.kept["60"] = {{{selection::InBox{{-9, 0.9, -9}, {9, 9, 9}}, false}}};
    const recipe::Recipe recipe{entry("leave-out", {{"faces", {{{"named", "0"}}}}})};
    recipe::EvaluationCache cache;
    CHECK(triangleCount(recipe::evaluate(model, 1, recipe, {nullptr, &around}, &cache).model) == 10);
    around.kept["60"] = {{{selection::InBox{{-9, -9, -9}, {9, 0.9, 9}}, false}}}; // the last of all counts
    CHECK(triangleCount(recipe::evaluate(model, 1, recipe, {nullptr, &around}, &cache).model) == 2);
    around.kept["60"] = {{{selection::OfNamed{"0"}, false}}};
    CHECK_THROWS_WITH(recipe::evaluate(model, 1, recipe, {nullptr, &around}, &cache),
                      Catch::Contains("uses itself"));
}

TEST_CASE("kept selections and references survive the project's file") {
    Twins twins;
    twins.project.pieces[0].selections = {{"lids", {{{selection::OfParts{{"lid*"}, {}}, false}}}}};
    const auto back =
        project::fromJson(nlohmann::json::parse(project::toJson(twins.project).dump()), twins.project.file);
    REQUIRE(back.pieces[0].selections.size() == 1);
    CHECK(back.pieces[0].selections[0].name == "lids");
    CHECK(back.pieces[0].selections[0].selection == twins.project.pieces[0].selections[0].selection);
    CHECK(back.pieces[1].recipe.back().params == twins.own("Broad").back().params);
}

TEST_CASE("a project saved elsewhere takes the paths in its recipes along") {
    Twins twins;
    twins.own("Broad").push_back(entry("match-yardstick", {{"yardstick", {{"file", "slim.obj"}}}}));
    twins.own("Broad").push_back(entry("match-yardstick", {{"yardstick", {{"piece", "slim.obj"}}}}));
    project::movePaths(twins.project, [](const std::filesystem::path& path) { return ".." / path; });
    CHECK(twins.project.pieces[0].sources[0].path == "../slim.obj");
    CHECK(twins.own("Broad")[2].params["yardstick"] == nlohmann::ordered_json{{"file", "../slim.obj"}});
    CHECK(twins.own("Broad")[3].params["yardstick"] == nlohmann::ordered_json{{"piece", "slim.obj"}});
}
