// Entries of tables that a game has already: where they go, what stays, and the numbers that are given out.
#include "core/base/error.h"
#include "core/deliver/table_entries.h"
#include "support/quickest.h"
#include "support/sheet_text.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

using namespace zl;
using Catch::Matchers::Contains;

namespace table_entries_tests {

TEST_CASE("a table gets an entry where its order wants it, and nothing else changes") {
    platform::TableOutput csv{.path = "t.csv", .header = "Number;Name", .key = "number"};
    CHECK(deliver::tableWith("", csv, {"7;bell"}, "t") == "Number;Name\n7;bell\n");
    const std::string game = "Number;Name\r\n2;\"a;b\"\r\n10;other ;x\r\n30;c";
    CHECK(deliver::tableWith(game, csv, {"20;bell"}, "t") ==
          "Number;Name\r\n2;\"a;b\"\r\n10;other ;x\r\n20;bell\r\n30;c");
    CHECK(deliver::tableWith(game, csv, {"40;bell"}, "t") == game + "\r\n40;bell\r\n");
    CHECK(deliver::tableWith(game, csv, {"10;bell"}, "t") == "Number;Name\r\n2;\"a;b\"\r\n10;bell\r\n30;c");
    CHECK(deliver::tableWithout(game, csv, {"10"}, "t") == "Number;Name\r\n2;\"a;b\"\r\n30;c");
    CHECK(deliver::tableWith("Number;Name\n9;x\n3;y\n", csv, {"5;z"}, "t") ==
          "Number;Name\n9;x\n3;y\n5;z\n"); // in no order: to the end
    CHECK_THROWS_AS(deliver::tableWith("a;b\n1;2\n", csv, {"5;z"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("", csv, {";z"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("", csv, {"1;z\n2;y"}, "t"), Error);

    const platform::TableOutput xml{
        .path = "t.xml", .form = platform::TableOutput::Form::Xml, .under = "world/things", .key = "id"};
    const std::string made = deliver::tableWith(
        "<?xml version=\"1.0\"?>\n<world><!-- ours --><things><thing id=\"b\"/></things></world>", xml,
        {"<thing id=\"a\"><mesh>x</mesh></thing>", "<thing id=\"c\"/>"}, "t");
    CHECK_THAT(made, Contains("<!-- ours -->"));
    CHECK(made.find("id=\"a\"") < made.find("id=\"b\""));
    CHECK(made.find("id=\"b\"") < made.find("id=\"c\""));
    CHECK_THROWS_AS(deliver::tableWith("<world", xml, {"<thing id=\"a\"/>"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("", xml, {"<thing/>"}, "t"), Error);

    const platform::TableOutput json{
        .path = "t.json", .form = platform::TableOutput::Form::Json, .under = "things", .key = "n"};
    CHECK(deliver::tableWith("{\"v\":1,\"things\":[{\"n\":2},{\"n\":9}]}", json, {"{\"n\":5}"}, "t") ==
          "{\n  \"v\": 1,\n  \"things\": [\n    {\n      \"n\": 2\n    },\n    {\n      \"n\": 5\n    },\n"
          "    {\n      \"n\": 9\n    }\n  ]\n}\n");
    // A number stands before a text, and what is no number is one: an order that is none loses no entry.
    CHECK(deliver::tableWith("Number;Name\n9;x\nnan;y\nten;z\n", csv, {"10;b", "inf;c", "eleven;d"}, "t") ==
          "Number;Name\n9;x\n10;b\neleven;d\ninf;c\nnan;y\nten;z\n");
    CHECK_THROWS_AS(deliver::tableWith("[1", json, {"{\"n\":5}"}, "t"), Error);
    CHECK_THROWS_AS(deliver::tableWith("{\"things\":7}", json, {"{\"n\":5}"}, "t"), Error);
}

TEST_CASE("a table of other columns, or another separator, gets its entries in those") {
    const platform::TableOutput csv{.path = "t.csv", .header = "Number;Name", .key = "number"};
    CHECK(deliver::tableWith("\xEF\xBB\xBFname,colour,number\r\ntub,red,3\r\n", csv, {"7;\"bell, old\""},
                             "t") == "\xEF\xBB\xBFname,colour,number\r\ntub,red,3\r\n\"bell, old\",,7\r\n");
    CHECK_THROWS_WITH(deliver::tableWith("number;title\n3;tub\n", csv, {"7;bell"}, "t"),
                      Contains("no column \"name\""));
    // Old ends of lines, where a lone carriage return is one.
    CHECK(deliver::tableWith("Number;Name\r3;tub\r9;mast\r", csv, {"7;bell"}, "t") ==
          "Number;Name\r3;tub\r7;bell\r9;mast\r");
    CHECK(deliver::tableWithout("Number;Name\r3;\"tub\rof two lines\"\r9;mast\r", csv, {"3"}, "t") ==
          "Number;Name\r9;mast\r");
}

TEST_CASE("numbers that a table gives out are a range, and stand beside the key") {
    const auto with = [](const std::string& lines) {
        return sheetText("[deliver]\nkind = \"files\"\n[[table]]\npath = \"t.csv\"\nheader = \"id,name\"\n"
                         "key = \"name\"\nentry = \",x\"\n" +
                         lines);
    };
    const auto sheet = readSheetText(with("number = \"id\"\nnumbers = [7, 9]\n"));
    CHECK(sheet.files.tables.at(0).numbers == std::pair(7, 9));
    const auto refused = [&](const char* lines, const char* words) {
        INFO(lines);
        CHECK_THROWS_WITH(readSheetText(with(lines)), Contains(words));
    };
    refused("number = \"id\"\n", "\"numbers\" is missing");
    refused("numbers = [7, 9]\n", "nothing says where");
    refused("number = \"name\"\nnumbers = [7, 9]\n", "tells no entry from the next");
    refused("number = \"id\"\nnumbers = [7]\n", "is no range");
    refused("number = \"id\"\nnumbers = 7\n", "is no range");
    refused("number = \"id\"\nnumbers = [9, 7]\n", "are 9 to 7");
    refused("number = \"id\"\nnumbers = [0.5, 7]\n", "are 0.5 to 7");
    refused("number = \"id\"\nnumbers = [0, 1e300]\n", "are 0 to");
    refused("number = \"id\"\nnumbers = [0, nan]\n", "is not a number");
}

TEST_CASE("entries get numbers that nobody has, and keep those that they have") {
    const platform::TableOutput csv{
        .path = "t.csv", .header = "id,name", .key = "name", .numbered = "id", .numbers = {7000, 7003}};
    // Nothing there: from the least on, whatever the entry says outside of the range.
    CHECK(deliver::tableWith("", csv, {",bell", "1,anchor", "7000,crate"}, "t") ==
          "id,name\n7001,anchor\n7000,bell\n7002,crate\n");
    const std::string game = "id,name\n7001,mast\n7000,rope\n12,tub\n";
    CHECK(deliver::tableWith(game, csv, {"7000,bell", "7001,oar"}, "t") ==
          "id,name\n7002,bell\n7001,mast\n7003,oar\n7000,rope\n12,tub\n");
    // Of the key that is there already: also a number that is outside of the range.
    CHECK(deliver::tableWith(game, csv, {"7003,tub", "7000,rope"}, "t") ==
          "id,name\n7001,mast\n7000,rope\n12,tub\n");
    // As it had at another time, unless somebody else took that one since.
    CHECK(deliver::tableWith("id,name\n", csv, {"7000,bell"}, "t", "id,name\n7002,bell\n") ==
          "id,name\n7002,bell\n");
    CHECK(deliver::tableWith("id,name\n7002,oar\n", csv, {"7000,bell"}, "t", "id,name\n7002,bell\n") ==
          "id,name\n7000,bell\n7002,oar\n");
    CHECK_THROWS_WITH(deliver::tableWith(game, csv, {"0,a", "0,b", "0,c"}, "t"),
                      Contains("all numbers from 7000 to 7003 are taken"));
    CHECK_THROWS_WITH(deliver::tableWith("name\nx\n", csv, {"0,a"}, "t"), Contains("no column \"id\""));
    // Written as a member, an attribute, or an element, whichever is there.
    const platform::TableOutput json{.path = "t.json",
                                     .form = platform::TableOutput::Form::Json,
                                     .under = "things",
                                     .key = "name",
                                     .numbered = "id",
                                     .numbers = {1, 9}};
    const auto list = nlohmann::json::parse(
        deliver::tableWith(R"({"things": [{"name": "tub", "id": 1}, {"name": "odd", "id": "2"}]})", json,
                           {R"({"name": "bell"})", R"({"name": "oar", "id": 2})"}, "t"))["things"];
    REQUIRE(list.size() == 4);
    for (const auto& one : list) {
        if (one["name"] == "bell") CHECK(one["id"] == 3);
        if (one["name"] == "oar") CHECK(one["id"] == 4);
    }
    const platform::TableOutput xml{.path = "t.xml",
                                    .form = platform::TableOutput::Form::Xml,
                                    .under = "world",
                                    .key = "name",
                                    .numbered = "id",
                                    .numbers = {1, 9}};
    const std::string world =
        deliver::tableWith("<world><thing name=\"tub\"><id>1</id></thing></world>", xml,
                           {"<thing name=\"bell\"/>", "<thing name=\"oar\"><id/></thing>"}, "t");
    CHECK_THAT(world, Contains("<thing name=\"bell\" id=\"2\" />") && Contains("<id>3</id>"));
    // Thousands of entries into thousands: in one go.
    std::vector<std::string> many;
    std::string there = "id,name\n";
    for (int i = 0; i < 20000; ++i) {
        there += fmt::format("{},had-{:05}\n", 2 * i, i);
        many.push_back(fmt::format(",new-{:05}", i));
    }
    platform::TableOutput wide = csv;
    wide.numbers = {0, 60000};
    const WorkWatch watch;
    const auto all = deliver::entriesIn(deliver::tableWith(there, wide, many, "t"), wide, "t");
    CHECK(watch.seconds() < 5);
    std::set<int> numbers;
    for (const auto& one : all) numbers.insert(one.number.value());
    CHECK(numbers.size() == 40000);
}

} // namespace table_entries_tests
