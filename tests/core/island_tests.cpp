// What an island holds of delivered pieces, against what was reckoned before.
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include "core/deliver/deliver.h"
#include "core/platform/cost.h"
#include "core/texture/picture_file.h"
#include "standins/island/herd.h"
#include "standins/island/island_arena.h"

#include <catch2/catch.hpp>

#include <fstream>

using namespace zl;
using namespace zl::standins;

namespace {

/// A stone of 40 cm that stands on the ground in a picture of `width` by `height`.
Model stone(int width, int height) {
    Model model = shapes::modelOf(shapes::sphere(40, 20, 0.2), "stone");
    model.nodes[0].local[3].y = 0.2;
    model.headingKnown = true;
    model.materials = {{.name = "moss"}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, std::uint32_t(mesh->triangleCount()), 0}};
    model.meshes[0] = mesh;
    Pixels pixels{width, height, std::vector<std::uint8_t>(std::size_t(4) * width * height, 90)};
    for (int y = 0; y < height; ++y) // the left half dark, the right light
        for (int x = width / 2; x < width; ++x) pixels.rgba[4 * (std::size_t(y) * width + x)] = 210;
    model.images = {texture::pictureFromPixels("moss.png", std::move(pixels), false)};
    model.materials[0].wear(PictureRole::Colour, {.image = 0});
    return model;
}

std::filesystem::path deliveredTo(const TemporaryFolder& folder, const Model& model) {
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "skerry");
    writeAllOrNone(folder.path(), deliver::deliverableFor(*sheet, {{"note", "by the harbour"}})
                                      ->make(model, *sheet, {.name = "stone", .credit = "own work"}, {}));
    return folder.path();
}

} // namespace

TEST_CASE("an island holds what was reckoned of a piece, in every quality") {
    const Model model = stone(1500, 600);
    const TemporaryFolder folder;
    TryReport report;
    const auto piece = island::loadPiece(deliveredTo(folder, model), report);
    REQUIRE(piece);
    CHECK(report.accepted);
    CHECK(piece->triangles == model.meshes[0]->triangleCount());
    CHECK(piece->high.y == Approx(40).margin(0.1)); // centimetres
    CHECK(piece->low.y == Approx(0).margin(0.01));
    CHECK(piece->reckoned.upload == Approx(double(piece->uploadBytes)).epsilon(0.05));
    const double corners = double(model.meshes[0]->vertexCount()), triangles = double(piece->triangles);
    const std::array<glm::ivec2, 3> sizes{{{1500, 600}, {1024, 410}, {512, 205}}};
    for (std::size_t quality = 0; quality < 3; ++quality) {
        std::vector<world::Item> items;
        island::Herd herd(*piece, items);
        herd.hold(1, true, int(quality));
        INFO(island::qualities[quality].name);
        CHECK(items[0].picture->width == sizes[quality].x);
        CHECK(items[0].picture->height == sizes[quality].y);
        // All levels of a picture are a third more than the picture; sides that are odd lose a little.
        const double pictures = 4.0 * sizes[quality].x * sizes[quality].y * 4 / 3;
        CHECK(herd.pictureBytes() == Approx(pictures).epsilon(0.01));
        CHECK(piece->reckoned.pictures[quality] == Approx(herd.pictureBytes()).epsilon(0.01));
        CHECK(herd.meshBytes() == 32 * corners + 12 * triangles);
        CHECK(piece->reckoned.mesh == herd.meshBytes());
        const auto& shown = *items[0].picture; // shrunk, and not cut
        CHECK(shown.rgba[4 * std::size_t(shown.width / 4)] == 90);
        CHECK(shown.rgba[4 * std::size_t(3 * shown.width / 4)] == 210);
    }
}

TEST_CASE("copies of a piece take their place, pieces of their own all of it, until the island is full") {
    const TemporaryFolder folder;
    TryReport report;
    const auto piece = island::loadPiece(deliveredTo(folder, stone(2048, 2048)), report);
    REQUIRE(piece);
    std::vector<world::Item> items;
    island::Herd herd(*piece, items);
    herd.hold(1, true, 0);
    const double one = herd.bytes();
    herd.hold(50, true, 0);
    CHECK(herd.held() == 50);
    CHECK(herd.bytes() == one + 49 * 256);
    CHECK(items.size() == 1);
    CHECK(herd.drawn().size() == 50);
    herd.hold(20, false, 0);
    CHECK(herd.held() == 20);
    CHECK(herd.bytes() == 20 * one);
    CHECK(items.size() == 20);
    CHECK(items[0].shape.positions.data() != items[19].shape.positions.data());
    herd.hold(50, false, 0); // 22.4 MB each: the forty-fifth is too much
    CHECK(herd.held() == int(1e9 / one));
    CHECK(herd.held() < 50);
    CHECK(herd.bytes() <= 1e9);
    herd.hold(3, false, 2);
    CHECK(items.size() == 3);
    CHECK(herd.bytes() < 20 * one);
    // No two stand in one place.
    std::set<std::pair<float, float>> places;
    for (const auto& one : herd.drawn()) places.emplace(one.pose[3].x, one.pose[3].z);
    CHECK(places.size() == 3);
}

TEST_CASE("the island says what was shrunk without a word, and refuses what the builder refuses") {
    const TemporaryFolder folder;
    deliveredTo(folder, stone(1024, 1024));
    const auto report = island::tryFolder(folder.path());
    CHECK(report.accepted);
    CHECK(std::ranges::any_of(report.messages, [](const Message& m) {
        return m.kind == Message::Kind::Odd && m.detail.find("512 px") != std::string::npos;
    }));
    CHECK(report.tests["qualities"][2]["usual"] == true);
    CHECK(report.tests["qualities"][0]["memory"].get<double>() >
          report.tests["qualities"][2]["memory"].get<double>());
    const auto saysOf = [](const TryReport& tried, const char* text) {
        return !tried.accepted && std::ranges::any_of(tried.messages, [&](const Message& m) {
            return m.kind == Message::Kind::Refused && m.text.find(text) != std::string::npos;
        });
    };
    Model floating = stone(64, 64);
    floating.nodes[0].local[3].y = 0.3;
    const TemporaryFolder above;
    CHECK(saysOf(island::tryFolder(deliveredTo(above, floating)), "above the ground"));
    const TemporaryFolder broken;
    deliveredTo(broken, stone(64, 64));
    for (const char* about :
         {"{}", "[1]", R"({"format":"island-piece","version":1,"name":"a","model":7,"credit":""})",
          R"({"format":"island-piece","version":1,"name":"a","model":"../a.glb","credit":""})"}) {
        std::ofstream(broken / "stone.island.json") << about;
        CHECK_FALSE(island::tryFolder(broken.path()).accepted);
    }
    // What was reckoned may be missing or nonsense; the piece is taken all the same.
    for (const char* said :
         {"", R"(,"reckoned":7)", R"(,"reckoned":{"qualities":[1,{"name":3}],"uploadBytes":"x"})"}) {
        std::ofstream(broken / "stone.island.json")
            << R"({"format":"island-piece","version":1,"name":"a","model":"stone.glb","credit":"")" << said
            << "}";
        CHECK(island::tryFolder(broken.path()).accepted);
    }
}
