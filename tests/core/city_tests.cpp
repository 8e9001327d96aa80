// What the city makes of placements, kinds and numbers that were delivered to it.
#include "core/base/error.h"
#include "core/install/city.h"
#include "core/install/install.h"
#include "core/model/on_map.h"
#include "core/platform/check.h"
#include "core/project/dependencies.h"
#include "core/project/numbers.h"
#include "core/steps/place_on_map.h"
#include "standins/city/city.h"
#include "standins/world/arena.h"
#include "support/city_folder.h"
#include "support/city_object.h"
#include "support/companions.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;
using nlohmann::json;

namespace {

/// Degrees, as recipes have them.
glm::dquat turnWanted(const steps::PlaceOnMap::Place& place) {
    return steps::turnOnMap(glm::radians(place.turn), glm::radians(place.nod), glm::radians(place.lean));
}

} // namespace

TEST_CASE("two hundred random places are read by the city at the same place and turn") {
    std::mt19937 random(99);
    std::uniform_real_distribution<double> along(-4000, 4000), angle(-180, 180);
    const auto calder = sheet("portcalder");
    json places = json::array();
    std::vector<steps::PlaceOnMap::Place> wanted;
    for (int i = 0; i < 200; ++i) {
        steps::PlaceOnMap::Place place{{300 + 399 * double(random() % 1000) / 999,
                                        -199 + 398 * double(random() % 1000) / 999, along(random) / 100},
                                       angle(random),
                                       i % 2 ? angle(random) / 2 : 0,
                                       i % 2 ? angle(random) : 0,
                                       ""};
        if (i % 10 == 0) place.turn = std::array{0.0, 90.0, 180.0, -90.0, 360.0}[std::size_t(i / 10 % 5)];
        wanted.push_back(place);
        places.push_back({{"at", {place.at.x, place.at.y, place.at.z}},
                          {"turn", place.turn},
                          {"nod", place.nod},
                          {"lean", place.lean}});
    }
    Model model = ranStep(cityObject(41000), "place-on-map", {{"places", places}}, calder.get()).model;
    TemporaryFolder folder;
    writeObject(model, "clock", folder.path());
    standins::TryReport report;
    const auto loaded = standins::city::loadCity(folder.path(), report);
    REQUIRE(loaded);
    for (const auto& message : report.messages) INFO(message.text);
    CHECK(report.accepted);
    REQUIRE(loaded->places.size() == 200);
    for (std::size_t i = 0; i < 200; ++i) {
        const auto& got = loaded->places[i];
        CAPTURE(i, wanted[i].turn, wanted[i].nod, wanted[i].lean);
        CHECK(glm::distance(got.at, wanted[i].at) < 0.001);
        // Where the model's corners come to: its own axes are Y up and facing +Z, as the shown world's are.
        const glm::dmat3 turn = glm::mat3_cast(turnWanted(wanted[i]));
        const glm::mat4 pose = standins::city::poseOf(got);
        for (int k = 0; k < 3; ++k) CHECK(glm::distance(glm::dvec3(pose[k]), turn[k]) < glm::radians(0.1));
        const glm::dvec3 angles = steps::anglesOnMap(turnWanted(wanted[i]));
        const glm::dmat3 back = glm::mat3_cast(steps::turnOnMap(angles.x, angles.y, angles.z));
        for (int k = 0; k < 3; ++k) CHECK(glm::distance(back[k], turn[k]) < 1e-9);
    }
}

TEST_CASE("each of twenty-four kinds comes back for every face through archive and city") {
    const auto calder = sheet("portcalder");
    REQUIRE(calder->touch.surfaces.size() == 24);
    Model ball = shapes::modelOf(shapes::sphere(30, 24), "ball");
    std::mt19937 random(24);
    Mesh mesh = *ball.meshes[0];
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
        mesh.surfaces.push_back(
            std::int16_t(surfaceKindIn(ball, calder->touch.surfaces[random() % 24].name)));
    ball.meshes[0] = std::make_shared<const Mesh>(mesh);
    ball = ranStep(ball, "number", {{"number", 41000}}, calder.get()).model;
    ball = ranStep(ball, "collision-mesh", json::object(), calder.get()).model;
    CHECK(platform::check(ball, *calder).rule("surfaces-set")->finding.holds);
    TemporaryFolder folder;
    writeObject(ball, "ball", folder.path());
    standins::TryReport report;
    const auto loaded = standins::city::loadCity(folder.path(), report);
    REQUIRE(loaded);
    REQUIRE(loaded->objects[0].body);
    const auto& body = *loaded->objects[0].body;
    REQUIRE(body.kinds.size() == mesh.triangleCount());
    const auto key = [](glm::dvec3 m) {
        return std::array{std::lround(m.x * 1e4), std::lround(m.y * 1e4), std::lround(m.z * 1e4)};
    };
    std::map<std::array<long, 3>, std::string> wanted;
    std::set<std::string> kinds;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        glm::dvec3 middle(0);
        for (std::size_t k = 0; k < 3; ++k)
            middle += glm::dvec3(mesh.positions[mesh.indices[3 * t + k]]) / 3.0;
        wanted[key(middle)] = ball.surfaceKinds[std::size_t(mesh.surfaces[t])];
        kinds.insert(wanted[key(middle)]);
    }
    CHECK(kinds.size() == 24);
    std::size_t same = 0;
    for (std::size_t t = 0; t < body.kinds.size(); ++t) {
        glm::dvec3 middle(0);
        for (std::size_t k = 0; k < 3; ++k)
            middle += glm::dvec3(body.shape.positions[body.shape.indices[3 * t + k]]) / 3.0;
        const auto found = wanted.find(key(middle));
        same += found != wanted.end() && found->second == body.kinds[t];
    }
    CHECK(same == body.kinds.size());
    for (const auto& kind : calder->touch.surfaces) { // the two say the same of each
        const auto* theirs = standins::city::kindNamed(kind.name);
        REQUIRE(theirs);
        CHECK(theirs->sound == kind.sound);
        CHECK(theirs->throws == kind.throws);
    }
}

TEST_CASE("the city's files are refused when they are broken, and never crash") {
    const formats::ContactFile contact{
        "M", {{"a", {"stone", "iron"}, {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}}, {{{0, 1, 2}, 1}}}}};
    const std::string text = formats::writeContact(contact);
    CHECK(formats::writeContact(formats::readContactFile(text, "a")) == text);
    formats::CityMesh mesh;
    mesh.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}}, mesh.normals.assign(3, {0, 0, 1}),
    mesh.uvs.assign(3, {0, 0});
    mesh.indices = {0, 1, 2}, mesh.groups = {{"wood", glm::vec4(1), 0, 1}};
    const std::string bytes = formats::writeCityMesh(mesh);
    CHECK(formats::readCityMesh(bytes, "a").groups[0].picture == "wood");
    std::mt19937 random(3);
    for (int i = 0; i < 4000; ++i) {
        std::string bad = i % 2 ? text : bytes;
        if (i % 5 == 0) bad.resize(random() % bad.size());
        for (unsigned k = 0; k < 1 + random() % 4 && !bad.empty(); ++k)
            bad[random() % bad.size()] = char(random());
        standins::city::readContact(bad), standins::city::readMesh(bad), standins::city::readPictures(bad);
        try {
            formats::readContactFile(bad, "a");
        } catch (const Error&) {
        }
        try {
            formats::readCityMesh(bad, "a");
        } catch (const Error&) {
        }
    }
    const auto why = [](const std::string& odd) {
        try {
            formats::readContactFile(odd, "a.contact");
        } catch (const Error& error) {
            return error.where() + " " + error.what();
        }
        return std::string();
    };
    CHECK(why("") == "a.contact:1 is no contact file");
    CHECK(why("contact 1\nc 1 2 3\n") == "a.contact:2 says something before its first body");
    CHECK(why("contact 1\nbody a\nkinds stone\nc 0 0 0\nf 0 0 1 0\n") ==
          "a.contact:5 has a face on corners that are not there");
    CHECK(why("contact 1\nbody a\nkinds stone\nc 0 0 0\nf 0 0 0 1\n") ==
          "a.contact:5 has a face of a kind that it does not name");
    CHECK(why("contact 1\nbody a\nc 0 nan 0\n") == "a.contact:3 has a corner that is no number");
}

TEST_CASE("in the city anything can be looked at, and is heard") {
    CityFolder city;
    TemporaryFolder delivered;
    writeObject(cityObject(40020), "Post", delivered.path());
    install::install(delivered.path(), city.path(), {}, {});
    standins::TryReport report;
    const auto arena = standins::standInNamed("city")->open(city.path(), report);
    REQUIRE(arena);
    REQUIRE(arena->choices().size() == 1);
    CHECK(arena->choices()[0].options ==
          std::vector<std::string>{"post · east", "wall · west", "pole · west", "shed · east"});
    const auto tableSays = [&](const std::string& what) {
        return std::ranges::any_of(arena->tables()[0].rows,
                                   [&](const auto& row) { return row.name.starts_with(what); });
    };
    CHECK(tableSays("50, 50, 0"));
    arena->act("drive"); // into the post, which is of iron
    std::vector<std::string> heard;
    for (int i = 0; i < 60; ++i) {
        arena->advance(0.1);
        for (const auto& one : arena->takeHeard()) heard.push_back(one.sound);
    }
    const auto* iron = sheet("portcalder")->touch.surface("iron");
    CHECK(heard == std::vector<std::string>{"dull thud", iron->sound});
    arena->choose("spot", 1);
    CHECK(arena->choices()[0].chosen == 1);
    CHECK(tableSays("-10, 10, 0"));
    CHECK_FALSE(arena->drawn().empty());
    arena->choose("spot", 99);
    arena->choose("spot", -1);
    CHECK(arena->choices()[0].chosen == 1);
    arena->act("walk");
    arena->advance(1);
    CHECK(arena->takeHeard().size() == 3);
}

TEST_CASE(
    "a number that another piece of the project has is refused with both names, and a free one is found") {
    const auto calder = sheet("portcalder");
    TestSurroundings around;
    around.known.name = "Dock hoist";
    around.numbers = {{40000, "Lamp"}, {40001, "Bench"}, {41207, "Quay clock"}};
    const Model block = shapes::box({-0.5, 0, -0.5}, {0.5, 1, 0.5});
    const auto number = [&](int asked) {
        return ranStep(block, "number", {{"number", asked}}, calder.get(), &around).model.onMap->number;
    };
    CHECK(number(0) == 40002);
    CHECK(number(41208) == 41208);
    try {
        number(41207);
        FAIL("taken twice");
    } catch (const Refused& error) {
        CHECK(error.whole().starts_with("41207 is the number of Quay clock already, so Dock hoist cannot"));
    }
    platform::Sheet narrow = *calder;
    for (platform::RuleSpec& rule : narrow.rules)
        if (rule.check == "number") rule.limits["most"] = 40001;
    CHECK_THROWS_AS(ranStep(block, "number", {{"number", 0}}, &narrow, &around), Refused);
    // In a project: given numbers come first, then pieces in their order.
    project::Project project;
    const auto add = [&](const char* name, std::optional<int> asked) {
        project::Piece piece;
        piece.name = name;
        piece.crossings = {{"portcalder", {}}};
        if (asked) piece.crossings[0].recipe = {{"number", true, {{"number", *asked}}}};
        project.pieces.push_back(piece);
    };
    add("first", 0), add("second", 0), add("third", 40000), add("bare", std::nullopt), add("fifth", 40002);
    const auto others = [&](std::size_t piece) {
        return project::numbersOfOthers(project, project.pieces[piece], *calder);
    };
    using Numbers = std::map<int, std::string>;
    CHECK(others(0) == Numbers{{40000, "third"}, {40002, "fifth"}}); // so it takes 40001
    CHECK(others(1) == Numbers{{40000, "third"}, {40001, "first"}, {40002, "fifth"}});
    CHECK(others(2) == Numbers{{40001, "first"}, {40002, "fifth"}, {40003, "second"}});
    CHECK(others(4) == Numbers{{40000, "third"}, {40001, "first"}, {40003, "second"}});
    CHECK(project::numberAskedFor(project.pieces[3], "portcalder") == std::nullopt);
    // What a piece rests on changes with the others' numbers.
    const auto before = project::dependenciesOf(project, project.pieces[1], *calder).shape;
    project.pieces[2].crossings[0].recipe[0].params["number"] = 40005;
    CHECK(project::dependenciesOf(project, project.pieces[1], *calder).shape != before);
}
