// Blocks edited by hand: laid over a build that may come out otherwise, kept in a document, undone by change.
#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/blocks/greedy_mesh.h"
#include "core/blocks/laid_over.h"
#include "core/blocks/faces.h"
#include "core/blocks/moved_blocks.h"
#include "core/blocks/turns.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/project/blocks_document.h"
#include "core/project/companions.h"
#include "core/project/documents.h"
#include "core/recipe/recipe.h"
#include "support/finds.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

#include <random>
#include <set>

using namespace zl;
using namespace zl::blocks;
using nlohmann::json;
using project::BlocksChange;
using project::BlocksDocument;

namespace {

Hull deck(glm::ivec3 size = {3, 1, 4}) {
    Hull out;
    out.edge = 0.25, out.build = Build(size), out.first = {-(size.x / 2), 0, 0};
    out.paints = {{"oak", {0.6f, 0.4f, 0.2f}}, {"slate", {0.4f, 0.45f, 0.5f}}};
    for (std::size_t i = 0; i < out.build.cellCount(); ++i) out.build.put(cellIn(size, i), {});
    return out;
}

BlocksDocument documentOf(const BlocksDocument::Cells& cells) {
    BlocksDocument out;
    out.edge = 0.25, out.paints = deck().paints, out.cells = cells;
    return out;
}

Hull layerOf(const BlocksDocument& document) {
    return *document.model({}, {}).blocks;
}

} // namespace

TEST_CASE("what is done by hand lies over the build, which grows as far as it takes") {
    const Block slope{blocks::Kind::Slope, 3, 1};
    const auto document = documentOf({{{0, 1, 3}, slope},
                                      {{0, 2, 3}, Block{}},
                                      {{4, 0, 0}, Block{}},
                                      {{1, 0, 1}, std::nullopt},
                                      {{0, 0, 0}, slope}});
    const LaidOver laid = laidOver(deck(), layerOf(document));
    CHECK(laid.put == 3);
    CHECK(laid.taken == 1);
    CHECK(laid.other == 1);
    CHECK(laid.idle.empty());
    CHECK(laid.hull.build.size() == glm::ivec3(9, 3, 4)); // as wide on both sides of the centre line
    CHECK(laid.hull.first == glm::ivec3(-4, 0, 0));
    REQUIRE(laid.hull.at({0, 1, 3}));
    CHECK(*laid.hull.at({0, 1, 3}) == slope);
    CHECK(*laid.hull.at({0, 0, 0}) == slope);
    CHECK(laid.hull.at({1, 0, 1}) == nullptr);
    CHECK(laid.hull.build.count() == 12 + 3 - 1);
}

TEST_CASE("when the build below comes out otherwise, edits stay where they are and tell what does nothing") {
    const auto document =
        documentOf({{{0, 1, 0}, Block{}}, {{1, 0, 3}, std::nullopt}, {{-1, 0, 2}, Block{}}});
    const LaidOver first = laidOver(deck(), layerOf(document));
    CHECK(first.idle == std::vector<glm::ivec3>{{-1, 0, 2}}); // it stands there already
    const LaidOver shorter = laidOver(deck({3, 1, 3}), layerOf(document));
    CHECK(shorter.put == 1);
    CHECK(shorter.taken == 0);
    CHECK(shorter.idle == std::vector<glm::ivec3>{{-1, 0, 2}, {1, 0, 3}});
    Hull larger = deck({5, 1, 4});
    CHECK(*laidOver(larger, layerOf(document)).hull.at({0, 1, 0}) == Block{});
    larger.edge = 0.5;
    CHECK_THROWS_AS(laidOver(larger, layerOf(document)), Error);
    // Paints are found by what they are.
    Hull other = deck();
    other.paints = {{"slate", {0.4f, 0.45f, 0.5f}}, {"pale oak", {0.65f, 0.45f, 0.25f}}};
    CHECK(laidOver(other, layerOf(documentOf({{{0, 1, 0}, Block{blocks::Kind::Cube, 0, 0}}})))
              .hull.at({0, 1, 0})
              ->colour == 1);
}

TEST_CASE("changes of a document are made and taken back, whatever was there") {
    std::mt19937 random(5);
    const Hull below = deck({5, 3, 6});
    BlocksDocument document = documentOf({});
    std::vector<std::pair<BlocksChange, std::string>> made;
    for (int round = 0; round < 200; ++round) {
        project::InCells cells;
        for (int k = 0; k < 4; ++k) {
            const glm::ivec3 cell(int(random() % 7) - 3, int(random() % 4), int(random() % 7));
            if (random() % 3)
                cells[cell] = Block{blocks::Kind(random() % 4), 0, std::uint8_t(random() % 2)};
            else
                cells[cell] = std::nullopt;
        }
        for (auto& [cell, block] : cells)
            if (block) block->turn = turnsOf(block->kind)[random() % turnsOf(block->kind).size()];
        made.emplace_back(BlocksChange::over(&below, cells), jsonText(document.toJson()));
        made.back().first.make(document);
        const LaidOver laid = laidOver(below, layerOf(document));
        for (const auto& [cell, wanted] : cells) {
            const Block* there = laid.hull.at(cell);
            REQUIRE((there != nullptr) == wanted.has_value());
            if (there) CHECK(*there == *wanted);
        }
        CHECK(laid.idle.size() <= document.cells.size());
    }
    const auto again = BlocksDocument::read(parsedJson(jsonText(document.toJson())));
    CHECK(static_cast<const BlocksDocument&>(*again).cells == document.cells);
    CHECK(static_cast<const BlocksDocument&>(*again).paints.size() == 2);
    while (!made.empty()) {
        made.back().first.takeBack(document);
        CHECK(jsonText(document.toJson()) == made.back().second);
        made.pop_back();
    }
    CHECK(document.cells.empty());
    BlocksChange far(BlocksChange::over(nullptr, {{{0, 0, 99999}, Block{}}}));
    CHECK_THROWS_AS(far.make(document), Error);
    CHECK(document.cells.empty());
}

TEST_CASE("what already stands below is not kept a second time") {
    const Hull below = deck();
    const auto wanted = BlocksChange::over(
        &below, {{{0, 0, 0}, Block{}}, {{0, 5, 0}, std::nullopt}, {{1, 0, 0}, std::nullopt}});
    CHECK_FALSE(wanted.at({0, 0, 0}).has_value());
    CHECK_FALSE(wanted.at({0, 5, 0}).has_value());
    CHECK(wanted.at({1, 0, 0}).has_value());
}

TEST_CASE("documents of blocks that are none are refused with what is wrong") {
    const auto problem = [](const char* text) {
        try {
            BlocksDocument::read(parsedJson(text));
            return std::string();
        } catch (const Error& error) {
            return std::string(error.what());
        }
    };
    CHECK(problem(R"({"edge": 0.25, "put": [[0, 0, 0, 1, 3, 0]], "taken": [[1, 0, 0]]})").empty());
    for (const char* bad :
         {"[]", "{}", R"({"edge": "x"})", R"({"edge": 0})", R"({"edge": -1})", R"({"edge": 1e300})",
          R"({"edge": 1, "put": 3})", R"({"edge": 1, "put": [[0, 0]]})",
          R"({"edge": 1, "put": [[0, 0, 0, 9, 0, 0]]})", R"({"edge": 1, "put": [[0, 0, 0, 0, 24, 0]]})",
          R"({"edge": 1, "put": [[0, 0, 0, 0, 0, 4]]})", R"({"edge": 1, "put": [[0, 0, 99999999, 0, 0, 0]]})",
          R"({"edge": 1, "put": [[0, 0, 0.5, 0, 0, 0]]})",
          R"({"edge": 1, "put": [[0, 0, 0, 0, 0, 0], [0, 0, 0, 1, 0, 0]]})",
          R"({"edge": 1, "put": [[0, 0, 0, 0, 0, 0]], "taken": [[0, 0, 0]]})",
          R"({"edge": 1, "paints": [{"name": 3, "colour": [0, 0, 0]}]})",
          R"({"edge": 1, "paints": [{"name": "x", "colour": [0, 0]}]})"}) {
        CAPTURE(bad);
        CHECK_FALSE(problem(bad).empty());
    }
}

TEST_CASE("chosen blocks are moved, flipped and mirrored, and flipped twice are as before") {
    Hull hull = deck({5, 2, 5});
    hull.build.put({1, 1, 1}, {blocks::Kind::Corner, 7, 1});
    const Chunk chunk = chunkWithin(hull, {1, 1, 3}, {-1, 0, 1});
    CHECK(chunk.size() == 3 * 2 * 3);
    for (int axis = 0; axis < 3; ++axis) {
        CHECK(flipped(flipped(chunk, axis), axis) == chunk);
        CHECK(flipped(chunk, axis) != chunk);
    }
    CHECK(movedBy(chunk, {0, 3, -1})[0].first == chunk[0].first + glm::ivec3(0, 3, -1));
    for (const auto& [cell, block] : imagesOf(chunk)) CHECK(cell.x != 0);
    CHECK(imagesOf(imagesOf(chunk)).size() == 2 * 2 * 3);
    CHECK(chunkWithin(hull, {90, 90, 90}, {99, 99, 99}).empty());
    // A slope put on a floor lies flat on it and opens to who put it there.
    for (const auto& eye : {glm::dvec3(1, 1, 0), glm::dvec3(0, 1, -1), glm::dvec3(-1, 1, 0.1)}) {
        const Turn turn = turnTowards(blocks::Kind::Slope, 3, eye);
        CHECK(covers({blocks::Kind::Slope, turn, 0}, 2) == 0b1111);
        const glm::ivec3 open = turned(turn, {0, 1, 1});
        CHECK(glm::dot(glm::dvec3(open), eye) > 1.5);
    }
    std::set<Turn> seen;
    Turn turn = 0;
    for (int k = 0; k < 12; ++k) seen.insert(turn = nextTurn(blocks::Kind::Slope, turn));
    CHECK(seen.size() == 12);
}

TEST_CASE("the step By hand rests on its document: edited and undone, the build is as before") {
    TemporaryFolder folder;
    const auto documents = std::make_shared<project::Documents>();
    project::SourceCache sources(documents);
    writeAllOrNone(
        folder.path(),
        {{"deck.xml",
          "<hull version='1' name='deck' across='3' up='1' along='4' edge='0.25'>"
          "<run x='0' y='0' z='0' long='4' shape='cube'/><run x='1' y='0' z='0' long='4' shape='cube'/>"
          "<run x='2' y='0' z='0' long='4' shape='cube'/></hull>"}});
    auto project = projectOf(folder, {{"Deck", "deck.xml"}});
    const auto file = folder / "deck.blocks";
    documents->make(file);
    recipe::Entry entry{"by-hand", true, {{"blocks", {{"file", "deck.blocks"}}}}};
    project.pieces[0].crossings[0] = {"hullyard", {entry}};
    const auto hullyard = sheet("hullyard");
    const auto count = [&] {
        const auto loaded = sources.load(project, project.pieces[0], Progress());
        const project::Companions around(project, project.pieces[0], *hullyard, sources, nullptr, Progress());
        const auto made = recipe::evaluate(loaded.model, loaded.hash, project.pieces[0].crossings[0].recipe,
                                           {hullyard.get(), &around}, nullptr, {});
        const Hull* hull = hullOf(made.model);
        REQUIRE(hull);
        CHECK(hull->below);
        return hull->build.count();
    };
    CHECK(count() == 12);
    BlocksChange put(BlocksChange::over(nullptr, {{{0, 1, 0}, Block{}}, {{0, 2, 0}, Block{}}}));
    documents->edit(file, put);
    CHECK(count() == 14);
    documents->takeBack(file, put);
    CHECK(count() == 12);
    // On what is no build it says so.
    CHECK_THROWS_AS(ran(Model(), "by-hand"), Error);
}

TEST_CASE("a hull's XML is a model, of its blocks and in metres, and broken ones say where") {
    TemporaryFolder folder;
    writeAllOrNone(
        folder.path(),
        {{"a.xml",
          "<hull version='1' name='raft' across='3' up='1' along='4' edge='0.5'>"
          "<paint name='oak' rgb='a87b4f'/><run x='1' y='0' z='0' long='4' shape='cube' paint='0'/></hull>"},
         {"b.xml", "<hull version='1' across='3' up='1' along='4' edge='0.5'><run x='7' y='0' z='0' "
                   "shape='cube'/></hull>"},
         {"c.xml",
          "<!DOCTYPE x [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;&a;&a;'>]><hull>&b;</hull>"},
         {"d.xml", "<note/>"}});
    const Model raft = formats::readModel(folder / "a.xml");
    REQUIRE(hullOf(raft));
    CHECK(raft.name == "raft");
    CHECK_FALSE(raft.frame.unitAssumed);
    CHECK(hullOf(raft)->build.count() == 4);
    CHECK(geometry::worldBounds(raft).size().z == Approx(2));
    CHECK(geometry::worldBounds(raft).centre().x == Approx(0));
    for (const char* bad : {"b.xml", "c.xml", "d.xml"})
        CHECK_THROWS_AS(formats::readModel(folder / bad), Error);
}
