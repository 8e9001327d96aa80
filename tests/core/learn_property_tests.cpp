// What single properties say of small folders, worked out by hand; what is learnt of whole games is in
// learn_sets_tests.cpp.
#include "core/base/archive.h"
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/learn/evidence.h"
#include "core/texture/picture_file.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace learn_property_tests {

using Catch::Matchers::Contains;
namespace fs = std::filesystem;

/// A box that stands on the floor, this wide and tall, as a file.
void put(const TemporaryFolder& folder, const std::string& path, double width, double height) {
    const fs::path file(path);
    fs::create_directories((folder.path() / file).parent_path());
    const Model box = shapes::box({-width / 2, 0, -width / 2}, {width / 2, height, width / 2});
    folder.write(path, formats::writeObj(box, {file.stem().string()}, nullptr).at(0).bytes);
}

void putBall(const TemporaryFolder& folder, const std::string& path, int around) {
    folder.write(path, formats::writeObj(shapes::modelOf(shapes::sphere(around, around / 2 + 1)),
                                         {fs::path(path).stem().string()}, nullptr)
                           .at(0)
                           .bytes);
}

std::string picture(int width, int height, std::uint8_t alpha = 255) {
    Pixels pixels{width, height, std::vector<std::uint8_t>(std::size_t(4) * width * height, 120)};
    for (std::size_t i = 3; i < pixels.rgba.size(); i += 4) pixels.rgba[i] = alpha;
    return texture::encodePng(pixels, alpha < 255);
}

learn::Offer offered(const learn::Evidence& evidence, const char* id) {
    INFO(id);
    const auto* property = evidence.property(id);
    REQUIRE(property);
    REQUIRE(property->offered);
    return *property->offered;
}

learn::Evidence learnt(const TemporaryFolder& accepted) {
    return learn::evidenceOf({accepted.path(), {}});
}

TEST_CASE("things whose size is known make the unit, and say so when they disagree") {
    const TemporaryFolder folder;
    put(folder, "chair.obj", 4, 9.5); // of 0.95 m
    put(folder, "barn_door.obj", 9, 20.5);
    put(folder, "deskTable.obj", 14, 8);
    const auto& sure = offered(learnt(folder), "unit");
    CHECK(sure.keys.at("unit.metres") == "0.1");
    CHECK(sure.isSure);
    CHECK_THAT(sure.confidence, Contains("3 things") && Contains("0.1 m") && !Contains("disagree"));
    // A dolls' house among them: nobody knows.
    put(folder, "chair.obj", 40, 95);
    put(folder, "bed.obj", 2, 1);
    const auto& unsure = offered(learnt(folder), "unit");
    CHECK_FALSE(unsure.isSure);
    CHECK_THAT(unsure.confidence, Contains("disagree"));
    const TemporaryFolder nameless;
    put(nameless, "x.obj", 4, 9.5);
    const auto& guess = offered(learnt(nameless), "unit");
    CHECK(guess.keys.at("unit.metres") == "1.0");
    CHECK_FALSE(guess.isSure);
    CHECK_THAT(guess.confidence, Contains("metres for now"));
}

TEST_CASE("a limit lies above all that was taken and below what was refused") {
    const TemporaryFolder taken, refused;
    for (const int around : {10, 12, 14, 16, 18, 20}) putBall(taken, std::to_string(around) + ".obj", around);
    putBall(refused, "much.obj", 24);
    const auto alone = learnt(taken);
    const auto* triangles = alone.property("triangles");
    REQUIRE(triangles);
    CHECK(triangles->accepted.size() == 6);
    const auto most = double(shapes::sphere(20, 11).triangleCount()),
               tooMuch = double(shapes::sphere(24, 13).triangleCount());
    CHECK(triangles->most == most);
    CHECK(offered(alone, "triangles").rule->limit("most", 0) >= most);
    const auto both = learn::evidenceOf({taken.path(), refused.path()});
    const double limit = offered(both, "triangles").rule->limit("most", 0);
    CHECK(limit >= most);
    CHECK(limit < tooMuch);
    CHECK(both.property("triangles")->refused.size() == 1);
    CHECK_THAT(offered(both, "triangles").confidence, Contains("refused"));
}

TEST_CASE("sides of pictures are limits where every picture holds them, and alpha where none has it") {
    const TemporaryFolder folder;
    for (int i = 0; i < 5; ++i) folder.write("p" + std::to_string(i) + ".png", picture(16 << (i % 3), 32));
    auto evidence = learnt(folder);
    CHECK(offered(evidence, "power-of-two").rule->severity == platform::Severity::Must);
    CHECK_THAT(offered(evidence, "power-of-two").confidence, Contains("3 different sizes"));
    CHECK(offered(evidence, "picture-format").isSure);
    CHECK(offered(evidence, "alpha").rule->check == "alpha-unwanted");
    folder.write("odd.png", picture(48, 32));
    folder.write("glass.png", picture(16, 16, 40));
    evidence = learnt(folder);
    CHECK_FALSE(evidence.property("power-of-two")->offered);
    CHECK(evidence.property("power-of-two")->outliers.size() == 1);
    const auto* alpha = evidence.property("alpha");
    CHECK((!alpha->offered || !alpha->offered->rule || alpha->offered->rule->check != "alpha-unwanted"));
}

TEST_CASE("an archive, also one that lies about itself, is learnt from like a folder, or is an error") {
    const TemporaryFolder folder, packed;
    for (const char* name : {"a", "b", "c"}) put(folder, std::string(name) + ".obj", 1, 1);
    std::vector<OutFile> files;
    for (const auto& entry : fs::directory_iterator(folder.path()))
        files.push_back({"deep/" + entry.path().filename().string(), readText(entry.path())});
    packed.write("all.zip", zipped(files));
    packed.write("all.7z", sevenZipped(files));
    for (const char* name : {"all.zip", "all.7z"}) {
        INFO(name);
        fs::path root;
        {
            const auto evidence = learn::evidenceOf({packed.path() / name, {}});
            CHECK(evidence.files.size() == 3);
            CHECK(evidence.property("triangles")->most == 12);
            root = evidence.root;
            for (const auto& file : evidence.files) CHECK(fs::exists(root / file.path));
        }
        CHECK_FALSE(fs::exists(root));
    }
    const std::string whole = zipped(files);
    packed.write("cut.zip", whole.substr(0, whole.size() / 2));
    packed.write("empty.zip", zipped({}));
    packed.write("text.zip", "no archive at all");
    for (const char* name : {"cut.zip", "empty.zip", "text.zip", "gone.zip"}) {
        INFO(name);
        CHECK_THROWS_AS(learn::evidenceOf({packed.path() / name, {}}), Error);
    }
    const TemporaryFolder none;
    CHECK_THROWS_AS(learnt(none), Error);
    // Whoever stops it stops it.
    const std::atomic<bool> stop = true;
    CHECK_THROWS_AS(learn::evidenceOf({folder.path(), {}}, Progress({}, &stop)), Cancelled);
}

} // namespace learn_property_tests
