// The slip: how it reads hulls, and how they lie in the water.
#include "core/blocks/greedy_mesh.h"
#include "core/blocks/pieces.h"
#include "core/blocks/solid.h"
#include "core/deliver/block_hull.h"
#include "standins/slip/floating.h"
#include "standins/slip/slip_arena.h"
#include "standins/world/arena.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;
using standins::Message;
using standins::TryReport;

namespace {

blocks::Hull boat(glm::ivec3 size) {
    blocks::Hull out;
    out.edge = 0.25, out.build = blocks::Build(size), out.first = {-(size.x / 2), 0, 0};
    return out;
}

/// A box without a lid, walls of one block.
blocks::Hull barge(glm::ivec3 size) {
    blocks::Hull out = boat(size);
    for (std::size_t i = 0; i < out.build.cellCount(); ++i) {
        const glm::ivec3 c = blocks::cellIn(size, i);
        if (c.y == 0 || c.x == 0 || c.z == 0 || c.x == size.x - 1 || c.z == size.z - 1) out.build.put(c, {});
    }
    return out;
}

struct Slip {
    TemporaryFolder folder;
    explicit Slip(const blocks::Hull& hull) {
        writeAllOrNone(folder.path(), deliver::BlockHull{}.make(blocks::modelOf(hull, "boat"),
                                                                *sheet("hullyard"), {.name = "Boat"}, {}));
    }
    explicit Slip(const std::string& xml) { folder.write("a.hull.xml", xml); }
    TryReport tried() { return standins::slip::tryFolder(folder.path()); }
    bool accepts() { return tried().accepted; }
};

std::string refusal(const std::string& xml) {
    Slip slip(xml);
    const TryReport report = slip.tried();
    CHECK_FALSE(report.accepted);
    for (const Message& message : report.messages)
        if (message.kind == Message::Kind::Refused) return message.text;
    return {};
}

std::string hullXml(const std::string& inside, const std::string& size = "across='3' up='3' along='3'") {
    return "<hull version='1' name='x' " + size + " edge='0.25'>" + inside + "</hull>";
}

} // namespace

TEST_CASE("a full raft sinks as deep as it is heavy") {
    blocks::Hull raft = boat({9, 4, 20});
    for (std::size_t i = 0; i < raft.build.cellCount(); ++i)
        raft.build.put(blocks::cellIn({9, 4, 20}, i), {});
    const auto tests = Slip(raft).tried().tests;
    // 6.5 kg a block where water is 15.625 kg: 0.416 of four blocks.
    CHECK(tests["tonnes"].get<double>() == Approx(720 * 0.0065));
    CHECK(tests["draught"].get<double>() == Approx(4 * 6.5 / 15.625).epsilon(1e-4));
    CHECK(tests["freeboard"].get<double>() == Approx(4 - 4 * 6.5 / 15.625).epsilon(1e-3));
    CHECK(tests["floats"] == true);
    CHECK(tests["heel"].get<double>() == Approx(0).margin(1e-6));
    CHECK(tests["trim"].get<double>() == Approx(0).margin(1e-6));
    // Metacentre of a box: draught/2 + width²/(12 draught) above its bottom; mass at half height.
    const double draught = 4 * 6.5 / 15.625;
    CHECK(tests["righting"].get<double>() == Approx(draught / 2 + 81 / (12 * draught) - 2).epsilon(0.01));
}

TEST_CASE("a barge is lifted by the air in it, up to where water comes in") {
    const auto tests = Slip(barge({9, 6, 20})).tried().tests;
    const double count = 9 * 20 + 5 * (2 * 20 + 2 * 7);
    CHECK(tests["blocks"] == count);
    CHECK(tests["draught"].get<double>() == Approx(count * 6.5 / 15.625 / (9 * 20)).epsilon(1e-3));
    CHECK(tests["freeboard"].get<double>() == Approx(6 - tests["draught"].get<double>()).epsilon(1e-3));
    // With a hole in its side above the water it floats as deep, and has less left.
    blocks::Hull holed = barge({9, 6, 20});
    holed.build.take({0, 3, 10});
    const auto less = Slip(holed).tried().tests;
    CHECK(less["floats"] == true);
    CHECK(less["freeboard"].get<double>() == Approx(3 - less["draught"].get<double>()).epsilon(1e-3));
    // With one in its bottom only its wood lifts it: 179 blocks in the bottom, 54 in each layer of walls.
    holed.build.take({4, 0, 10});
    const auto open = Slip(holed).tried().tests;
    CHECK(open["draught"].get<double>() == Approx(1 + ((count - 2) * 6.5 / 15.625 - 179) / 54).epsilon(1e-3));
}

TEST_CASE("what is heavier on one side leans, and what is tall and narrow turns over") {
    blocks::Hull hull = barge({9, 5, 21});
    for (int z = 12; z < 20; ++z) hull.build.put({7, 1, z}, {}), hull.build.put({7, 2, z}, {});
    const auto tests = Slip(hull).tried().tests;
    CHECK(tests["heel"].get<double>() > 1);
    CHECK(tests["trim"].get<double>() > 0.1); // by the bow: it lies ahead
    blocks::Hull mast = boat({1, 20, 3});
    for (std::size_t i = 0; i < mast.build.cellCount(); ++i)
        mast.build.put(blocks::cellIn({1, 20, 3}, i), {});
    CHECK(Slip(mast).tried().tests["righting"].get<double>() < 0);
}

TEST_CASE("what holds to nothing keeps a hull off the slip, and falls off at launch") {
    blocks::Hull hull = barge({5, 3, 9});
    hull.build.put({2, 2, 4}, {});
    Slip slip(hull);
    const TryReport report = slip.tried();
    CHECK_FALSE(report.accepted);
    CHECK(report.tests["pieces"] == 2);
    TryReport shown;
    const auto arena = standins::slip::open(slip.folder.path(), shown);
    REQUIRE(arena);
    const auto warnings = arena->marks();
    CHECK(std::ranges::any_of(warnings, [](const auto& mark) { return mark.warning; }));
    const std::size_t before = arena->drawn().size();
    arena->act("launch");
    for (int k = 0; k < 300; ++k) arena->advance(1 / 30.0);
    CHECK(arena->drawn().size() < before);
    arena->act("back");
    CHECK(arena->drawn().size() == before);
}

TEST_CASE("it floats on the slip's water as deep as the table says") {
    Slip slip(barge({9, 6, 20}));
    TryReport report;
    const auto arena = standins::slip::open(slip.folder.path(), report);
    REQUIRE(arena);
    CHECK(arena->tables()[0].rows[1].values[0].find("blocks") != std::string::npos);
    arena->act("launch");
    for (int k = 0; k < 400; ++k) arena->advance(1 / 30.0);
    int water = -1;
    for (std::size_t i = 0; i < arena->items().size(); ++i)
        if (arena->items()[i].name == "water") water = int(i);
    float surface = 0, bottom = 0;
    for (const auto& drawn : arena->drawn()) {
        if (drawn.item == water) surface = drawn.pose[3].y;
        if (arena->items()[std::size_t(drawn.item)].name == "blocks")
            bottom = (drawn.pose * glm::vec4(0, 0, 0, 1)).y;
    }
    CHECK(surface - bottom ==
          Approx(report.tests.empty() ? slip.tried().tests["draught"].get<double>() : 0).margin(0.05));
}

TEST_CASE("the importer stops at everything that it does not know") {
    CHECK(refusal("<x/>").find("<hull>") != std::string::npos);
    CHECK(refusal("not XML").find("XML") != std::string::npos);
    CHECK(refusal(hullXml("<extra/>")).find("extra") != std::string::npos);
    CHECK(refusal(hullXml("<run x='0' y='0' z='0' shape='cube' made='by'/>")).find("made") !=
          std::string::npos);
    CHECK(refusal(hullXml("<run x='0' y='0' z='0' shape='ball'/>")).find("ball") != std::string::npos);
    CHECK(refusal(hullXml("<run x='3' y='0' z='0' shape='cube'/>")).find("0 to 2") != std::string::npos);
    CHECK(refusal(hullXml("<run x='nan' y='0' z='0' shape='cube'/>")).find("nan") != std::string::npos);
    CHECK(refusal(hullXml("<run x='0' y='0' z='0' long='9' shape='cube'/>")).find("long") !=
          std::string::npos);
    CHECK(refusal(hullXml("<run x='0' y='0' z='0' shape='cube'/><run x='0' y='0' z='0' shape='cube'/>"))
              .find("two") != std::string::npos);
    CHECK(refusal(hullXml("<run x='0' y='0' z='0' shape='slope' top='up'/>")).find("up") !=
          std::string::npos);
    CHECK(refusal(hullXml("<run x='0' y='0' z='0' shape='slope' spin='4'/>")).find("spin") !=
          std::string::npos);
    CHECK(refusal(hullXml("", "across='9999' up='1' along='1'")).find("9999") != std::string::npos);
    CHECK(refusal(hullXml("")).find("no block") != std::string::npos);
    CHECK(refusal(hullXml("<run x='0' y='0' z='0' shape='cube'/>", "across='2' up='1' along='1'"))
              .find("keel") != std::string::npos);
    CHECK(refusal("<!DOCTYPE x [<!ENTITY a 'aaaa'>]>" + hullXml("&a;")).size() > 0);
    TemporaryFolder empty;
    CHECK_FALSE(standins::slip::tryFolder(empty.path()).accepted);
    CHECK_FALSE(standins::slip::tryFolder(empty / "nothing").accepted);
}

TEST_CASE("the slip and the program agree on every kind, turn and neighbour") {
    std::mt19937 random(11);
    for (int round = 0; round < 60; ++round) {
        blocks::Hull hull = boat({5, 4, 6});
        hull.paints = {{"a", {1, 0, 0}}, {"b", {0, 0, 1}}};
        for (std::size_t i = 0; i < hull.build.cellCount(); ++i)
            if (random() % 2)
                hull.build.put(
                    blocks::cellIn({5, 4, 6}, i),
                    {blocks::Kind(random() % 4), blocks::Turn(random() % 24), std::uint8_t(random() % 2)});
        Slip slip(hull);
        TryReport report;
        const auto there = standins::slip::readHull(slip.folder.path(), report);
        REQUIRE(there);
        CHECK(there->count() == hull.build.count());
        CHECK(there->pieces == blocks::piecesOf(hull.build).blocks);
        double volume = 0;
        for (std::size_t i = 0; i < there->cells.size(); ++i) volume += there->volumeOf(i);
        CHECK(volume == Approx(blocks::volumeOf(hull.build)));
        // And on where each is: the middle of mass of what is seen, paint by paint, is that of its blocks.
        for (std::size_t paint = 0; paint < 2; ++paint)
            for (const auto& shape : {standins::slip::shapeOf(*there, paint, false)})
                for (const glm::vec3& p : shape.positions)
                    CHECK(glm::all(glm::greaterThanEqual(p, glm::vec3(-1e-4f))));
    }
}
