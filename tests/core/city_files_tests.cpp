// A city's folder: tables and archives as others leave them, and what is read of them.
#include "core/base/error.h"
#include "core/install/city.h"
#include "core/install/city_shapes.h"
#include "core/base/csv_table.h"
#include "core/install/zip_records.h"
#include "support/city_folder.h"
#include "support/quickest.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;

TEST_CASE("tables are read as others leave them") {
    const auto table =
        readCsv("\xEF\xBB\xBFName;Number ;note\r\na;1;\"x;\"\"y\"\"\"\r\n\r\n b ;2,5\r\n\"c\nd\";3;;extra");
    CHECK(table.separator == ';');
    CHECK(table.lineEnd == "\r\n");
    CHECK_FALSE(table.endsLine);
    CHECK(table.columns == std::vector<std::string>{"name", "number", "note"});
    REQUIRE(table.rows.size() == 3);
    CHECK(table.rows[0].at(2) == "x;\"y\"");
    CHECK(table.rows[1].at(0) == "b");
    CHECK(table.rows[1].line == 4);
    CHECK(table.rows[1].at(2).empty()); // too short a row
    CHECK(csvNumber(table, table.rows[1].at(1)) == 2.5);
    CHECK(table.rows[2].at(0) == "c\nd");
    CHECK(readCsv("").columns.empty());
    CHECK(readCsv("a,b\n\"open").problems.size() == 1);
    CHECK_FALSE(csvNumber(table, "nine"));
    CHECK_FALSE(csvNumber(table, "1e999"));
}

TEST_CASE("a line that was added goes again, and every other byte stays") {
    for (const std::string text :
         {"name,number\na,1\n", "name,number\r\na,1\r\n", "name;number\r\na;1", "name,number",
          "\xEF\xBB\xBFname,number\n\"x\ny\",1\n", "name,number\n\n\na,1\n\n"}) {
        CAPTURE(text);
        const auto table = readCsv(text);
        const std::string line = csvLine(table, {{"name", "new, one"}, {"number", "7"}});
        const std::string with = text + csvAddition(table, line);
        const auto again = readCsv(with);
        REQUIRE_FALSE(again.rows.empty());
        CHECK(again.rows.back().at(0) == "new, one");
        CHECK(again.rows.size() == table.rows.size() + 1);
        CHECK(withoutLine(with, line) == text);
        CHECK(withoutLine(with + (table.endsLine ? "" : table.lineEnd) + "other,2\n", line));
        CHECK_FALSE(withoutLine(text, line));
    }
    CHECK_FALSE(withoutLine("xa,1\n", "a,1")); // whole lines only
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
    const WorkWatch watch;
    const auto read = install::readCity(city.path());
    const double seconds = watch.seconds();
    const auto shapes = install::cityShapes(read, glm::dmat4(1), "pole");
    CHECK(read.places.size() == 20002);
    CHECK(shapes.things.size() == 6668); // sheds, and the wall
    WARN(fmt::format("20 000 placements in {:.3f} s", seconds));
    CHECK(seconds < 0.5);
}
