// Catalogues: thousands of items found by words, with their codes explained and their makers kept.
#include "core/base/error.h"
#include "core/catalogue/catalogue.h"
#include "core/catalogue/take_out_as.h"
#include "core/formats/format.h"
#include "core/project/project.h"
#include "support/quickest.h"
#include "support/finds.h"
#include "support/row_packages.h"
#include "support/sheets.h"

using namespace zl;
using catalogue::Catalogue;
using catalogue::Order;

namespace {

catalogue::Entry item(std::int64_t number, const std::string& code, const std::string& title,
                      const std::string& pack, std::int64_t added = 0) {
    catalogue::Entry entry;
    entry.number = number, entry.code = code, entry.title = title, entry.pack = pack, entry.added = added;
    return entry;
}

std::vector<catalogue::Entry> four() {
    auto list = std::vector{item(1, "kid-armBasketOrange", "Orange basket", "Harvest fair", 30),
                            item(2, "quay-crabBasket", "Crab basket", "Quay set", 10),
                            item(3, "grown-a-stormHat", "Sou'wester, caf\xc3\xa9 blue", "Quay set", 20),
                            item(4, "night-lamp", "a lamp", "Night market", 40)};
    list[3].maker = "Odd Fennel", list[3].link = "berth 4";
    list[0].resource = 0x6666, list[0].thumbnail = 0x1111;
    list[1].resource = 0x8888;
    return list;
}

std::string numbers(const Catalogue& from, const std::vector<std::uint32_t>& places) {
    std::string out;
    for (const auto place : places) out += std::to_string(from.entries()[place].number);
    return out;
}

} // namespace

TEST_CASE("A catalogue is found by the beginnings of words in title, code and pack") {
    const TemporaryFolder folder;
    writeFile(folder / "a.rowcatalogue", catalogue::bytesOf(four(), rows::appleBox()));
    const Catalogue opened(folder / "a.rowcatalogue", {});
    const auto find = [&](std::string_view text) { return numbers(opened, opened.find(text)); };
    CHECK(find("") == "1234");
    CHECK(find("   ") == "1234");
    CHECK(find("bask") == "12");
    CHECK(find("BASKET oran") == "1");
    CHECK(find("quay") == "23");
    CHECK(find("armBasket") == "1"); // a code is taken apart
    CHECK(find("grown-a-") == "3");
    CHECK(find("kid-armBasketOrange") == "1");
    CHECK(find("cafe") == "3"); // without regard to accents
    CHECK(find("asket").empty());
    CHECK(find("nothing").empty());
    for (const char* hostile :
         {"\"", "\" OR \"", "*", "a* b*)", "NEAR(a b)", "text:basket", "-", "'; DROP TABLE words"})
        CHECK_NOTHROW(find(hostile)); // words, whatever FTS5 would make of them
    CHECK(numbers(opened, opened.ordered(Order::Name)) == "4213");
    CHECK(numbers(opened, opened.ordered(Order::Pack)) == "1423");
    CHECK(numbers(opened, opened.ordered(Order::Newest)) == "4132");
}

TEST_CASE("An entry knows its picture, its geometry, and what its maker allows") {
    const TemporaryFolder folder;
    const auto file = folder / "a.rowcatalogue";
    writeFile(file, catalogue::bytesOf(four(), rows::appleBox()));
    CHECK(catalogue::isCatalogue(file));
    const Catalogue opened(file, {});
    const auto& entries = opened.entries();
    CHECK(opened.thumbnail(entries[0]).starts_with("\x89PNG"));
    CHECK(opened.thumbnail(entries[1]).empty());
    CHECK(opened.geometryOf(entries[0]) == "geometry/appleBox.rowmesh");
    CHECK(triangleCount(formats::readModel(file / opened.geometryOf(entries[0]))) == 12);
    CHECK_THROWS_AS(opened.geometryOf(entries[1]), Error);
    CHECK(entries[0].permission == "allowed");
    CHECK(entries[3].permission == "ask-first"); // somebody else's, and nothing is said
    CHECK(entries[3].isOthersWork());
    CHECK(entries[3].link == "berth 4");
}

TEST_CASE("Twenty thousand entries are open in half a second and found in thirty milliseconds") {
    const TemporaryFolder folder;
    std::vector<catalogue::Entry> many;
    for (int i = 1; i <= 20'000; ++i)
        many.push_back(item(i, fmt::format("grown-a-thingNumber{}", i),
                            fmt::format("Mended lamp of the pier {}", i), "Quay set"));
    writeFile(folder / "a.rowcatalogue", catalogue::bytesOf(many, {}));
    CHECK(quickestOfThree([&] { Catalogue(folder / "a.rowcatalogue", {}); }) < secondsAllowed(0.5));
    const Catalogue opened(folder / "a.rowcatalogue", {});
    CHECK(opened.find("men lam pie").size() == 20'000);
    CHECK(quickestOfThree([&] { opened.find("men lam pie"); }) < secondsAllowed(0.03));
    CHECK(opened.find("777").size() == 11); // 777 and those from 7770 to 7779
}

TEST_CASE("Catalogues that lack things are read as far as they go, others are refused") {
    const TemporaryFolder folder;
    const auto file = folder / "x.rowcatalogue";
    const auto refused = [&](const std::string& sql) {
        rows::writeSql(file, sql);
        try {
            Catalogue(file, {});
        } catch (const Error& error) {
            return error.whole();
        }
        return std::string();
    };
    rows::writeSql(
        file, "CREATE TABLE entries(number, code); INSERT INTO entries VALUES(7, 'kid-x'), ('a', x'ff')");
    const Catalogue small(file, {});
    REQUIRE(small.entries().size() == 2);
    CHECK(small.entries()[0].title == "kid-x");
    CHECK(small.thumbnail(small.entries()[0]).empty());
    CHECK_THROWS_AS(small.geometryOf(small.entries()[0]), Error);
    CHECK(refused("CREATE TABLE other(a)").find("is no catalogue") != std::string::npos);
    CHECK(refused("CREATE TABLE entries(number)").find("is no catalogue") != std::string::npos);
    CHECK(refused("CREATE TABLE t(number, code); CREATE VIEW entries AS SELECT * FROM t")
              .find("is no catalogue") != std::string::npos);
    files::Limits few;
    few.entries = 1;
    CHECK_THROWS_AS(Catalogue(file, few), Error);
    writeFile(file, "SQLite format 3");
    CHECK_FALSE(catalogue::isCatalogue(file));
    CHECK_FALSE(catalogue::isCatalogue(folder / "missing"));
}

TEST_CASE("A sheet says what codes mean, the longest one that fits") {
    const TemporaryFolder folder;
    std::string text = readText(std::filesystem::path(ZEST_LOOM_ROOT) / "platforms/thistledown.toml");
    writeFile(folder / "a.toml", text + "\n[[prefix]]\ncode = \"grown-\"\nmeans = \"grown-up\"\n");
    const auto sheet = platform::readSheet(folder / "a.toml");
    CHECK(sheet.prefixOf("grown-a-hat")->means == "grown-up, build A");
    CHECK(sheet.prefixOf("grown-up")->means == "grown-up");
    CHECK(sheet.prefixOf("other") == nullptr);
    const auto before = platform::hashOf(sheet);
    auto changed = sheet;
    changed.prefixes[0].means = "infant";
    CHECK(platform::hashOf(changed) != before);
}

TEST_CASE("Who made what a piece only takes in is named in its delivery") {
    const TemporaryFolder folder;
    auto project = projectOf(folder, {{"Pose", "a.stl"}, {"Lamp", "b.stl"}});
    project.pieces[1].sources = {
        {"b.stl", "Odd Fennel", "CC BY-NC 4.0", project::Permission::AskFirst, "berth 4"}};
    CHECK(creditOf(project, project.pieces[0], "playmeadow") == creditOf(project.pieces[0]));
    project.pieces[0].crossings[0].recipe = {{"carry-over-placement", true, {{"from", {{"piece", "Lamp"}}}}}};
    CHECK(creditOf(project, project.pieces[0], "playmeadow") ==
          creditOf(project.pieces[0]) +
              "; made with Lamp by Odd Fennel (berth 4), CC BY-NC 4.0 (permission not yet asked)");
    const auto again = project::fromJson(toJson(project), project.file);
    CHECK(again.pieces[1].sources[0].link == "berth 4");
}

TEST_CASE("Taking out a thousand items that is stopped half-way leaves whole packages only") {
    const TemporaryFolder folder;
    const auto file = folder / "many.rowcatalogue";
    // A thousand entries for one and the same box.
    auto entries = four();
    entries.resize(1, entries[0]);
    for (int i = 1; i < 1000; ++i) {
        entries.push_back(entries[0]);
        entries.back().number = i + 100, entries.back().code = fmt::format("kid-basket{}", i);
    }
    writeFile(file, catalogue::bytesOf(entries, rows::appleBox()));
    std::vector<std::string> names;
    for (int i = 0; i < 1000; ++i) names.push_back(fmt::format("basket-{}", i));
    std::atomic<bool> stop{false};
    const Progress progress([&](double done, std::string_view) { stop = done > 0.5; }, &stop);
    CHECK_THROWS_AS(
        catalogue::takeOutAs(file, Catalogue(file, {}).entries(), names, folder / "out", {}, progress),
        Cancelled);
    std::size_t whole = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder / "out")) {
        CHECK(entry.path().extension() == ".rowpackage");
        CHECK(package::readPackage(entry.path(), {}).resources.size() > 3);
        ++whole;
    }
    CHECK(whole > 300);
    CHECK(whole < 700);
}
