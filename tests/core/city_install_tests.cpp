// Objects put into a city and taken out again: what stands in the way, and what others did meanwhile.
#include "core/base/error.h"
#include "core/install/city.h"
#include "core/install/install.h"
#include "core/model/on_map.h"
#include "standins/city/city.h"
#include "standins/world/arena.h"
#include "support/city_folder.h"
#include "support/city_object.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

std::string problemsOf(const install::Plan& plan) {
    std::string out;
    for (const std::string& problem : plan.problems) out += problem + "\n";
    return out;
}

} // namespace

TEST_CASE("an object is put into a city, found there, and taken out again with every byte as it was") {
    for (const char* end : {"\n", "\r\n"}) {
        CityFolder city(2, end);
        const auto before = city.all();
        TemporaryFolder delivered;
        writeObject(cityObject(40012), "quay-clock", delivered.path());

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
    Model bare = cityObject(40012);
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

    const auto full = problems(cityObject(40012), "clock");
    CHECK(full.mergeInto.size() == 5);
    CHECK(problemsOf(full).starts_with(
        "5 of 5 collision files are in use, everybody's together: extra-0.contact by Maker 0, "));
    CHECK(problemsOf(problems(cityObject(40012), "clock", {.mergeInto = "none.contact"}))
              .starts_with("There is no collision file \"none.contact\""));

    SECTION("merged into another's, and out of it again") {
        const install::Wishes wishes{.mergeInto = "extra-3.contact"};
        const auto plan = problems(cityObject(40012), "clock", wishes);
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
        Model bodiless = cityObject(40014);
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
    writeObject(cityObject(40012), "clock", clock.path());
    writeObject(cityObject(40014, {-30, 20, 0}), "lamp", lamp.path());
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
