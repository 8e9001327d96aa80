// Row packages: what refers to what, copies under new names, and the geometry out and in.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/package/group_pictures.h"
#include "core/package/make_mine.h"
#include "core/package/put_geometry.h"
#include "core/package/reference_check.h"
#include "core/package/references.h"
#include "core/package/tokens.h"
#include "support/finds.h"
#include "support/quickest.h"
#include "support/row_packages.h"

#include <random>

using namespace zl;
using package::Package;
using package::ResourceKind;

namespace {

const package::Mine pearBox{"pearBox", "Odd Fennel", {"kid-", "grown-a-"}};

std::string said(const std::function<void()>& work) {
    try {
        work();
    } catch (const Error& error) {
        return error.whole();
    }
    return {};
}

const std::string& bytesAt(const Package& package, const std::string& name) {
    const auto found = std::ranges::find(package.resources, name, &package::Resource::name);
    REQUIRE(found != package.resources.end());
    return *found->bytes;
}

std::string everyName(const Package& package) {
    std::string all;
    for (const auto& resource : package.resources) all += resource.name + " ";
    return all;
}

} // namespace

TEST_CASE("A package is written by one SQLite and read by another as it was") {
    const TemporaryFolder folder;
    const Package made = rows::appleBox();
    rows::write(folder / "a.rowpackage", made);
    const Package read = package::readPackage(folder / "a.rowpackage", {});
    REQUIRE(read.resources.size() == made.resources.size());
    for (std::size_t r = 0; r < made.resources.size(); ++r) {
        CHECK(read.resources[r].key == made.resources[r].key);
        CHECK(read.resources[r].name == made.resources[r].name);
        CHECK(*read.resources[r].bytes == *made.resources[r].bytes);
    }
}

TEST_CASE("References are found by key and by name, in texts and in geometry") {
    const Package box = rows::appleBox();
    const package::Links links(box);
    // Places: 0 picture, 1 wood, 2 lid, 3 geometry, 4 words, 5 entry, 6 a kind that is not known.
    CHECK(links.refersTo(1) == std::vector<std::size_t>{0});
    CHECK(links.refersTo(2) == std::vector<std::size_t>{0}); // by name
    CHECK(links.refersTo(3) == std::vector<std::size_t>{1, 2});
    CHECK(links.refersTo(4) == std::vector<std::size_t>{3});
    CHECK(links.refersTo(5) == std::vector<std::size_t>{3, 4});
    CHECK(links.refersTo(6).empty());
    CHECK(links.referredBy(0) == std::vector<std::size_t>{1, 2});
    CHECK(links.referredBy(3) == std::vector<std::size_t>{4, 5});
    CHECK(checkReferences(box, {}).isClean());
    CHECK(checkReferences(box, {}).references == 7);
}

TEST_CASE("What only looks like a reference is none") {
    Package p;
    rows::add(p, rows::key(ResourceKind::Text, 1), "words",
              "a01:00000000:0000000000000001 01:00000000:00000000000000012 01:0000:1 x@y 0@a zz@name "
              "mail a1b@place 01:00000000:000000000000000");
    CHECK(referencesIn(p.resources[0]).empty());
    rows::add(p, rows::key(ResourceKind::Text, 3), "over", "00@04:00000000:0000000000000001");
    CHECK(referencesIn(p.resources[1]).size() == 1); // the name is "04"; what follows it is no key of its own
    p.resources.pop_back();
    rows::add(p, rows::key(ResourceKind::Text, 2), "more", "(01:00000000:0000000000000001). 01@words.");
    const auto found = referencesIn(p.resources[1]);
    REQUIRE(found.size() == 2);
    CHECK(found[0].key == rows::key(ResourceKind::Text, 1));
    CHECK(found[1].name == "words");
}

TEST_CASE("A copy points nowhere into its original, and keeps the code in front of its name") {
    const Package original = rows::appleBox();
    const auto copied = makeMine(original, pearBox);
    const Package& copy = copied.package;
    CHECK(everyName(copy) ==
          "pearBox-red pearBox-wood pearBox-lid pearBox pearBox-words kid-pearBox pearBox-sound ");
    CHECK(copied.references == 6); // by key; the seventh is by name
    std::set<std::uint64_t> numbers;
    for (const auto& resource : copy.resources) {
        CHECK(resource.key.number >> 63 == 1);
        numbers.insert(resource.key.number);
    }
    CHECK(numbers.size() == copy.resources.size());
    const auto index = indexOf(original);
    CHECK(checkReferences(copy, {index}, &index).isClean());
    // Links lead as they did.
    const package::Links before(original), after(copy);
    for (std::size_t r = 0; r < copy.resources.size(); ++r) CHECK(after.refersTo(r) == before.refersTo(r));
    CHECK(bytesAt(copy, "pearBox-words").starts_with("An apple box.\nIts file is pearBox.\nMade of 02:"));
    CHECK(bytesAt(copy, "pearBox-words").ends_with("; see pearBox-wood.\n"));
    CHECK(bytesAt(copy, "kid-pearBox").find("\"title\": \"Apple box\", \"kind\": \"loose\"") !=
          std::string::npos);
}

TEST_CASE("A copy's bytes differ where numbers and names are, and nowhere else") {
    const Package original = rows::appleBox();
    const auto copied = makeMine(original, pearBox);
    for (std::size_t r = 0; r < original.resources.size(); ++r) {
        // Every new number and name put back by hand must give the original's bytes.
        std::string bytes = *copied.package.resources[r].bytes;
        const auto replace = [&](const std::string& from, const std::string& to) {
            for (auto at = bytes.find(from); at != std::string::npos; at = bytes.find(from, at + to.size()))
                bytes.replace(at, from.size(), to);
        };
        for (const auto& change : copied.changes) {
            replace(textOf(change.newKey), textOf(change.oldKey));
            std::string from(8, '\0'), to(8, '\0');
            std::memcpy(from.data(), &change.newKey.number, 8);
            std::memcpy(to.data(), &change.oldKey.number, 8);
            replace(from, to);
        }
        // Names in geometry stand behind their lengths: 7 and 8 letters differ.
        replace(std::string("\x0c\0pearBox-wood", 14), std::string("\x0d\0appleBox-wood", 15));
        replace(std::string("\x0b\0pearBox-lid", 13), std::string("\x0c\0appleBox-lid", 14));
        replace("is pearBox.", "is AppleBox.");
        replace("pearBox", "appleBox");
        INFO(original.resources[r].name);
        CHECK(bytes == *original.resources[r].bytes);
    }
}

TEST_CASE("The same name and maker give the same numbers, others give others") {
    const Package original = rows::appleBox();
    const auto numbers = [&](const package::Mine& mine, const std::set<std::uint64_t>& taken = {}) {
        std::vector<std::uint64_t> out;
        for (const auto& r : makeMine(original, mine, taken).package.resources) out.push_back(r.key.number);
        return out;
    };
    const auto first = numbers(pearBox);
    CHECK(numbers(pearBox) == first);
    CHECK(numbers({"pearBox", "Mira Quill", {}}) != first);
    CHECK(numbers({"plumBox", "Odd Fennel", {}}) != first);
    // What a neighbour has is never taken.
    const auto second = numbers(pearBox, {first.begin(), first.end()});
    for (const std::uint64_t number : second) CHECK(std::ranges::find(first, number) == first.end());
}

TEST_CASE("A thousand copies with random names never share a number") {
    const Package original = rows::appleBox();
    std::mt19937 dice(7);
    std::set<std::uint64_t> all;
    std::set<std::string> names;
    while (names.size() < 1000) {
        std::string name = "n";
        for (int i = 0; i < 6; ++i) name += char('a' + dice() % 26);
        if (!names.insert(name).second) continue;
        for (const auto& r : makeMine(original, {name, "Odd Fennel", {}}).package.resources)
            CHECK(all.insert(r.key.number).second);
    }
    CHECK(all.size() == 7000);
}

TEST_CASE("Five hundred resources are copied in about a second") {
    Package big;
    for (std::uint64_t i = 1; i <= 500; ++i) {
        std::string text;
        for (int line = 0; line < 200; ++line)
            text += fmt::format("line {} of thing-{}: 01:00000000:{:016x} and 01@thing-{}\n", line, i,
                                i % 500 + 1, (i * 7) % 500 + 1);
        rows::add(big, rows::key(ResourceKind::Text, i), fmt::format("thing-{}", i), text);
    }
    rows::add(big, rows::key(ResourceKind::Entry, 501), "thing", "{}");
    const double took = quickestOfThree([&] {
        const auto copied = makeMine(big, {"other", "Odd Fennel", {}});
        const auto index = indexOf(big);
        CHECK(checkReferences(copied.package, {index}, &index).isClean());
        CHECK(bytesOf(copied.package).size() > 5'000'000);
        CHECK(copied.references == 100'000);
    });
    CHECK(took < secondsAllowed(2.0)); // a second on a machine that does nothing else
}

TEST_CASE("Names are found whole and between hyphens only, and JSON's own words stay") {
    package::Names names;
    names.add("lamp", "torch");
    names.add("lamp-post", "mast");
    CHECK(names.replacedIn("lamp clamp lamps lamp-x my-lamp LAMP lamp. lamp-post lamp-poster l\xc3\xa4mp") ==
          "torch clamp lamps torch-x my-torch torch torch. mast torch-poster l\xc3\xa4mp");

    Package p;
    rows::add(p, rows::key(ResourceKind::Geometry, 1), "colour", rows::boxGeometry({{"colour", {}, 0, 12}}));
    rows::add(
        p, rows::key(ResourceKind::Material, 2), "worn",
        R"({"name": "worn", "colour": [1, 0, 0, 1], "kind": "worn", "pictures": {"colour": "04@colour"}})");
    const auto copy = makeMine(p, {"mine", "Odd Fennel", {}}).package;
    CHECK(
        *copy.resources[1].bytes ==
        R"({"name": "mine-worn", "colour": [1, 0, 0, 1], "kind": "worn", "pictures": {"colour": "04@mine"}})");
}

TEST_CASE("A name that contains the old one is a name of its own") {
    const Package original = rows::appleBox();
    const auto copied = makeMine(original, {"my-appleBox-two", "Odd Fennel", {"kid-"}});
    const auto index = indexOf(original);
    const auto checked = checkReferences(copied.package, {index}, &index);
    CHECK(checked.isClean());
    CHECK(everyName(copied.package).starts_with("my-appleBox-two-red "));
    CHECK(bytesAt(copied.package, "my-appleBox-two-words").find("is my-appleBox-two.") != std::string::npos);
}

TEST_CASE("Names that cannot be used are refused with the reason") {
    const Package original = rows::appleBox();
    for (const char* name : {"", "a b", "../x", "-x", "n\xc3\xa4me", "a.b"})
        CHECK(said([&] {
                  makeMine(original, {name, "Odd Fennel", {}});
              }).find("cannot be the name") != std::string::npos);
    CHECK(said([&] {
              makeMine(original, {"AppleBox", "Odd Fennel", {"kid-"}});
          }).find("called \"AppleBox\" too") != std::string::npos);
    CHECK(said([&] { makeMine(original, {"x", "", {}}); }).find("nobody is named") != std::string::npos);
}

TEST_CASE("One old name or number that is left is found, wherever it is") {
    const Package original = rows::appleBox();
    const auto index = indexOf(original);
    const auto left = [&](package::ResourceKey key, std::string bytes) {
        Package copy = makeMine(original, pearBox).package;
        rows::add(copy, key, "pearBox-more", std::move(bytes));
        const auto checked = checkReferences(copy, {index}, &index);
        CHECK(checked.collisions.empty());
        CHECK(said([&] { demandClean(checked); }) != "");
        return checked.foreign.empty() ? "" : checked.foreign[0].why;
    };
    const package::ResourceKey text = rows::key(ResourceKind::Text, ~0ull), odd{99, 0, ~0ull};
    CHECK(left(text, "see appleBox-wood") ==
          "the text \"pearBox-more\" still names \"appleBox-wood\" of the original");
    CHECK(left(text, "see 03:00000000:0000000000002222").find("points into") != std::string::npos);
    CHECK(left(text, "see 03@appleBox-wood").find("points into") != std::string::npos);
    CHECK(left(odd, "\x01 APPLEBOX \x02").find("still names \"APPLEBOX\"") != std::string::npos);
    CHECK(left(odd, std::string("\x01\0a\0p\0p\0l\0e\0B\0o\0x\0\0\0", 20)).find("still names \"appleBox\"") !=
          std::string::npos);
    CHECK(left(odd, "\x01 03:00000000:0000000000002222 \x02").find("of the original, and its kind") !=
          std::string::npos);
    std::string wide(1, '\x01');
    for (const char c : std::string("04:00000000:0000000000001111")) wide += c, wide += '\0';
    CHECK(left(odd, wide).find("of the original, and its kind") != std::string::npos);

    Package numbered = original;
    numbered.resources[3].key.number = 0x1234567890abcdef;
    numbered.resources[4].bytes = std::make_shared<const std::string>("nothing");
    numbered.resources[5].bytes = numbered.resources[4].bytes;
    const auto numberedIndex = indexOf(numbered);
    Package copy = makeMine(numbered, pearBox).package;
    rows::add(copy, odd, "pearBox-more", std::string("..\xef\xcd\xab\x90\x78\x56\x34\x12..", 12));
    CHECK(checkReferences(copy, {numberedIndex}, &numberedIndex).foreign.at(0).why.find("at byte 2") !=
          std::string::npos);
}

TEST_CASE("References that lead nowhere, into a neighbour, and numbers used twice are told apart") {
    const TemporaryFolder folder;
    Package one = rows::appleBox(), other;
    rows::add(other, rows::key(ResourceKind::Picture, 0x9999), "plum-red", "\x89PNG");
    rows::add(other, rows::key(ResourceKind::Material, 0x2222), "plum-wood", "{}"); // a number of the first
    rows::add(one, rows::key(ResourceKind::Text, 0xaaaa), "notes",
              "04:00000000:0000000000009999 04:00000000:000000000000dead 04@plum-red 04@nothing-there");
    rows::write(folder / "one.rowpackage", one);
    rows::write(folder / "other.rowpackage", other);
    writeFile(folder / "broken.rowpackage", "nothing");
    const Package read = package::readPackage(folder / "one.rowpackage", {});
    const auto checked = checkReferences(read, package::indicesBeside(read.file));
    REQUIRE(checked.foreign.size() == 3); // by number, by name, and the name as a word
    CHECK(checked.foreign[0].why ==
          "the text \"notes\" points into other.rowpackage (04:00000000:0000000000009999)");
    REQUIRE(checked.dangling.size() == 2);
    CHECK(checked.dangling[0].what == "04:00000000:000000000000dead");
    CHECK(checked.dangling[1].what == "04@nothing-there");
    REQUIRE(checked.collisions.size() == 1);
    CHECK(checked.collisions[0].why ==
          "the material \"appleBox-wood\" has the number 0000000000002222, and so has other.rowpackage");
    // The very same resource in two files is one, and collides with nothing.
    std::filesystem::copy(folder / "one.rowpackage", folder / "same.rowpackage");
    std::filesystem::remove(folder / "other.rowpackage");
    CHECK(checkReferences(read, package::indicesBeside(read.file)).collisions.empty());
}

TEST_CASE("Geometry comes out as a model with its groups, materials and pictures, Z up") {
    const TemporaryFolder folder;
    rows::write(folder / "a.rowpackage", rows::appleBox());
    const Model model = formats::readModel(folder / "a.rowpackage/geometry/appleBox.rowmesh");
    CHECK(brokenPromise(model) == "");
    CHECK(model.warnings.empty());
    CHECK(triangleCount(model) == 12);
    REQUIRE(model.materials.size() == 2);
    CHECK(model.materials[0].name == "appleBox-wood");
    CHECK(model.materials[1].image(PictureRole::Colour) == model.materials[0].image(PictureRole::Colour) + 1);
    CHECK_FALSE(model.frame.unitAssumed);
    const glm::dvec3 size = geometry::worldBounds(model).size();
    CHECK(size.x == Approx(1));
    CHECK(size.y == Approx(3)); // up here
    CHECK(size.z == Approx(2));
    CHECK(model.files.at(0) == folder / "a.rowpackage");
}

TEST_CASE("Geometry that nothing changed goes back as the same bytes") {
    const TemporaryFolder folder;
    const Package box = rows::appleBox();
    rows::write(folder / "a.rowpackage", box);
    Model model = formats::readModel(folder / "a.rowpackage/geometry/appleBox.rowmesh");
    const std::string& old = bytesAt(box, "appleBox");
    CHECK(package::withGeometryOf(model, old, box, "a") == old);
    // Twice as tall: only heights differ, and they stand on the third axis of the file.
    model.placement = glm::scale(glm::dmat4(1.0), {1, 2, 1}) * model.placement;
    const std::string tall = package::withGeometryOf(model, old, box, "a");
    const auto head = formats::rowMeshHead(tall, "a");
    CHECK(head.groups.at(1).name == "appleBox-lid");
    CHECK(head.groups.at(1).material == rows::key(ResourceKind::Material, 0x3333));
    float highest = 0;
    for (std::uint32_t v = 0; v < head.corners; ++v) {
        glm::vec3 p;
        std::memcpy(&p, tall.data() + head.arraysAt + 12 * v, 12);
        highest = std::max(highest, p.z);
    }
    CHECK(highest == 6.0f);
    // A part that wears none of the package's materials has no group to go to.
    model.materials[1].name = "velvet";
    CHECK(said([&] { package::withGeometryOf(model, old, box, "a"); }).find("material \"velvet\"") !=
          std::string::npos);
}

TEST_CASE("An item is taken out of a package with all that belongs to it, round in circles or not") {
    const TemporaryFolder folder;
    Package p = rows::appleBox();
    rows::add(p, rows::key(ResourceKind::Text, 0xa), "ring-one", "01:00000000:000000000000000b");
    rows::add(p, rows::key(ResourceKind::Text, 0xb), "ring-two", "01@ring-one 01:00000000:000000000000000b");
    rows::write(folder / "a.rowpackage", p);
    const Package item =
        package::readItem(folder / "a.rowpackage", rows::key(ResourceKind::Geometry, 0x4444), {});
    CHECK(everyName(item) == "appleBox-red appleBox-wood appleBox-lid appleBox appleBox-words kid-appleBox ");
    const Package ring = package::readItem(folder / "a.rowpackage", rows::key(ResourceKind::Text, 0xa), {});
    CHECK(everyName(ring) == "ring-one ring-two ");
    CHECK(said([&] {
              package::readItem(folder / "a.rowpackage", rows::key(ResourceKind::Text, 0xc), {});
          }).find("does not hold the text") != std::string::npos);
}

TEST_CASE("Hostile packages are a message, and run nothing of their own") {
    const TemporaryFolder folder;
    const auto file = folder / "x.rowpackage";
    const auto refused = [&](const std::string& sql) {
        rows::writeSql(file, sql);
        return said([&] { package::readPackage(file, {}); });
    };
    CHECK(refused("CREATE TABLE a(b)").find("no table of resources") != std::string::npos);
    CHECK(refused("CREATE TABLE resources(a, b)").find("cannot be read as SQLite") != std::string::npos);
    CHECK(refused("CREATE TABLE t(kind, \"group\", number, name, data);"
                  "CREATE VIEW resources AS SELECT * FROM t")
              .find("no table of resources") != std::string::npos);
    CHECK(refused("CREATE TABLE resources(kind, \"group\", number, name, data);"
                  "INSERT INTO resources VALUES(4, 0, 1, 'huge', zeroblob(600000000))")
              .find("a package may hold") != std::string::npos);
    // A trigger, a view over a table that is not there, references round in circles: none of it runs.
    rows::writeSql(
        file,
        "CREATE TABLE resources(kind, \"group\", number, name, data);"
        "CREATE TABLE loot(x);"
        "CREATE TRIGGER t AFTER INSERT ON resources BEGIN INSERT INTO loot VALUES(1); END;"
        "CREATE VIEW more AS SELECT * FROM gone;"
        "CREATE VIEW deep AS WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n+1 FROM c) SELECT n FROM c;"
        "INSERT INTO resources VALUES(1, 0, 8, 'one', '04:00000000:0000000000000009 02@two');"
        "INSERT INTO resources VALUES(2, 0, 9, 'two', '01:00000000:0000000000000008')");
    const std::string asItWas = readText(file);
    const Package circle = package::readPackage(file, {});
    CHECK(circle.resources.size() == 2);
    CHECK_NOTHROW(checkReferences(circle, package::indicesBeside(file)));
    CHECK_THROWS_AS(makeMine(circle, {"pear", "Mira Quill", {}}), Error); // its geometry is none
    CHECK(package::readItem(file, circle.resources[0].key, {}).resources.size() <= 2);
    CHECK(readText(file) == asItWas);
    // Odd values are read as what they are, without a primary key a number stands there twice.
    rows::writeSql(file, "CREATE TABLE resources(kind, \"group\", number, name, data);"
                         "INSERT INTO resources VALUES(NULL, 'x', 1e300, x'ff00fe', NULL);"
                         "INSERT INTO resources VALUES(1, 0, 5, 'a', 'text');"
                         "INSERT INTO resources VALUES(1, 0, 5, 'b', 17)");
    const Package odd = package::readPackage(file, {});
    CHECK(odd.resources.size() == 3);
    CHECK(checkReferences(odd, {}).collisions.size() == 1);
    CHECK(files::filesIn(file)->list().size() == 3);
    // Cut at every 512th byte: a message or less of it, and never an end of the program.
    rows::write(file, rows::appleBox());
    const std::string whole = readText(file);
    for (std::size_t size = 0; size < whole.size(); size += 512) {
        writeFile(file, whole.substr(0, size));
        try {
            package::readPackage(file, {});
        } catch (const Error&) {
        }
    }
}

TEST_CASE("Broken geometry is refused with what is wrong") {
    const std::string good = rows::boxGeometry({{"a", {}, 0, 6}, {"b", {}, 6, 6}});
    const auto refused = [](std::string bytes) { return said([&] { formats::rowMeshHead(bytes, "here"); }); };
    CHECK(refused(good) == "");
    CHECK(refused("") != "");
    CHECK(refused("STL").find("is no geometry") != std::string::npos);
    for (std::size_t size = 8; size < good.size(); size += 7)
        CHECK(refused(good.substr(0, size)).find("ends after") != std::string::npos);
    std::string bad = good;
    bad[8] = 7; // up
    CHECK(refused(bad).find("as up") != std::string::npos);
    bad = good;
    bad[24] = 1; // the first group's first triangle
    CHECK(refused(bad).find("gap before group 1") != std::string::npos);
    bad = good;
    bad[28] = 5; // its triangles
    CHECK(refused(bad).find("gap before group 2") != std::string::npos);
    bad = good;
    for (int k = 12; k < 24; ++k) bad[std::size_t(k)] = char(0xff); // counts beyond all bounds
    CHECK(refused(bad).find("ends after") != std::string::npos);
}

TEST_CASE("A package of which only the end is missing says so, also where SQLite would not notice") {
    const TemporaryFolder folder;
    rows::write(folder / "x.rowpackage", rows::appleBox());
    const std::string whole = readText(folder / "x.rowpackage");
    writeFile(folder / "x.rowpackage", whole.substr(0, whole.size() - 100));
    CHECK(said([&] { package::readPackage(folder / "x.rowpackage", {}); }).find("was cut off") !=
          std::string::npos);
}

TEST_CASE("A group's picture is changed in its material's bytes, and nowhere else in them") {
    const auto box = rows::appleBox();
    const auto groups = package::wornGroups(box, *box.first(ResourceKind::Geometry));
    REQUIRE(groups.size() == 2);
    CHECK(groups[0].name == "appleBox-wood");
    CHECK(groups[0].material == 1u);
    CHECK(groups[0].colour == 0u);
    CHECK(groups[1].colour == 0u); // by kind and name
    const auto other = rows::key(ResourceKind::Picture, 0xabcd);
    const std::string before = *box.resources[1].bytes, after = package::withColour(box.resources[1], other);
    std::string wanted = before;
    const std::string old = textOf(rows::key(ResourceKind::Picture, 0x1111));
    wanted.replace(wanted.find(old), old.size(), textOf(other));
    CHECK(after == wanted);
    CHECK(package::withColour(box.resources[2], other).find("04@") == std::string::npos);
    // One without a picture gets one; one whose other role wears the same picture keeps it there.
    Package bare;
    rows::add(bare, rows::key(ResourceKind::Material, 1), "bare", "{\"name\": \"bare\"}");
    rows::add(bare, rows::key(ResourceKind::Material, 2), "both",
              fmt::format("{{\"pictures\": {{\"normal\": \"{0}\", \"colour\": \"{0}\"}}}}", old));
    rows::add(bare, rows::key(ResourceKind::Material, 3), "broken", "{");
    CHECK(package::withColour(bare.resources[0], other).find(textOf(other)) != std::string::npos);
    CHECK(package::withColour(bare.resources[1], other) ==
          fmt::format("{{\"pictures\": {{\"normal\": \"{}\", \"colour\": \"{}\"}}}}", old, textOf(other)));
    CHECK_THROWS_AS(package::withColour(bare.resources[2], other), Error);
}
