// Of many files that a game takes, those of the one piece that a delivery is held against.
#include "core/base/archive.h"
#include "core/formats/format.h"
#include "standins/files/delivered.h"
#include "support/quickest.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <fstream>

using namespace zl;

namespace like_tests {

using namespace zl::standins::files;
namespace fs = std::filesystem;

/// A ball as a file; the more around, the larger.
std::string ball(int around) {
    return formats::writeObj(shapes::modelOf(shapes::sphere(around, around / 2 + 1, 0.5), "ball"), {"ball"},
                             nullptr)
        .at(0)
        .bytes;
}

std::set<std::string> names(const std::optional<Delivered>& example) {
    std::set<std::string> out;
    if (example)
        for (const auto& [path, bytes] : example->files) out.insert(path);
    return out;
}

/// A delivery of one ball, with a body beside it where that is wanted.
Delivered mine(const TemporaryFolder& folder, int around, bool body = false) {
    folder.write("own.obj", ball(around));
    if (body) folder.write("own-body.obj", ball(6));
    standins::TryReport report;
    return readDelivered(folder.path(), report);
}

using Names = std::set<std::string>;

TEST_CASE("pieces that lie side by side are told apart by their names, the nearest in size is shown") {
    const TemporaryFolder own, game;
    for (const auto& [name, around] : {std::pair("bell", 40), {"bell-tower", 20}, {"Rope", 10}})
        game.write(std::string(name) + ".obj", ball(around));
    for (const char* name : {"bell.mtl", "bell-n.png", "bell-tower.json", "bellows.png", "rope_2.png",
                             "textures/bell/wood.png", "textures/bell-tower-n.png", ".hidden", "read me.txt"})
        game.write(name, "x");
    CHECK(names(exampleFor(game.path(), mine(own, 41))) ==
          Names{"bell.obj", "bell.mtl", "bell-n.png", "textures/bell/wood.png"});
    CHECK(names(exampleFor(game.path(), mine(own, 21))) ==
          Names{"bell-tower.obj", "bell-tower.json", "textures/bell-tower-n.png"});
    CHECK(names(exampleFor(game.path(), mine(own, 8))) == Names{"Rope.obj", "rope_2.png"});
    // A file that was chosen stands for its piece, whatever is nearer.
    CHECK(names(exampleFor(game.path() / "Rope.obj", mine(own, 41))) == Names{"Rope.obj", "rope_2.png"});
    CHECK(names(exampleFor(game.path() / "bell.mtl", mine(own, 8))).contains("bell.obj"));
    CHECK_FALSE(exampleFor(game.path() / "gone.obj", mine(own, 41)));
    CHECK_FALSE(exampleFor(fs::path(), mine(own, 41)));
}

TEST_CASE("what ends as others do beside their pieces is a companion and no piece") {
    const TemporaryFolder own, game;
    for (const char* name : {"bell.obj", "crate.obj"}) game.write(name, ball(40));
    for (const char* name : {"bell-body.obj", "crate-body.obj"}) game.write(name, ball(8));
    CHECK(names(exampleFor(game.path(), mine(own, 8))) == Names{"bell.obj", "bell-body.obj"});
    // One pair alone: of a delivery that has a body itself.
    fs::remove(game.path() / "crate-body.obj");
    CHECK(names(exampleFor(game.path(), mine(own, 8))) == Names{"bell-body.obj"});
    CHECK(names(exampleFor(game.path(), mine(own, 40, true))) == Names{"bell.obj", "bell-body.obj"});
}

TEST_CASE("pieces that are all called the same are told apart by their folders, and a zip is looked into") {
    const TemporaryFolder own, game;
    std::vector<OutFile> files;
    for (const auto& [name, around] : {std::pair("bell", 40), {"crate", 10}})
        for (const char* file : {"mesh.obj", "look/colour.png", "mesh.json"})
            files.push_back({std::string("props/") + name + "/" + file,
                             std::string(file) == "mesh.obj" ? ball(around) : "x"});
    writeAllOrNone(game.path(), files);
    const Names bell{"props/bell/mesh.obj", "props/bell/look/colour.png", "props/bell/mesh.json"};
    CHECK(names(exampleFor(game.path(), mine(own, 40))) == bell);
    const TemporaryFolder packed;
    packed.write("all.ZIP", zipped(files));
    const Delivered ours = mine(own, 40);
    const auto held = exampleFor(packed.path() / "all.ZIP", ours);
    CHECK(names(held) == bell);
    REQUIRE(held);
    CHECK(held->models.at(0).triangles == ours.models.at(0).triangles);
    packed.write("broken.zip", zipped(files).substr(0, 300));
    CHECK_FALSE(exampleFor(packed.path() / "broken.zip", mine(own, 40)));
    // Pieces of several models: what each folder has tells them apart.
    const TemporaryFolder parts;
    for (const char* path : {"cart/body.obj", "cart/wheel.obj", "bell/dome.obj", "bell/clapper.obj"})
        writeAllOrNone(parts.path(), {{path, ball(std::string(path).starts_with("cart") ? 30 : 10)}});
    for (const char* path : {"cart/pack.json", "bell/pack.json", "bell/look/wood.png", "readme.txt"})
        writeAllOrNone(parts.path(), {{path, "x"}});
    CHECK(names(exampleFor(parts.path(), mine(own, 10))) ==
          Names{"bell/dome.obj", "bell/clapper.obj", "bell/pack.json", "bell/look/wood.png"});
    CHECK(names(exampleFor(parts.path(), mine(own, 40))) ==
          Names{"cart/body.obj", "cart/wheel.obj", "cart/pack.json"});
    CHECK(names(exampleFor(parts.path() / "cart/wheel.obj", mine(own, 40))) == Names{"wheel.obj"});
    // One model: all of it is its.
    const TemporaryFolder one;
    one.write("a/deep/thing.obj", ball(10));
    one.write("other/name.png", "x");
    CHECK(names(exampleFor(one.path(), mine(own, 40))) == Names{"a/deep/thing.obj", "other/name.png"});
}

TEST_CASE("of thousands of files only those of one piece are read") {
    const TemporaryFolder own, game;
    const std::string small = ball(6), large = ball(40);
    for (const char* kind : {"m", "t"}) fs::create_directories(game.path() / kind);
    for (int i = 0; i < 1500; ++i) { // without waiting for the disk
        const std::string name = "piece-" + std::to_string(i);
        std::ofstream(game.path() / ("m/" + name + ".obj")) << (i == 700 ? large : small);
        std::ofstream(game.path() / ("t/" + name + "-n.png")) << "x";
    }
    const Delivered ours = mine(own, 40);
    const WorkWatch watch;
    CHECK(names(exampleFor(game.path(), ours)) == Names{"m/piece-700.obj", "t/piece-700-n.png"});
    CHECK(watch.seconds() < 3);
}

} // namespace like_tests
