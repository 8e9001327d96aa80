// Holder, marks and engine version: what a block world reads to the letter.
#include "core/contact/marks.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/platform/check.h"
#include "support/ran_step.h"
#include "support/shapes.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <random>

using namespace zl;
using nlohmann::json;

namespace {

const platform::Sheet& keep() {
    static const auto sheet = platform::sheetNamed(platform::loadSheets(), "cobblekeep");
    return *sheet;
}

const platform::Finding& finding(const platform::FitReport& report, const char* id) {
    REQUIRE(report.rule(id));
    return report.rule(id)->finding;
}

/// A block in a holder, with these marks.
Model marked(std::map<int, std::string> marks) {
    Model block = shapes::box({-0.5, 0, -0.5}, {0.5, 1, 0.5});
    block = ranStep(block, "holder", json::object(), &keep()).model;
    block.nodes[0].marks = std::move(marks);
    return block;
}

/// The word as somebody may write it who remembers it.
std::string misspelt(const std::string& word, std::mt19937& random, int how) {
    static const std::pair<char, const char*> alike[] = {{'a', "а"}, {'e', "е"}, {'C', "С"},  {'M', "М"},
                                                         {'y', "у"}, {'i', "і"}, {'O', "0"},  {'l', "1"},
                                                         {'o', "ο"}, {'r', "г"}, {'W', "Ｗ"}, {'b', "Ь"}};
    std::string out = word;
    const std::size_t at = random() % word.size();
    switch (how) {
    case 0: // capitals
        out[at] = std::islower(static_cast<unsigned char>(out[at])) ? char(std::toupper(out[at]))
                                                                    : char(std::tolower(out[at]));
        return out;
    case 1: // blanks and signs
        return out.insert(random() % (word.size() + 1),
                          std::array{" ", "\t", "_", "-", "\xc2\xa0", "\xe2\x80\x8b"}[random() % 6]);
    case 2: // letters that look alike
        for (std::size_t i = 0; i < word.size(); ++i)
            for (const auto& [letter, with] : alike) {
                const std::size_t k = (at + i) % word.size();
                if (letter != 'b' && out == word && word[k] == letter) out.replace(k, 1, with);
            }
        return out;
    case 3: // a letter too many or too few
        return random() % 2 ? out.erase(at, 1) : out.insert(at, 1, 'x');
    default: // all small, all large
        for (char& c : out) c = char(how == 4 ? std::tolower(c) : std::toupper(c));
        return out;
    }
}

} // namespace

TEST_CASE("two hundred misspelt or misplaced marks are found, and named as what they are meant for") {
    std::mt19937 random(20261129);
    int found = 0;
    for (int i = 0; i < 200; ++i) {
        const contact::MarkPlace& meant = keep().touch.marks[random() % 3];
        const std::string written = i % 4 == 3 ? meant.name : misspelt(meant.name, random, i % 7);
        int place = meant.place;
        if (written == meant.name || random() % 3 == 0)
            while (place == meant.place) place = int(random() % 12);
        CAPTURE(i, written, place, meant.name);
        const Model block = marked({{place, written}});
        const auto odd = contact::oddMarks(block, keep().touch);
        REQUIRE(odd.size() == 1);
        REQUIRE(odd[0].meant);
        CHECK(odd[0].meant->name == meant.name);
        CHECK(odd[0].why ==
              fmt::format("\"{}\" in place {} does nothing: the platform reads \"{}\" in place {}", written,
                          place, meant.name, meant.place));
        CHECK_FALSE(finding(platform::check(block, keep()), "marks").holds);
        const auto mended = ranStep(block, "marks", json::object(), &keep());
        CHECK(mended.model.nodes[0].marks == std::map<int, std::string>{{meant.place, meant.name}});
        CHECK(finding(platform::check(mended.model, keep()), "marks").holds);
        ++found;
    }
    CHECK(found == 200);
}

TEST_CASE("marks that are right stay, what means nothing goes, and only the holder's are read") {
    CHECK(contact::oddMarks(marked({{2, "CarryMe"}, {7, "ClimbOn"}}), keep().touch).empty());
    const Model odd = marked({{2, "CarryMe"}, {5, "Xylophone"}});
    CHECK(contact::oddMarks(odd, keep().touch)[0].why ==
          "\"Xylophone\" in place 5 does nothing: the platform reads CarryMe, Wired, ClimbOn");
    const auto mended = ranStep(odd, "marks", {{"wanted", {{{"mark", "Wired"}}}}}, &keep());
    CHECK(mended.model.nodes[0].marks == std::map<int, std::string>{{2, "CarryMe"}, {4, "Wired"}});
    CHECK(ranStep(odd, "marks", {{"brought", "gone"}}, &keep()).model.nodes[0].marks.empty());

    Model below = marked({});
    below.nodes[1].marks = {{2, "CarryMe"}};
    CHECK(contact::oddMarks(below, keep().touch)[0].why ==
          "\"CarryMe\" in place 2 does nothing: it is on \"box\", and the platform reads what is on the "
          "holder");
    CHECK(ranStep(below, "marks", json::object(), &keep()).model.nodes[0].marks ==
          std::map<int, std::string>{{2, "CarryMe"}});
    const auto unknown = ranStep(below, "marks", {{"wanted", {{{"mark", "carryme"}}}}}, &keep());
    CHECK(unknown.shortfall == "Cobblekeep reads nothing called carryme");
}

TEST_CASE("a holder is put around everything and nothing moves") {
    Model lamp = shapes::box({1, 2, 3}, {2, 3, 4});
    lamp.name = "Crate lamp";
    lamp = moved(lamp, glm::rotate(glm::translate(glm::dmat4(1.0), {4, 0, 1}), 0.7, {0.0, 1.0, 0.0}));
    const auto before = geometry::worldBounds(lamp);
    const auto held = ranStep(lamp, "holder", json::object(), &keep());
    REQUIRE(held.model.nodes.size() == 2);
    CHECK(held.model.nodes[0].name == "crate-lamp.holder");
    CHECK(held.model.nodes[0].local == glm::dmat4(1.0));
    CHECK(held.model.placement == glm::dmat4(1.0));
    const auto after = geometry::worldBounds(held.model);
    CHECK(glm::distance(before.min, after.min) < 1e-9);
    CHECK(glm::distance(before.max, after.max) < 1e-9);
    CHECK(finding(platform::check(held.model, keep()), "holder-at-rest").holds);

    SECTION("again, it is the same") {
        const auto again = ranStep(held.model, "holder", json::object(), &keep());
        CHECK(again.model.nodes.size() == 2);
    }
    SECTION("whatever moves it afterwards is seen") {
        CHECK(
            finding(platform::check(moved(held.model, glm::translate(glm::dmat4(1.0), {0, 0.1, 0})), keep()),
                    "holder-at-rest")
                .note == "\"crate-lamp.holder\" stands off the origin");
        Model other = held.model;
        other.nodes[0].name = "Holder";
        CHECK(finding(platform::check(other, keep()), "holder-at-rest").note ==
              "the node around everything is called \"Holder\" and not NAME.holder");
        other.nodes.push_back({"second"});
        CHECK(finding(platform::check(other, keep()), "holder-at-rest").note ==
              "There is no one node around everything");
    }
    SECTION("an empty node at the top becomes it, with its marks") {
        Model wrapped = lamp;
        wrapped.nodes.insert(wrapped.nodes.begin(), {"export"});
        wrapped.nodes[0].marks = {{2, "CarryMe"}};
        wrapped.nodes[1].parent = 0;
        const auto one = ranStep(wrapped, "holder", json::object(), &keep());
        CHECK(one.model.nodes.size() == 2);
        CHECK(one.model.nodes[0].name == "crate-lamp.holder");
        CHECK(one.model.nodes[0].marks.size() == 1);
    }
}

TEST_CASE("marks and the engine's version come through a GLB") {
    Model block = marked({{2, "CarryMe"}, {3, "carryme"}});
    block.madeFor = "3.2";
    block.nodes[0].turns = TurnLimits{glm::dvec3(-1), glm::dvec3(1)}; // what else is among the extras stays
    TemporaryFolder folder;
    const auto file = folder.write("block.glb", formats::writeGlb(block, {"block"}, nullptr)[0].bytes);
    const Model back = formats::readModel(file);
    CHECK(back.nodes[0].marks == block.nodes[0].marks);
    CHECK(back.nodes[0].turns.has_value());
    CHECK(back.madeFor == "3.2");
    const auto report = platform::check(back, keep());
    CHECK(finding(report, "engine-version").note == "It is made for 3.2, and Cobblekeep runs 4.1");
    const auto now = ranStep(back, "engine-version", json::object(), &keep());
    CHECK(now.model.madeFor == "4.1");
    CHECK(now.notes[0] == "made for 4.1, no longer 3.2");
}

TEST_CASE("what is among a node's extras that is no mark is passed over") {
    TemporaryFolder folder;
    const auto read = [&](const std::string& extras) {
        const auto file = folder.write(
            "odd.gltf",
            R"({"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"a","extras":)" +
                extras + "}]}");
        return formats::readModel(file).nodes.at(0).marks;
    };
    CHECK(read(R"({"marks":{"2":"CarryMe"}})").size() == 1);
    for (const char* odd :
         {R"({"marks":["CarryMe"]})", R"({"marks":{"two":"CarryMe"}})", R"({"marks":{"-1":"a"}})",
          R"({"marks":{"99999999999999999999":"a"}})", R"({"marks":{"2":7}})", R"({"marks":{"2":""}})",
          R"({"marks":null})", "[]", "\"marks\""})
        CHECK(read(odd).empty());
}

TEST_CASE("whole blocks are counted on all sides") {
    const auto blocks = [](glm::dvec3 size) {
        return finding(platform::check(shapes::box({0, 0, 0}, size), keep()), "whole-blocks");
    };
    CHECK(blocks({1, 2, 1}).holds);
    CHECK(blocks({1.019, 0.981, 1}).holds);
    CHECK_FALSE(blocks({1.03, 1, 1}).holds);
    CHECK_FALSE(blocks({0.4, 1, 1}).holds); // nothing is less than one block
    CHECK(blocks({1, 1.03, 1}).measured == "1 × 1.03 × 1");
}
