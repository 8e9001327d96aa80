// A city's folder: tables and archives as others leave them, what is read of them, objects put in and out.
#include "core/base/error.h"
#include "core/deliver/city_object.h"
#include "core/install/city.h"
#include "core/install/city_shapes.h"
#include "core/install/csv_table.h"
#include "core/install/install.h"
#include "core/install/zip_records.h"
#include "core/model/on_map.h"
#include "core/platform/check.h"
#include "core/project/dependencies.h"
#include "core/project/numbers.h"
#include "core/steps/place_on_map.h"
#include "standins/city/city.h"
#include "standins/world/arena.h"
#include "support/city_folder.h"
#include "support/companions.h"
#include "support/ran_step.h"
#include "support/shapes.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

#include <chrono>
#include <random>

using namespace zl;
using nlohmann::json;

namespace {

/// Degrees, as recipes have them.
glm::dquat turnWanted(const steps::PlaceOnMap::Place& place) {
    return steps::turnOnMap(glm::radians(place.turn), glm::radians(place.nod), glm::radians(place.lean));
}

/// A block with a body for the city, called so, with this number, standing there.
Model object(int number, glm::dvec3 at = {50, 50, 0}, const std::string& district = "") {
    Model block = shapes::box({-0.5, 0, -0.5}, {0.5, 1, 0.5});
    const auto calder = sheet("portcalder");
    block = ranStep(block, "number", {{"number", number}}, calder.get()).model;
    block = ranStep(block, "place-on-map",
                    {{"places", {{{"at", {at.x, at.y, at.z}}, {"turn", 35}, {"district", district}}}}},
                    calder.get())
                .model;
    block = ranStep(block, "surface-kind", {{"kind", "iron"}}, calder.get()).model;
    return ranStep(block, "collision-mesh", json::object(), calder.get()).model;
}

void writeObject(const Model& model, const std::string& name, const std::filesystem::path& folder) {
    writeAllOrNone(folder, deliver::CityObject{}.make(model, *sheet("portcalder"),
                                                      {.name = name, .credit = "Mira Quill"}, {}));
}

std::string problemsOf(const install::Plan& plan) {
    std::string out;
    for (const std::string& problem : plan.problems) out += problem + "\n";
    return out;
}

} // namespace

TEST_CASE("tables are read as others leave them") {
    const auto table = install::readCsv(
        "\xEF\xBB\xBFName;Number ;note\r\na;1;\"x;\"\"y\"\"\"\r\n\r\n b ;2,5\r\n\"c\nd\";3;;extra");
    CHECK(table.separator == ';');
    CHECK(table.lineEnd == "\r\n");
    CHECK_FALSE(table.endsLine);
    CHECK(table.columns == std::vector<std::string>{"name", "number", "note"});
    REQUIRE(table.rows.size() == 3);
    CHECK(table.rows[0].at(2) == "x;\"y\"");
    CHECK(table.rows[1].at(0) == "b");
    CHECK(table.rows[1].line == 4);
    CHECK(table.rows[1].at(2).empty()); // too short a row
    CHECK(install::csvNumber(table, table.rows[1].at(1)) == 2.5);
    CHECK(table.rows[2].at(0) == "c\nd");
    CHECK(install::readCsv("").columns.empty());
    CHECK(install::readCsv("a,b\n\"open").problems.size() == 1);
    CHECK_FALSE(install::csvNumber(table, "nine"));
    CHECK_FALSE(install::csvNumber(table, "1e999"));
}

TEST_CASE("a line that was added goes again, and every other byte stays") {
    for (const std::string text :
         {"name,number\na,1\n", "name,number\r\na,1\r\n", "name;number\r\na;1", "name,number",
          "\xEF\xBB\xBFname,number\n\"x\ny\",1\n", "name,number\n\n\na,1\n\n"}) {
        CAPTURE(text);
        const auto table = install::readCsv(text);
        const std::string line = install::csvLine(table, {{"name", "new, one"}, {"number", "7"}});
        const std::string with = text + install::csvAddition(table, line);
        const auto again = install::readCsv(with);
        REQUIRE_FALSE(again.rows.empty());
        CHECK(again.rows.back().at(0) == "new, one");
        CHECK(again.rows.size() == table.rows.size() + 1);
        CHECK(install::withoutLine(with, line) == text);
        CHECK(install::withoutLine(with + (table.endsLine ? "" : table.lineEnd) + "other,2\n", line));
        CHECK_FALSE(install::withoutLine(text, line));
    }
    CHECK_FALSE(install::withoutLine("xa,1\n", "a,1")); // whole lines only
}

TEST_CASE("an archive gets entries and loses them, and is what it was") {
    const std::string before =
        zipped({{"a.txt", "one"}, {"folder/b.bin", std::string(5000, 'x')}, {"c", ""}});
    install::ZipRecords archive(before, "x.zip");
    CHECK(archive.bytes() == before);
    CHECK(archive.contentOf("folder/b.bin") == std::string(5000, 'x'));
    archive.add({{"new.mesh", "bytes"}, {"new.contact", std::string(300, 'y')}});
    const std::string with = archive.bytes();
    install::ZipRecords again(with, "x.zip");
    CHECK(again.names() == std::vector<std::string>{"a.txt", "folder/b.bin", "c", "new.mesh", "new.contact"});
    CHECK(again.contentOf("new.contact") == std::string(300, 'y'));
    CHECK(with.starts_with(before.substr(0, before.find("PK\x01\x02")))); // what was there lies where it lay
    CHECK_THROWS_AS(again.add({{"a.txt", "two"}}), Refused);
    again.remove("new.mesh"), again.remove("new.contact");
    CHECK(again.bytes() == before);
    again.remove("a.txt");
    CHECK(install::ZipRecords(again.bytes(), "x.zip").names() ==
          std::vector<std::string>{"folder/b.bin", "c"});
}

TEST_CASE("archives with wrong directories are refused") {
    const std::string good = zipped({{"a.txt", "one"}, {"b.txt", std::string(400, 'z')}});
    std::mt19937 random(5);
    const auto directory = good.find("PK\x01\x02");
    for (int i = 0; i < 4000; ++i) {
        std::string bad = good;
        if (i % 3 == 0) bad.resize(random() % bad.size());
        for (unsigned k = 0; k <= random() % 3; ++k)
            if (!bad.empty())
                bad[i % 2 && bad.size() > directory ? directory + random() % (bad.size() - directory)
                                                    : random() % bad.size()] = char(random());
        try {
            install::ZipRecords archive(bad, "x.zip");
            for (const std::string& name : archive.names()) {
                try {
                    archive.contentOf(name, 1 << 20);
                } catch (const Error&) {
                }
            }
        } catch (const Error&) {
        }
    }
    CHECK_THROWS_AS(install::ZipRecords("", "x.zip"), Error);
    CHECK_THROWS_AS(install::ZipRecords(good.substr(0, good.size() - 1), "x.zip"), Error);
    CHECK_THROWS_WITH(install::ZipRecords(zipped({{"a", "1"}}) + std::string(70000, ' '), "x.zip"),
                      Catch::Contains("no directory"));
}

TEST_CASE("everything of a city is read, and what is wrong is said with its line") {
    CityFolder city;
    const auto read = install::readCity(city.path());
    CHECK(read.problems.empty());
    CHECK(read.districts.size() == 2);
    CHECK(read.definitions.size() == 3);
    CHECK(read.definitionOf("wall")->traits == std::vector<std::string>{"solid", "breaks"});
    CHECK(read.places.size() == 3);
    CHECK(read.places[1].district == "west");
    CHECK(read.collisionFiles.size() == 2);
    CHECK(read.collisionOf("shed")->by == "Maker 0");
    CHECK(read.freeNumber(40010, 40020) == 40012);
    CHECK(read.freeNumber(40010, 40020, {40012}) == 40014);
    CHECK(read.freeNumber(40010, 40011) == 0);
    CHECK(read.districtAt({-1, 1})->name == "west");
    CHECK_FALSE(read.districtAt({500, 500}));

    SECTION("numbers as words, twice-used numbers, missing columns") {
        city.folder.write("definitions.csv", "name,number\na,forty\nb,40010\nc,40010\nb,40012\n");
        city.folder.write("placements-east.csv", "name,x,y\na,1,2\n");
        city.folder.write("placements-west.csv",
                          "name,x,y,z,qx,qy,qz,qw\na,1,2,3,0,0,0,0\na,one,2,3,0,0,0,1\n");
        const auto odd = install::readCity(city.path());
        CHECK(odd.problems ==
              std::vector<std::string>{"definitions.csv, line 2: \"forty\" is no number",
                                       "definitions.csv, line 4: 40010 is the number of \"b\" and of \"c\"",
                                       "definitions.csv, line 5: \"b\" is defined twice",
                                       "placements-east.csv has no column \"z\"",
                                       "placements-west.csv, line 2: its turn is none",
                                       "placements-west.csv, line 3: \"one\" is no x"});
    }
    SECTION("half of its files are missing") {
        std::filesystem::remove(city.path() / "objects.zip");
        std::filesystem::remove(city.path() / "districts.csv");
        const auto half = install::readCity(city.path());
        CHECK(half.problems ==
              std::vector<std::string>{"districts.csv is missing", "objects.zip is missing"});
        CHECK(half.definitions.size() == 3);
        std::filesystem::remove(city.path() / "definitions.csv");
        CHECK_THROWS_WITH(install::readCity(city.path()), Catch::Contains("has neither"));
    }
    SECTION("a hundred thousand lines") {
        std::string text = "name;x;y;z;qx;qy;qz;qw\r\n";
        for (int i = 0; i < 100000; ++i) text += fmt::format("pole;{},5;2;0;0;0;0;1\r\n", i % 90);
        city.folder.write("placements-east.csv", text);
        const auto large = install::readCity(city.path());
        CHECK(large.problems.empty());
        CHECK(large.places.size() == 100002);
        CHECK(large.places[7].at.x == 7.5);
    }
}

TEST_CASE("a world of twenty thousand placements is open within half a second") {
    CityFolder city;
    std::string text = "name,x,y,z,qx,qy,qz,qw\n";
    for (int i = 0; i < 20000; ++i)
        text += fmt::format("{},{:.2f},{:.2f},0,0,0,{:.6f},{:.6f}\n", i % 3 ? "pole" : "shed", i % 200 * 0.5,
                            i / 200 * 0.9, std::sin(i * 0.01), std::cos(i * 0.01));
    city.folder.write("placements-east.csv", text);
    const auto start = std::chrono::steady_clock::now();
    const auto read = install::readCity(city.path());
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    const auto shapes = install::cityShapes(read, glm::dmat4(1), "pole");
    CHECK(read.places.size() == 20002);
    CHECK(shapes.things.size() == 6668); // sheds, and the wall
    WARN(fmt::format("20 000 placements in {:.3f} s", seconds));
    CHECK(seconds < 0.5);
}

TEST_CASE("an object is put into a city, found there, and taken out again with every byte as it was") {
    for (const char* end : {"\n", "\r\n"}) {
        CityFolder city(2, end);
        const auto before = city.all();
        TemporaryFolder delivered;
        writeObject(object(40012), "quay-clock", delivered.path());

        const auto plan = install::planned(delivered.path(), city.path());
        REQUIRE(problemsOf(plan).empty());
        CHECK(city.all() == before); // a dry run
        REQUIRE(plan.changes.size() == 3);
        CHECK(plan.changes[0].path == "definitions.csv");
        CHECK(plan.changes[0].details ==
              std::vector<std::string>{"line 5: quay-clock,40012,quay-clock,170,"});
        CHECK(
            plan.changes[1].details ==
            std::vector<std::string>{"3 entries: quay-clock.mesh, quay-clock.pictures, quay-clock.contact"});
        CHECK(plan.changes[2].details ==
              std::vector<std::string>{"line 3: quay-clock,50,50,0,0,0,0.300706,0.953717"});

        install::install(delivered.path(), city.path());
        const auto now = install::readCity(city.path());
        CHECK(now.problems.empty());
        CHECK(now.definitionOf("quay-clock")->number == 40012);
        CHECK(now.collisionFiles.size() == 3);
        REQUIRE(now.places.size() == 4);
        CHECK(now.places[1].district == "east");
        const auto found = install::found(city.path(), "quay-clock");
        REQUIRE(found.size() == 5);
        CHECK(found[3] == "definitions.csv, line 5: quay-clock,40012,quay-clock,170,");
        for (const auto& [name, text] : before) // others' bytes are there, unchanged
            if (name.ends_with(".csv")) CHECK(city.text(name).starts_with(text));
        standins::TryReport report;
        const auto loaded = standins::city::loadCity(city.path(), report);
        CHECK(loaded->places.size() == 4);
        const auto first = city.all();

        install::install(delivered.path(), city.path()); // again: the same
        CHECK(city.all() == first);
        install::takeOut(city.path(), "quay-clock");
        CHECK(city.all() == before);
        install::install(delivered.path(), city.path());
        CHECK(city.all() == first);
        install::takeOut(city.path(), "quay-clock");
        CHECK(city.all() == before);
    }
}

TEST_CASE("what stands in the way of an object is said before the first byte") {
    CityFolder city(5);
    const auto before = city.all();
    TemporaryFolder delivered;
    const auto problems = [&](const Model& model, const std::string& name,
                              const install::Wishes& wishes = {}) {
        std::filesystem::remove_all(delivered.path());
        writeObject(model, name, delivered.path());
        const auto plan = install::planned(delivered.path(), city.path(), wishes);
        if (!plan.problems.empty())
            CHECK_THROWS_AS(install::install(delivered.path(), city.path(), wishes), Refused);
        CHECK(city.all() == before);
        return plan;
    };
    Model bare = object(40012);
    bare.colliders.clear();
    CHECK(problemsOf(problems(bare, "shed")) ==
          "The city has a \"shed\" already: definitions.csv, line 2\nobjects.zip has a \"shed.mesh\" "
          "already\nobjects.zip has a \"shed.pictures\" already\n");
    Model taken = bare;
    taken.onMap = std::make_shared<const OnMap>(OnMap{40011, 50, {}, bare.onMap->places});
    CHECK(problemsOf(problems(taken, "clock")) == "40011 is the number of \"pole\" already\n");
    Model far = bare;
    far.onMap = std::make_shared<const OnMap>(OnMap{40012, 50, {}, {{{0, 0, 5000}}}});
    CHECK(problemsOf(problems(far, "clock")) == "At 0, 5000 there is no district\n");
    far.onMap = std::make_shared<const OnMap>(OnMap{40012, 50, {}, {{{0, 0, 50}, {1, 0, 0, 0}, "north"}}});
    CHECK(problemsOf(problems(far, "clock")) == "There is no district \"north\"; there are east, west\n");

    const auto full = problems(object(40012), "clock");
    CHECK(full.mergeInto.size() == 5);
    CHECK(problemsOf(full).starts_with(
        "5 of 5 collision files are in use, everybody's together: extra-0.contact by Maker 0, "));
    CHECK(problemsOf(problems(object(40012), "clock", {.mergeInto = "none.contact"}))
              .starts_with("There is no collision file \"none.contact\""));

    SECTION("merged into another's, and out of it again") {
        const install::Wishes wishes{.mergeInto = "extra-3.contact"};
        const auto plan = problems(object(40012), "clock", wishes);
        REQUIRE(problemsOf(plan).empty());
        CHECK(plan.changes[1].details[0] == "its body into extra-3.contact, by Maker 3");
        install::install(delivered.path(), city.path(), wishes);
        const auto now = install::readCity(city.path());
        CHECK(now.collisionFiles.size() == 5);
        CHECK(now.collisionOf("clock")->bodies == std::vector<std::string>{"thing-3", "clock"});
        install::takeOut(city.path(), "clock");
        CHECK(city.all() == before);
        // Also where others have put something in meanwhile.
        install::install(delivered.path(), city.path(), wishes);
        TemporaryFolder lamp;
        Model bodiless = object(40014);
        bodiless.colliders.clear();
        writeObject(bodiless, "lamp", lamp.path());
        install::install(lamp.path(), city.path());
        install::takeOut(city.path(), "clock");
        install::takeOut(city.path(), "lamp");
        CHECK(city.all() == before);
    }
    SECTION("a read-only table") {
        const auto table = city.path() / "placements-east.csv";
        std::filesystem::permissions(table, std::filesystem::perms::owner_read);
        const auto locked = problems(bare, "clock");
        CHECK(problemsOf(locked) == "placements-east.csv is read-only\n");
        CHECK(locked.readOnly == std::vector<std::string>{"placements-east.csv"});
        install::install(delivered.path(), city.path(), {.makeWritable = true});
        const auto writable = [&] {
            return (std::filesystem::status(table).permissions() & std::filesystem::perms::owner_write) !=
                   std::filesystem::perms::none;
        };
        CHECK(writable());
        install::takeOut(city.path(), "clock");
        CHECK_FALSE(writable());
        CHECK(city.all() == before);
    }
}

TEST_CASE("what others did meanwhile stays, and is noticed") {
    CityFolder city(2);
    TemporaryFolder clock, lamp;
    writeObject(object(40012), "clock", clock.path());
    writeObject(object(40014, {-30, 20, 0}), "lamp", lamp.path());
    const auto before = city.all();
    install::install(clock.path(), city.path());
    install::install(lamp.path(), city.path());
    city.folder.write("definitions.csv", city.text("definitions.csv") + "kiosk,40099,kiosk,50,\n");
    const auto plan = install::plannedOut(city.path(), "clock");
    REQUIRE(plan.problems.empty());
    REQUIRE(plan.notes.size() == 1);
    CHECK(plan.notes[0] ==
          "definitions.csv, objects.zip were changed by others since; only what was added goes");
    install::takeOut(city.path(), "clock");
    auto now = install::readCity(city.path());
    CHECK(now.problems.empty());
    CHECK_FALSE(now.definitionOf("clock"));
    CHECK(now.definitionOf("lamp"));
    CHECK(now.definitionOf("kiosk"));
    CHECK(now.entries.contains("lamp.contact"));
    CHECK_FALSE(now.entries.contains("clock.mesh"));
    install::takeOut(city.path(), "lamp");
    CHECK(city.text("definitions.csv") == before.at("definitions.csv") + "kiosk,40099,kiosk,50,\n");
    CHECK(city.text("objects.zip") == before.at("objects.zip"));

    install::install(clock.path(), city.path());
    std::string edited = city.text("definitions.csv");
    edited.replace(edited.find("clock,40012"), 11, "clock,40777");
    city.folder.write("definitions.csv", edited);
    CHECK(
        problemsOf(install::plannedOut(city.path(), "clock")) ==
        "definitions.csv has not what was put there any more (clock,40012,clock,170,); somebody has changed "
        "it\n");
    CHECK(problemsOf(install::plannedOut(city.path(), "clock", {.losesChanges = true})).empty());
}

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
    Model model = ranStep(object(41000), "place-on-map", {{"places", places}}, calder.get()).model;
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
    writeObject(object(40020), "Post", delivered.path());
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
    "a number that another piece of the project has is refused with its name, and a free one is found") {
    const auto calder = sheet("portcalder");
    TestSurroundings around;
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
    } catch (const Error& error) {
        CHECK(error.whole().find("41207 is the number of Quay clock already") != std::string::npos);
    }
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
