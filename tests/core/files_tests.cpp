// Files in folders, archives and packages, and addresses that lead into them. What is read is written by the
// libraries, not by this program.
#include "core/base/error.h"
#include "core/base/file_bytes.h"
#include "core/files/source_file.h"
#include "core/formats/format.h"
#include "core/model/model_bytes.h"
#include "core/project/dependencies.h"
#include "core/project/source_cache.h"
#include "support/containers.h"
#include "support/finds.h"
#include "support/rich_model.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

using namespace zl;
using containers::writeArchive;
using containers::writePackage;

namespace {

const containers::Kind& plainZip = containers::archives().front();

std::vector<OutFile> bell(const std::string& below = {}) {
    auto files = formats::writeObj(richModel(), {"bell"}, nullptr);
    for (OutFile& file : files) file.name = below + file.name;
    return files;
}

std::string words(const std::function<void()>& work) {
    try {
        work();
    } catch (const Error& error) {
        return error.whole();
    }
    return {};
}

std::string read(const files::Files& files, std::string_view path) {
    return std::string(files.open(path).text());
}

/// What was read, but for the files it rests on, which differ with the place.
Hash content(Model model) {
    model.files.clear();
    return hashText(toBytes(model));
}

} // namespace

TEST_CASE("an address is the disk's file and the way inside it") {
    TemporaryFolder folder;
    folder.write("deep/kit.zip", "not looked at");
    const auto inside = files::addressOf(folder / "deep/kit.zip/lamps/bell.obj");
    CHECK(inside.file == folder / "deep/kit.zip");
    CHECK(inside.inside == "lamps/bell.obj");
    CHECK(inside.path() == folder / "deep/kit.zip/lamps/bell.obj");
    CHECK(files::addressOf(folder / "deep/kit.zip").inside.empty());
    CHECK(files::addressOf(folder / "gone/bell.obj").file == folder / "gone/bell.obj");
    CHECK(files::addressOf("bell.obj").inside.empty());
}

TEST_CASE("a path in normal form") {
    CHECK(files::normalPath("a\\b//./c") == "a/b/c");
    CHECK(files::normalPath("a/../b") == "b");
    CHECK(files::normalPath("/a") == "a");
    CHECK_FALSE(files::normalPath("a/../../b"));
    CHECK_FALSE(files::normalPath("./"));
    CHECK_FALSE(files::normalPath(""));
}

TEST_CASE("a model in any archive or package is read as from a folder, with what lies beside it") {
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), bell("kit/"));
    const Hash expected = content(formats::readModel(folder / "kit/bell.obj"));
    for (const auto& kind : containers::archives()) {
        INFO(kind.extension);
        const auto path = folder / ("quay." + kind.extension);
        writeArchive(path, kind, bell("kit/"));
        const Model model = formats::readModel(path / "kit/bell.obj");
        CHECK(content(model) == expected);
        CHECK(model.files == std::vector{path});
        CHECK(model.images.size() == 1);
    }
    writePackage(folder / "quay.sqlar", bell("kit/"));
    CHECK(content(formats::readModel(folder / "quay.sqlar/kit/bell.obj")) == expected);
}

TEST_CASE("every reader reads out of an archive") {
    TemporaryFolder folder;
    std::vector<OutFile> all;
    for (const char* id : {"obj", "stl", "ply", "glb", "dae", "x3d", "3mf", "level"}) {
        const auto& format = *formats::formatWithId(id);
        for (OutFile& file : format.write(richModel(), formats::inFrameOf(format, {id}), nullptr)) {
            file.name = std::string(id) + "/" + file.name;
            all.push_back(std::move(file));
        }
    }
    writeAllOrNone(folder.path(), all);
    writeArchive(folder / "all.zip", plainZip, all);
    int models = 0;
    for (const OutFile& file : all) {
        const auto extension = std::filesystem::path(file.name).extension();
        if (extension == ".mtl" || extension == ".png" || extension == ".bin") continue;
        INFO(file.name);
        CHECK(content(formats::readModel(folder / ("all.zip/" + file.name))) ==
              content(formats::readModel(folder / file.name)));
        ++models;
    }
    CHECK(models == 8);
}

TEST_CASE("an archive itself is no model, and says which it holds") {
    TemporaryFolder folder;
    writeArchive(folder / "kit.zip", plainZip, bell("lamps/"));
    CHECK(words([&] { formats::readModel(folder / "kit.zip"); }).find("kit.zip/lamps/bell.obj") !=
          std::string::npos);
    writeArchive(folder / "text.zip", plainZip, {{"a.txt", "x"}});
    CHECK(words([&] { formats::readModel(folder / "text.zip"); }).find("\".zip\" cannot be read") !=
          std::string::npos);
}

TEST_CASE("a glTF in an archive finds its buffers and pictures in other folders, in other letters") {
    TemporaryFolder folder;
    const std::string text =
        R"({"asset":{"version":"2.0"},"buffers":[{"uri":"../Data/Corners.bin","byteLength":36}],
        "bufferViews":[{"buffer":0,"byteLength":36}],
        "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]}],
        "images":[{"uri":"oak%20bark.png"}],"textures":[{"source":0}],
        "materials":[{"pbrMetallicRoughness":{"baseColorTexture":{"index":0}}}],
        "meshes":[{"primitives":[{"attributes":{"POSITION":0},"material":0}]}],"nodes":[{"mesh":0}]})";
    const glm::vec3 corners[]{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
    const std::string bytes(reinterpret_cast<const char*>(corners), sizeof corners);
    writeArchive(folder / "a.7z", containers::archives()[2],
                 {{"data/corners.bin", bytes}, {"models/x.gltf", text}, {"models/Oak bark.PNG", png(4, 4)}});
    const Model model = formats::readModel(folder / "a.7z/models/x.gltf");
    CHECK(triangleCount(model) == 1);
    CHECK(model.images.size() == 1);
    writeArchive(folder / "b.zip", plainZip, {{"models/x.gltf", text}});
    const std::string why = words([&] { formats::readModel(folder / "b.zip/models/x.gltf"); });
    CHECK(why.find("Corners.bin") != std::string::npos);
}

TEST_CASE("archives within archives are gone through, up to a limit") {
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), bell());
    const Hash expected = content(formats::readModel(folder / "bell.obj"));
    std::vector<OutFile> held = bell();
    std::string way = "bell.obj";
    for (int depth = 1; depth <= 5; ++depth) {
        const auto& kind = containers::archives()[depth % containers::archives().size()];
        const std::string name = "depth " + std::to_string(depth) + "." + kind.extension;
        writeArchive(folder / name, kind, held);
        INFO(name);
        if (depth <= files::Limits{}.depth)
            CHECK(content(formats::readModel(folder / name / way)) == expected);
        else
            CHECK(words([&] { formats::readModel(folder / name / way); }).find("deeper than 4") !=
                  std::string::npos);
        held = {{"box/" + name, readText(folder / name)}, {"box/other.txt", "x"}};
        way = "box/" + name + "/" + way;
    }
}

TEST_CASE("files of an archive come in any order, each whole") {
    TemporaryFolder folder;
    std::vector<OutFile> many;
    for (int i = 0; i < 40; ++i)
        many.push_back({"f" + std::to_string(i), std::string(1000 + i, char('a' + i % 26))});
    for (const auto& kind : containers::archives()) {
        INFO(kind.extension);
        writeArchive(folder / "many", kind, many);
        const auto held = files::filesIn(folder / "many");
        REQUIRE(held->list().size() == 40);
        for (int i : {7, 8, 39, 0, 7, 7, 20}) {
            CHECK(held->list()[i].path == many[i].name);
            CHECK(held->list()[i].bytes == many[i].bytes.size());
            CHECK(read(*held, many[i].name) == many[i].bytes);
        }
        CHECK(held->stamp("f3") != "missing");
        CHECK(held->stamp("f40") == "missing");
        CHECK(words([&] { held->open("f40"); }).find("does not hold \"f40\"") != std::string::npos);
    }
}

TEST_CASE("names in an archive that lead out of it, twins and links are passed over and said") {
    TemporaryFolder folder;
    const std::vector<OutFile> hostile{
        {"good.txt", "good"},  {"../up.txt", "x"},          {"a/../../up.txt", "x"},
        {"/etc/passwd", "x"},  {"C:\\x.txt", "x"},          {"good.txt", "another"},
        {"a\\..\\..\\b", "x"}, {"to.txt", "link:good.txt"}, {"./b//c.txt", "c"}};
    for (const int kind : {0, 3}) {
        writeArchive(folder / "hostile", containers::archives()[kind], hostile);
        const auto held = files::filesIn(folder / "hostile");
        std::vector<std::string> paths;
        for (const files::Entry& entry : held->list()) paths.push_back(entry.path);
        CHECK(paths == std::vector<std::string>{"good.txt", "b/c.txt"});
        CHECK(held->passedOver().size() == 6);
        CHECK(read(*held, "good.txt") == "good");
    }
    writePackage(folder / "hostile.sqlar", {{"good.txt", "good"}, {"../up.txt", "x"}, {"/etc/passwd", "x"}});
    CHECK(files::filesIn(folder / "hostile.sqlar")->list().size() == 1);
    CHECK(files::filesIn(folder / "hostile.sqlar")->passedOver().size() == 2);
}

TEST_CASE("names in old code pages become UTF-8, those in UTF-8 stay, whatever the locale") {
    TemporaryFolder folder;
    writeArchive(folder / "old.tar", containers::archives()[5],
                 {{"caf\xe9/a", "1"}, {"na\xc3\xafve/b", "2"}});
    const auto held = files::filesIn(folder / "old.tar");
    CHECK(held->list()[0].path == "café/a");
    CHECK(held->list()[1].path == "naïve/b");
    CHECK(read(*held, "café/a") == "1");
}

TEST_CASE("limits hold for what is really unpacked") {
    TemporaryFolder folder;
    writeArchive(folder / "zeros.zip", plainZip, {{"zeros", std::string(3 << 20, '\0')}, {"few", "abc"}});
    files::Limits limits;
    limits.freeOfRatio = 1 << 20;
    CHECK(words([&] { files::filesIn(folder / "zeros.zip", limits)->open("zeros"); }).find("250 times") !=
          std::string::npos);
    CHECK(read(*files::filesIn(folder / "zeros.zip", limits), "few") == "abc");
    limits = {};
    CHECK(files::filesIn(folder / "zeros.zip", limits)->open("zeros").size() == 3 << 20);
    limits.bytes = 1 << 20;
    CHECK(words([&] { files::filesIn(folder / "zeros.zip", limits)->open("zeros"); }).find("more than 1") !=
          std::string::npos);
    limits = {};
    limits.entries = 1;
    CHECK(words([&] { files::filesIn(folder / "zeros.zip", limits); }).find("more than 1 file") !=
          std::string::npos);
    writePackage(folder / "p", {{"few", "abc"}}, "INSERT INTO sqlar VALUES('lies', 0, 0, 1 << 40, x'00')");
    CHECK(words([&] { files::filesIn(folder / "p")->open("lies"); }).find("unpacks to more") !=
          std::string::npos);
}

TEST_CASE("what is under a key is listed as such and says what helps") {
    TemporaryFolder folder;
    writeArchive(folder / "locked.zip", plainZip, bell(), "tide");
    const auto held = files::filesIn(folder / "locked.zip");
    REQUIRE(held->list().size() == bell().size());
    CHECK(held->list()[0].locked);
    CHECK(words([&] { formats::readModel(folder / "locked.zip/bell.obj"); }).find("under a key") !=
          std::string::npos);
}

namespace {

std::shared_ptr<const files::Key> keyOf(std::string letters) {
    return files::Key::taking(letters);
}

} // namespace

TEST_CASE("locked files open with their key, and a wrong key is told from a broken archive") {
    TemporaryFolder folder;
    auto held = bell();
    held.push_back({"gr__e/lid.txt", std::string(200000, 'x')});
    writeArchive(folder / "locked.zip", plainZip, held, "tide");
    std::string bytes = readText(folder / "locked.zip");
    for (std::size_t at = 0; (at = bytes.find("gr__e", at)) != std::string::npos; ++at)
        bytes[at + 2] = '\xf6', bytes[at + 3] = '\xdf'; // its name is in an old code page
    folder.write("locked.zip", bytes);
    const auto opened = files::filesIn(folder / "locked.zip", {{}, keyOf("tide")});
    REQUIRE(opened->list().size() == held.size());
    CHECK(opened->list().back().path == "gr÷▀e/lid.txt"); // as code page 437 has it
    for (std::size_t i = 0; i < held.size(); ++i)
        CHECK(opened->open(opened->list()[held.size() - 1 - i].path).text() ==
              held[held.size() - 1 - i].bytes);

    const auto refused = [&](const std::shared_ptr<const files::Key>& key) {
        try {
            files::filesIn(folder / "locked.zip", {{}, key})->open("bell.obj");
        } catch (const files::KeyNeeded& error) {
            return error.wrong() ? "wrong" : "none";
        } catch (const Error& error) {
            return "broken";
        }
        return "opened";
    };
    CHECK(refused(nullptr) == std::string("none"));
    CHECK(refused(keyOf("ebb")) == std::string("wrong"));
    CHECK(refused(keyOf("tide")) == std::string("opened"));
    // What was locked and is changed on the disk is broken, whatever the key.
    for (std::size_t i = 60; i < 90; ++i) bytes[i] = char(~bytes[i]);
    folder.write("locked.zip", bytes);
    CHECK(refused(keyOf("tide")) != std::string("opened"));
}

TEST_CASE("a key that was given once opens an archive for every reader, also within another") {
    TemporaryFolder folder;
    writeArchive(folder / "inner.zip", plainZip, bell(), "tide");
    writeArchive(folder / "outer.zip", plainZip, {{"a/inner.zip", readText(folder / "inner.zip")}});
    const auto path = folder / "outer.zip/a/inner.zip/bell.obj";
    CHECK_THROWS_AS(formats::readModel(path), files::KeyNeeded);
    files::giveKey(folder / "outer.zip", keyOf("tide"));
    CHECK(triangleCount(formats::readModel(path)) > 0);
    files::giveKey(folder / "outer.zip", nullptr);
    CHECK_THROWS_AS(formats::readModel(path), files::KeyNeeded);
    files::giveKey({}, keyOf("tide")); // for all
    CHECK(triangleCount(formats::readModel(path)) > 0);
    files::giveKey({}, nullptr);
}

TEST_CASE("a key is read from the first line of a file or from a variable, and its letters are wiped") {
    TemporaryFolder folder;
    CHECK(files::keyFromFile(folder.write("key.txt", "low tide\r\nand more").string())->text() == "low tide");
    CHECK_THROWS_AS(files::keyFromFile(folder.write("none.txt", "\n").string()), Error);
    CHECK_THROWS_AS(files::keyFromFile(folder.write("long.txt", std::string(100000, 'k')).string()), Error);
    CHECK_THROWS_AS(files::keyFromFile((folder / "missing.txt").string()), Error);
    ::setenv("ZEST_TEST_KEY", "ebb", 1);
    CHECK(files::keyFromVariable("ZEST_TEST_KEY")->text() == "ebb");
    ::unsetenv("ZEST_TEST_KEY");
    CHECK_THROWS_AS(files::keyFromVariable("ZEST_TEST_KEY"), Error);
    std::string letters = "a key long enough to lie outside the string itself";
    const char* at = letters.data();
    const auto key = files::Key::taking(letters);
    CHECK(std::string_view(at, 5) == std::string_view("\0\0\0\0\0", 5)); // the memory is still the string's
    CHECK(key->text() == "a key long enough to lie outside the string itself");
}

TEST_CASE("an archive that somebody trusts is opened past the limits") {
    TemporaryFolder folder;
    writeArchive(folder / "zeros.zip", plainZip, {{"zeros.obj", std::string(80u << 20, '\0')}});
    files::SourceFile guarded(files::addressOf(folder / "zeros.zip/zeros.obj"));
    CHECK(words([&] { guarded.bytes(); }).find("times its size") != std::string::npos);
    files::trust(folder / "zeros.zip");
    files::SourceFile trusted(files::addressOf(folder / "zeros.zip/zeros.obj"));
    CHECK(trusted.bytes().size() == 80u << 20);
}

TEST_CASE("an archive cut short anywhere is an error or holds what is whole") {
    TemporaryFolder folder;
    for (const auto& kind : containers::archives()) {
        writeArchive(folder / "whole", kind, bell());
        const std::string whole = readText(folder / "whole");
        for (std::size_t cut = 0; cut < whole.size(); cut += 97) {
            INFO(kind.extension << " cut at " << cut);
            folder.write("cut", whole.substr(0, cut));
            try {
                const auto held = files::filesIn(folder / "cut");
                for (const files::Entry& entry : held->list()) {
                    const std::string bytes = read(*held, entry.path);
                    for (const OutFile& file : bell())
                        if (file.name == entry.path) CHECK(bytes == file.bytes);
                }
            } catch (const Error& error) {
                CHECK_FALSE(error.mend().empty());
            }
        }
    }
}

TEST_CASE("a package with triggers, a view in the table's place, or no such table runs nothing of it") {
    TemporaryFolder folder;
    writePackage(folder / "a", {{"x", "1"}}, "CREATE TRIGGER t AFTER DELETE ON sqlar BEGIN SELECT 1; END");
    CHECK(read(*files::filesIn(folder / "a"), "x") == "1");
    writePackage(folder / "b", {},
                 "DROP TABLE sqlar; CREATE VIEW sqlar AS SELECT 'x' AS name, 1 AS sz, 'y' AS data");
    CHECK(words([&] { files::filesIn(folder / "b"); }).find("without files") != std::string::npos);
    const std::string whole = readText(folder / "a");
    for (std::size_t cut = 100; cut < whole.size(); cut += 512) {
        folder.write("cut", whole.substr(0, cut));
        words([&] { files::filesIn(folder / "cut")->open("x"); });
    }
}

TEST_CASE("an archive that is replaced is read again, and one that changes meanwhile is not mixed") {
    TemporaryFolder folder;
    writeArchive(folder / "kit.zip", plainZip, bell());
    const auto held = files::filesIn(folder / "kit.zip");
    project::SourceCache sources;
    auto project = projectOf(folder, {{"Bell", "kit.zip/bell.obj"}});
    const auto& piece = project.pieces.front();
    const auto key = [&] {
        Stamps stamps;
        return dependenciesOf(project, piece, *sheet("playmeadow")).shapeKey(stamps);
    };
    const auto before = sources.load(project, piece);
    const Hash first = key();
    CHECK(sources.load(project, piece).hash == before.hash);
    auto changed = bell();
    for (OutFile& file : changed)
        if (file.name == "bell.obj") file.bytes += "v 9 9 9\nv 9 9 8\nv 9 8 9\nf -1 -2 -3\n";
    writeArchive(folder / "kit.zip", plainZip, changed);
    const auto after = sources.load(project, piece);
    CHECK(triangleCount(after.model) == triangleCount(before.model) + 1);
    CHECK(key() != first);
    CHECK(words([&] { held->open("bell.obj"); }).find("changed by another program") != std::string::npos);
    // Another file of the same archive is another piece.
    const Hash second = key();
    project.pieces.front().sources.front().path = "kit.zip/other.obj";
    CHECK(key() != second);
}

TEST_CASE("a folder lists what is below it and finds what is meant") {
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), {{"a/Bark.PNG", "1"}, {"b.txt", "2"}});
    std::filesystem::create_symlink(folder / "b.txt", folder / "link.txt");
    const auto held = files::folderFiles(folder.path());
    REQUIRE(held->list().size() == 2);
    CHECK(held->list()[0].path == "a/Bark.PNG");
    CHECK(held->find("a", "bark.png") == "a/Bark.PNG");
    CHECK(held->find("a", "C:\\work\\bark.png") == "a/Bark.PNG");
    CHECK_FALSE(held->find("", "bark.png"));
    CHECK(read(*held, "b.txt") == "2");
    CHECK(held->stamp("gone") == "missing");
    files::Limits limits;
    limits.entries = 1;
    CHECK(words([&] { files::folderFiles(folder.path(), limits)->list(); }).find("more than 1 file") !=
          std::string::npos);
}
