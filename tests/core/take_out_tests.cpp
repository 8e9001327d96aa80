// What archives hold, and files taken out of them: whole, below the chosen folder, under names any system
// has.
#include "core/base/error.h"
#include "core/files/key_memory.h"
#include "core/files/safe_name.h"
#include "core/files/take_out.h"
#include "core/formats/file_kind.h"
#include "support/containers.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <sys/resource.h>

using namespace zl;
using containers::writeArchive;
namespace fs = std::filesystem;

namespace {

const containers::Kind& zipKind = containers::archives().front();

std::vector<std::string> pathsOf(const files::Contents& contents) {
    std::vector<std::string> out;
    for (const auto& held : contents.held) out.push_back(held.path);
    return out;
}

/// Every file below a folder, by its path there.
std::vector<std::string> below(const fs::path& folder) {
    std::vector<std::string> out;
    for (const auto& entry : fs::recursive_directory_iterator(folder))
        if (!entry.is_directory()) out.push_back(entry.path().lexically_relative(folder).string());
    std::ranges::sort(out);
    return out;
}

files::TakenOut takeAll(const fs::path& archive, const fs::path& folder, const files::Terms& terms = {}) {
    return files::takeOut(archive, pathsOf(files::contentsOf(archive, terms)), folder, terms);
}

} // namespace

TEST_CASE("an archive's contents are listed through the archives within it") {
    TemporaryFolder folder;
    writeArchive(folder / "inner.tar.gz", containers::archives()[4], {{"lamp.obj", "v"}, {"lamp.png", "p"}});
    writeArchive(folder / "kit.zip", zipKind,
                 {{"read.me", "x"},
                  {"more/inner.tar.gz", readText(folder / "inner.tar.gz")},
                  {"more/broken.zip", "PK, but not really"}});
    const auto contents = files::contentsOf(folder / "kit.zip", {});
    CHECK(pathsOf(contents) == std::vector<std::string>{"read.me", "more/inner.tar.gz",
                                                        "more/inner.tar.gz/lamp.obj",
                                                        "more/inner.tar.gz/lamp.png", "more/broken.zip"});
    CHECK(contents.held[2].depth == 2);
    CHECK(contents.held[2].bytes == 1);
    REQUIRE(contents.refused.size() == 1);
    CHECK(contents.refused[0].path == "more/broken.zip");
}

TEST_CASE("what a file is goes by its ending") {
    using formats::FileKind;
    CHECK(formats::kindOf("a/Lamp.OBJ") == FileKind::Model);
    CHECK(formats::kindOf("lamp.JPEG") == FileKind::Picture);
    CHECK(formats::kindOf("kit.tar.gz") == FileKind::Archive);
    CHECK(formats::kindOf("notes.txt") == FileKind::Text);
    CHECK(formats::kindOf("kit.obj/readme") == FileKind::Other);
}

TEST_CASE("archives in archives end at the limits, one by one and together") {
    TemporaryFolder folder;
    std::string bytes = "v 0 0 0";
    std::string name = "core.obj";
    for (int i = 0; i < 7; ++i) {
        writeArchive(folder / "shell.zip", zipKind, {{name, bytes}});
        bytes = readText(folder / "shell.zip"), name = "shell.zip";
    }
    const auto deep = files::contentsOf(folder / "shell.zip", {});
    CHECK(deep.held.size() == 4);
    REQUIRE(deep.refused.size() == 1);
    CHECK(deep.refused[0].why.find("4 archives within one another") != std::string::npos);

    // Sixteen archives of sixteen files each: no one is too many, together they are.
    std::vector<OutFile> sixteen, of;
    for (int i = 0; i < 16; ++i) sixteen.push_back({"f" + std::to_string(i), "x"});
    writeArchive(folder / "of16.zip", zipKind, sixteen);
    for (int i = 0; i < 16; ++i)
        of.push_back({"a" + std::to_string(i) + ".zip", readText(folder / "of16.zip")});
    writeArchive(folder / "of256.zip", zipKind, of);
    files::Limits few;
    few.entries = 100;
    const auto many = files::contentsOf(folder / "of256.zip", few);
    CHECK(many.held.size() <= 16 + 100);
    CHECK(many.refused.size() >= 16 - 6);
}

TEST_CASE("names that a system cannot have are written otherwise, as many parts as before") {
    CHECK(files::safePath("a/b.obj") == "a/b.obj");
    CHECK(files::safePath("con/lpt1.txt") == "_con/_lpt1.txt");
    CHECK(files::safePath("console/com.obj") == "console/com.obj");
    CHECK(files::safePath("c:evil.txt") == "c_evil.txt");
    CHECK(files::safePath("tail. /dots...") == "tail__/dots___");
    CHECK(files::safePath("a\nb\x7f?.png") == "a_b__.png");
    CHECK(files::safePath("größe.obj") == "größe.obj");
    const std::string longest = files::safePath(std::string(199, 'a') + "ö" + std::string(200, 'b') + ".png");
    CHECK(longest.size() <= 200);
    CHECK(longest.ends_with(".png"));
}

TEST_CASE("files are taken out below what they share, whole, and others are not written over") {
    TemporaryFolder folder;
    writeArchive(folder / "inner.zip", zipKind, {{"lamp.obj", "inner lamp"}});
    writeArchive(folder / "kit.zip", zipKind,
                 {{"quay/lamps/lamp.obj", "lamp"},
                  {"quay/lamps/LAMP.obj", "twin but for case"},
                  {"quay/inner.zip", readText(folder / "inner.zip")},
                  {"quay/aux.txt", "device"},
                  {"other.txt", "not wanted"}});
    folder.write("out/lamps/lamp.obj", "was there");
    const auto contents = files::contentsOf(folder / "kit.zip", {});
    const auto chosen = files::chosenOf(contents, {"quay/lamps", "quay/inner.zip/lamp.obj", "*aux*"});
    const auto taken = files::takeOut(folder / "kit.zip", chosen, folder / "out", {});
    CHECK(taken.refused.empty());
    CHECK(below(folder / "out") == std::vector<std::string>{"_aux.txt", "inner/lamp.obj", "lamps/LAMP-3.obj",
                                                            "lamps/lamp-2.obj", "lamps/lamp.obj"});
    CHECK(readText(folder / "out/lamps/lamp.obj") == "was there");
    CHECK(readText(folder / "out/lamps/lamp-2.obj") == "lamp");
    CHECK(readText(folder / "out/inner/lamp.obj") == "inner lamp");
    CHECK(std::ranges::count_if(taken.files, [](const auto& file) { return file.renamed; }) == 3);
    CHECK_THROWS_AS(files::chosenOf(contents, {"quay/nothing"}), Error);
    // An archive is taken as it is, and what lies in it only when that is named.
    CHECK(files::chosenOf(contents, {"quay/inner.zip"}) == std::vector<std::string>{"quay/inner.zip"});
    CHECK(files::chosenOf(contents, {"*"}).size() == 5);
    // A file where a folder should be makes it another.
    folder.write("out2/inner", "a file");
    files::takeOut(folder / "kit.zip", {"quay/inner.zip", "quay/inner.zip/lamp.obj"}, folder / "out2", {});
    CHECK(below(folder / "out2") == std::vector<std::string>{"inner", "inner-2/lamp.obj", "inner.zip"});
}

TEST_CASE("nothing is written outside the chosen folder, whatever names and links there are") {
    TemporaryFolder folder;
    const auto& kind = containers::archives()[GENERATE(std::size_t(0), 3, 5)];
    writeArchive(folder / "evil.archive", kind,
                 {{"../up.txt", "x"},
                  {"a/../../up.txt", "x"},
                  {"/root.txt", "x"},
                  {"c:\\drive.txt", "x"},
                  {"..\\back.txt", "x"},
                  {"link", "link:/tmp"},
                  {"link/through.txt", "x"},
                  {"fine.txt", "fine"},
                  {"fine.txt", "again"}});
    fs::create_directories(folder / "box/out");
    const auto taken = takeAll(folder / "evil.archive", folder / "box/out");
    CHECK(below(folder / "box/out") == std::vector<std::string>{"fine.txt", "link/through.txt"});
    CHECK(below(folder / "box") == std::vector<std::string>{"out/fine.txt", "out/link/through.txt"});
    CHECK(readText(folder / "box/out/fine.txt") == "fine");
    CHECK_FALSE(fs::exists("/root.txt"));
    CHECK(files::contentsOf(folder / "evil.archive", {}).refused.size() >= 6);

    // A link that waits in the folder itself is not followed out of it.
    fs::create_directories(folder / "elsewhere");
    fs::create_directories(folder / "trap");
    fs::create_directory_symlink(folder / "elsewhere", folder / "trap/link");
    CHECK_THROWS_AS(takeAll(folder / "evil.archive", folder / "trap"), Refused);
    CHECK(below(folder / "elsewhere").empty());
}

TEST_CASE("what is broken among the chosen is said, and the others are taken out") {
    TemporaryFolder folder;
    writeArchive(
        folder / "kit.zip", containers::archives()[1],
        {{"first.txt", "whole"}, {"second.txt", std::string(4000, 's')}, {"third.txt", "whole too"}});
    std::string bytes = readText(folder / "kit.zip");
    bytes[bytes.find("ssss") + 100] = 'X'; // its checksum no longer holds
    folder.write("kit.zip", bytes);
    const auto taken = takeAll(folder / "kit.zip", folder / "out");
    CHECK(below(folder / "out") == std::vector<std::string>{"first.txt", "third.txt"});
    REQUIRE(taken.refused.size() == 1);
    CHECK(taken.refused[0].path == "second.txt");
}

TEST_CASE("taking out a thousand files that is stopped half-way leaves whole files only") {
    TemporaryFolder folder;
    std::vector<OutFile> files;
    for (int i = 0; i < 1000; ++i)
        files.push_back({"f/" + std::to_string(i) + ".txt", std::string(5000, 'x')});
    writeArchive(folder / "many.tar", containers::archives()[3], files);
    std::atomic<bool> stop{false};
    const Progress progress([&](double done, std::string_view) { stop = done > 0.5; }, &stop);
    const auto inside = pathsOf(files::contentsOf(folder / "many.tar", {}));
    CHECK_THROWS_AS(files::takeOut(folder / "many.tar", inside, folder / "out", {}, progress), Cancelled);
    const auto left = below(folder / "out");
    CHECK(left.size() > 400);
    CHECK(left.size() < 600);
    for (const std::string& file : left) {
        CHECK(file.ends_with(".txt"));
        CHECK(fs::file_size(folder / "out" / file) == 5000);
    }
}

TEST_CASE("locked files are taken out with their key, and asked for without") {
    TemporaryFolder folder;
    writeArchive(folder / "locked.zip", zipKind, {{"a.txt", "secret"}, {"b.txt", "other"}}, "tide");
    CHECK_THROWS_AS(takeAll(folder / "locked.zip", folder / "out"), files::KeyNeeded);
    CHECK(below(folder / "out").empty());
    std::string letters = "tide";
    takeAll(folder / "locked.zip", folder / "out", {{}, files::Key::taking(letters)});
    CHECK(readText(folder / "out/a.txt") == "secret");
}

TEST_CASE("when a key was last right is remembered, and nothing but a hash of it") {
    TemporaryFolder folder;
    const files::KeyMemory memory(folder / "data/keys.json");
    std::string a = "low tide at noon", b = "high tide";
    const auto right = files::Key::taking(a), other = files::Key::taking(b);
    CHECK_FALSE(memory.lastRight("/kits/quay.zip", *right));
    memory.remember("/kits/quay.zip", *right, "2026-10-12");
    CHECK(memory.lastRight("/kits/quay.zip", *right) == "2026-10-12");
    CHECK_FALSE(memory.lastRight("/kits/quay.zip", *other));
    CHECK_FALSE(memory.lastRight("/kits/other.zip", *right));
    memory.remember("/kits/quay.zip", *right, "2026-11-27");
    CHECK(memory.lastRight("/kits/quay.zip", *right) == "2026-11-27");
    const std::string kept = readText(folder / "data/keys.json");
    for (const char* word : {"tide", "noon", "quay", "kits"}) CHECK(kept.find(word) == std::string::npos);
    folder.write("data/keys.json", "{\"salt\": 5, \"opened\": []}");
    CHECK_FALSE(memory.lastRight("/kits/quay.zip", *right));
    memory.remember("/kits/quay.zip", *right, "2026-11-27");
    CHECK(memory.lastRight("/kits/quay.zip", *right) == "2026-11-27");
    CHECK(files::dayInWords("2026-10-12", "2026-11-27") == "12 October");
    CHECK(files::dayInWords("2025-10-12", "2026-11-27") == "12 October 2025");
}

TEST_CASE("a small archive of very many zeros, and one of very many names, end soon and small") {
    TemporaryFolder folder;
    std::vector<OutFile> names;
    for (int i = 0; i < 210'000; ++i) names.push_back({std::to_string(i), ""});
    writeArchive(folder / "names.tar.gz", containers::archives()[4], names);
    CHECK_THROWS_WITH(files::contentsOf(folder / "names.tar.gz", {}), Catch::Contains("200\u202f000 files"));
    writeArchive(folder / "zeros.tar.gz", containers::archives()[4],
                 {{"z.bin", std::string(100u << 20, '\0')}});
    CHECK_THROWS_WITH(files::contentsOf(folder / "zeros.tar.gz", {}), Catch::Contains("times its size"));
    writeArchive(folder / "zeros.zip", zipKind, {{"z.bin", std::string(100u << 20, '\0')}});
    const auto taken = takeAll(folder / "zeros.zip", folder / "out");
    REQUIRE(taken.refused.size() == 1);
    CHECK(taken.refused[0].why.find("times its size") != std::string::npos);
    CHECK(below(folder / "out").empty());
}
