// Every input is hostile: each case must end in a clear Error or a model that keeps Mesh's promises.
#include "core/deliver/deliver.h"
#include "core/formats/format.h"
#include "core/planner/planner.h"
#include "core/project/source_cache.h"
#include "core/texture/picture_file.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <csignal>
#include <sys/resource.h>

using namespace zl;

namespace {

std::string binaryStl(std::uint32_t promised, std::size_t held, float value = 1) {
    std::string bytes(80, ' ');
    bytes.append(reinterpret_cast<const char*>(&promised), 4);
    for (std::size_t i = 0; i < held; ++i) {
        const float corners[12] = {0, 0, 1, float(i), 0, 0, value, float(i) + 1, 0, 0, 1, 1};
        bytes.append(reinterpret_cast<const char*>(corners), 48);
        bytes.append(2, '\0');
    }
    return bytes;
}

void requireSound(const Model& model) {
    for (const auto& mesh : model.meshes) {
        for (const std::uint32_t i : mesh->indices) REQUIRE(i < mesh->vertexCount());
        for (const glm::vec3& p : mesh->positions) REQUIRE(std::isfinite(p.x + p.y + p.z));
        std::size_t covered = 0;
        for (const MaterialRun& run : mesh->runs) covered += run.triangleCount;
        REQUIRE(covered == mesh->triangleCount());
    }
}

std::string asUtf16(const std::string& text) {
    std::string out("\xff\xfe");
    for (const char c : text) out += std::string{c, '\0'};
    return out;
}

platform::Sheet tableSheet() {
    return *platform::sheetNamed(platform::loadSheets(), "hearthboard");
}

} // namespace

TEST_CASE("files that cannot be read end in an error that names the file") {
    TemporaryFolder folder;
    struct Case {
        std::string name, bytes, part;
    };
    const std::vector<Case> cases{
        {"empty.obj", "", "empty"},
        {"empty.stl", "", "empty"},
        {"empty.ply", "", "empty"},
        {"empty.glb", "", "empty"},
        {"empty.dae", "", "empty"},
        {"cut.stl", binaryStl(100, 7), "ends after 7"},
        {"half.stl", binaryStl(10, 9).substr(0, 333), "ends after"},
        {"billions.stl", binaryStl(4000000000u, 3), "promises"},
        {"short.stl", std::string(20, 'x'), "too short"},
        {"cut-text.stl", "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\n",
         "middle of a triangle"},
        {"words.obj", "this is not a model at all\n", "no corners"},
        {"cut.ply",
         "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float "
         "z\nend_header\n0 0 0\n",
         "ends before"},
        {"billions.ply",
         "ply\nformat binary_little_endian 1.0\nelement vertex 4000000000\nproperty float x\nproperty float "
         "y\nproperty float z\nend_header\n",
         "ends before"},
        {"head.ply", "ply\nformat ascii 1.0\nelement vertex 3\n", "header"},
        {"not.ply", "hello", "PLY"},
        {"list.ply",
         "ply\nformat binary_little_endian 1.0\nelement vertex 1\nproperty float x\nproperty float "
         "y\nproperty float z\nelement face 1\nproperty list int int vertex_indices\nend_header\n" +
             std::string(12, '\0') + "\xff\xff\xff\x7f",
         "ends before"},
        {"words.glb", "this is not a model", "glTF"},
        {"chunk.glb",
         std::string("glTF\x02\0\0\0\x40\0\0\0\xff\xff\xff\x7fJSON{}", 22) + std::string(42, ' '), "glTF"},
        {"words.dae", "<nothing/>", "cannot be read"},
        {"model.xyz", "1 2 3", "cannot be read"},
    };
    for (const Case& c : cases) {
        INFO(c.name);
        const auto path = folder.write(c.name, c.bytes);
        try {
            formats::readModel(path);
            FAIL_CHECK("was read");
        } catch (const Error& error) {
            CHECK(error.whole().find(c.part) != std::string::npos);
            CHECK(error.where().find(c.name) != std::string::npos);
        }
    }
    CHECK_THROWS_AS(formats::readModel(folder / "missing.obj"), Error);
    CHECK_THROWS_AS(formats::readModel(folder.path()), Error);
}

TEST_CASE("faults that leave something usable become warnings") {
    TemporaryFolder folder;
    const std::string corners = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\n";
    struct Case {
        std::string name, bytes;
        std::size_t triangles;
        std::string warning;
    };
    const std::vector<Case> cases{
        {"range.obj", corners + "f 1 2 3\nf 1 2 99\nf 0 1 2\nf -9 1 2\n", 1, "3 faces"},
        {"texture-range.obj", corners + "vt 0 0\nf 1/1 2/1 3/1\nf 1/7 2/1 3/1\n", 1, "1 face"},
        {"nan.obj", corners + "v nan 0 0\nv inf 0 0\nf 1 2 3\nf 1 2 5\nf 2 3 6\n", 1, "not numbers"},
        {"two.obj", corners + "f 1 2\nf 1 2 3\n", 1, "fewer than three"},
        {"cloud.obj", corners, 0, "no triangles"},
        {"nan.stl", binaryStl(2, 2, NAN), 0, "not numbers"},
        {"none.stl", binaryStl(0, 0), 0, "no triangles"},
        {"tail.stl", binaryStl(1, 1) + "more", 1, "passed over"},
        {"lost.obj", "mtllib lost.mtl\n" + corners + "usemtl gone\nf 1 2 3\n", 1, "lost.mtl"},
        {"far.obj", corners + "v 99999999999999999999999999999999999999999999 0 0\nf 1 2 3\n", 1, ""},
        {"face.ply",
         "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float "
         "z\nelement face 2\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 "
         "2\n3 0 1 -5\n",
         1, "1 face"},
    };
    for (const Case& c : cases) {
        INFO(c.name);
        const Model model = formats::readModel(folder.write(c.name, c.bytes));
        CHECK(triangleCount(model) == c.triangles);
        requireSound(model);
        std::string all;
        for (const auto& warning : model.warnings) all += warning + "\n";
        CHECK(all.find(c.warning) != std::string::npos);
    }
}

TEST_CASE("UTF-16 and Windows line ends are read") {
    TemporaryFolder folder;
    const std::string text = "o bell\r\nv 0 0 0\r\nv 1 0 0\r\nv 0 1 0\r\nf 1 2 \\\r\n 3\r\n";
    for (const std::string& bytes : {text, asUtf16(text), "\xef\xbb\xbf" + text}) {
        const Model model = formats::readModel(folder.write("lines.obj", bytes));
        CHECK(triangleCount(model) == 1);
        CHECK(model.nodes[0].name == "bell");
    }
}

TEST_CASE("missing and broken pictures become warnings and the shape stays") {
    TemporaryFolder folder;
    folder.write("m.mtl", "newmtl a\nmap_Kd gone.png\nnewmtl b\nmap_Kd -s 2 2 2 broken.png\n");
    folder.write("broken.png", "\x89PNG but not really");
    const Model model = formats::readModel(folder.write(
        "m.obj", "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl a\nf 1 2 3\nusemtl b\nf 3 2 1\n"));
    CHECK(triangleCount(model) == 2);
    CHECK(model.warnings.size() == 2);
    CHECK(model.images.empty());
    // A picture whose head is right but whose pixels are cut off fails when decoded, with its name.
    std::string png = texture::encodePng({16, 16, std::vector<std::uint8_t>(1024, 9)});
    const auto cut = texture::pictureFromBytes("cut.png", png.substr(0, 60));
    CHECK_THROWS_WITH(texture::decode(*cut), Catch::Contains("broken"));
}

TEST_CASE("models of one and no triangles go all the way without harm") {
    const auto sheet = tableSheet();
    Mesh single;
    single.positions = {{0, 0, 0}, {0.03f, 0, 0}, {0, 0.03f, 0.01f}};
    single.indices = {0, 1, 2};
    const Model one = shapes::modelOf(single);
    const auto plan = planner::plan(one, sheet);
    CHECK(plan.holds);
    Model none = shapes::modelOf(Mesh{});
    none.frame.unitAssumed = true;
    const auto nothing = planner::plan(none, sheet);
    CHECK_FALSE(nothing.holds);
    CHECK_FALSE(nothing.reasons.empty());
    for (const auto& step : steps::allSteps()) {
        INFO(step->info().id);
        const Progress progress;
        steps::StepContext context{progress, &sheet};
        try {
            step->apply(none, context);
            step->apply(one, context);
        } catch (const Error&) {
            // A step may refuse with a reason (a flat triangle has no size along Z); it must not crash.
        }
    }
}

TEST_CASE("an output folder that cannot be written leaves nothing half-written") {
    TemporaryFolder folder;
    // A file stands where the folder should be: true for every user, root included.
    folder.write("blocked", "a file");
    CHECK_THROWS_AS(writeAllOrNone(folder / "blocked", {{"a.obj", "1"}}), Refused);
    // The second target is a folder that cannot be replaced by a file: the first must be put back.
    folder.write("out/a.obj", "old");
    std::filesystem::create_directories(folder / "out/b.obj.before/x");
    std::filesystem::create_directories(folder / "out/b.obj/x");
    CHECK_THROWS_AS(writeAllOrNone(folder / "out", {{"a.obj", "new"}, {"b.obj", "new"}}), Refused);
    CHECK(readText(folder / "out/a.obj") == "old");
    for (const auto& entry : std::filesystem::directory_iterator(folder / "out"))
        CHECK(entry.path().string().find(".part") == std::string::npos);
    // A folder that was only made for the files goes with them.
    CHECK_THROWS_AS(writeAllOrNone(folder / "fresh/inner", {{"a.obj", "1"}, {std::string(300, 'n'), "2"}}),
                    Refused);
    CHECK_FALSE(std::filesystem::exists(folder / "fresh"));
    // What is kept aside meanwhile takes no name that somebody else may have used.
    folder.write("out/a.obj.before", "somebody's");
    writeAllOrNone(folder / "out", {{"a.obj", "new"}});
    CHECK(readText(folder / "out/a.obj.before") == "somebody's");
    CHECK(readText(folder / "out/a.obj") == "new");
}

TEST_CASE("a full disk leaves nothing half-written") {
    TemporaryFolder folder;
    folder.write("out/a.obj", "old");
    // The kernel refuses to let a file grow beyond this, just as a full disk would.
    struct rlimit before {};
    getrlimit(RLIMIT_FSIZE, &before);
    std::signal(SIGXFSZ, SIG_IGN);
    const rlimit small{4096, before.rlim_max};
    setrlimit(RLIMIT_FSIZE, &small);
    std::string refused;
    try {
        writeAllOrNone(folder / "out", {{"a.obj", "new"}, {"b.obj", std::string(100000, 'x')}});
    } catch (const Refused& error) {
        refused = error.where();
    }
    setrlimit(RLIMIT_FSIZE, &before);
    CHECK(refused == (folder / "out/b.obj").string());
    CHECK(readText(folder / "out/a.obj") == "old");
    CHECK_FALSE(std::filesystem::exists(folder / "out/b.obj"));
    CHECK(std::distance(std::filesystem::directory_iterator(folder / "out"), {}) == 1);
}

TEST_CASE("names that lead out of the folder are refused") {
    TemporaryFolder folder;
    for (const char* name : {"../evil", "/etc/evil", "a/../../evil", ""})
        CHECK_THROWS_AS(writeAllOrNone(folder.path(), {{name, "x"}}), Refused);
    CHECK_THROWS_AS(writeAllOrNone(folder.path(), {{"a", "x"}, {"./a", "y"}}), Refused);
}

TEST_CASE("project files with faults are refused with the place") {
    TemporaryFolder folder;
    const auto reading = [&](const std::string& text) {
        return project::load(folder.write("p.zestloom", text));
    };
    CHECK_THROWS_WITH(reading(R"({"format":"zest-loom-project","version":99,"name":"x"})"),
                      Catch::Contains("newer"));
    CHECK_THROWS_AS(reading("{"), Error);
    CHECK_THROWS_AS(reading("[]"), Error);
    CHECK_THROWS_AS(reading(R"({"format":"zest-loom-project","version":1})"), Error);
    CHECK_THROWS_AS(
        reading(
            R"({"format":"zest-loom-project","version":1,"name":"x","pieces":[{"name":"a"},{"name":"a"}]})"),
        Error);
    CHECK_THROWS_AS(
        reading(
            R"({"format":"zest-loom-project","version":1,"name":"x","pieces":[{"name":"a","recipe":[{"step":"melt"}]}]})"),
        Error);
    CHECK_THROWS_AS(
        reading(
            R"({"format":"zest-loom-project","version":1,"name":"x","pieces":[{"name":"a","sources":[{"path":"b","permission":"maybe"}]}]})"),
        Error);
}

TEST_CASE("a source that was deleted is an error, and comes back when it does") {
    TemporaryFolder folder;
    project::Project project;
    project.file = folder / "p.zestloom";
    project::Piece piece;
    piece.name = "box";
    piece.sources.push_back({"box.stl"});
    project::SourceCache cache;
    const auto bytes = formats::writeStl(shapes::box({0, 0, 0}, {1, 1, 1}), {"box"}, nullptr)[0].bytes;
    folder.write("box.stl", bytes);
    const auto first = cache.load(project, piece);
    CHECK(cache.load(project, piece).hash == first.hash);
    std::filesystem::remove(folder / "box.stl");
    CHECK_THROWS_AS(cache.load(project, piece), Error);
    folder.write("box.stl", binaryStl(1, 1));
    const auto changed = cache.load(project, piece);
    CHECK(changed.hash != first.hash);
    CHECK(triangleCount(changed.model) == 1);
}

TEST_CASE("two sources with one name stay two") {
    TemporaryFolder folder;
    const auto bytes = formats::writeObj(shapes::box({0, 0, 0}, {1, 1, 1}), {"box"}, nullptr)[0].bytes;
    folder.write("a/box.obj", bytes);
    folder.write("b/box.obj", bytes);
    project::Project project;
    project.file = folder / "p.zestloom";
    project::Piece piece;
    piece.name = project.freeName("box");
    piece.sources = {{"a/box.obj"}, {"b/box.obj"}};
    project.pieces.push_back(piece);
    CHECK(project.freeName("box") == "box 2");
    project::SourceCache cache;
    const auto loaded = cache.load(project, piece);
    CHECK(objectCount(loaded.model) == 2);
    CHECK(triangleCount(loaded.model) == 24);
}
