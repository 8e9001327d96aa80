// A thing's faces in the dressing room: each takes another picture, and nothing else changes.
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include "core/base/file_bytes.h"
#include "core/deliver/deliver.h"
#include "core/texture/picture_file.h"
#include "standins/dressing/dressing_arena.h"
#include "standins/dressing/thing.h"
#include "standins/world/arena.h"

#include <catch2/catch.hpp>

#include <fstream>

using namespace zl;
using namespace zl::standins;

namespace {

/// Boxes side by side, each in a material of its own; the first wears a picture.
Model boxes(int count) {
    Model model;
    for (int i = 0; i < count; ++i) {
        Mesh mesh = *shapes::box({i, 0, 0}, {i + 0.5, 0.5, 0.5}).meshes[0];
        mesh.uvSets = {std::vector<glm::vec2>(mesh.vertexCount(), glm::vec2(0.25f, 0.75f))};
        mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), i}};
        model.nodes.push_back({"box", -1, glm::dmat4(1.0), i});
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
        model.materials.push_back({.name = "side " + std::to_string(i)});
    }
    model.headingKnown = true;
    model.images = {
        texture::pictureFromPixels("pine.png", {8, 8, std::vector<std::uint8_t>(256, 120)}, false)};
    model.materials[0].wear(PictureRole::Colour, {.image = 0});
    return model;
}

void deliverTo(const TemporaryFolder& folder, const Model& model) {
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "commonmoor");
    writeAllOrNone(folder.path(), deliver::deliverableFor(*sheet, {{"lendable", true}})
                                      ->make(model, *sheet, {.name = "stall", .credit = "own work"}, {}));
}

std::filesystem::path picture(const TemporaryFolder& folder, const char* name, int edge) {
    return folder.write(
        name, texture::encodePng({edge, edge, std::vector<std::uint8_t>(std::size_t(4) * edge * edge, 33)}));
}

} // namespace

TEST_CASE("materials of one name are faces of their own, and the room refuses faces of one name") {
    Model model = boxes(3);
    model.materials[2].name = "side 0";
    const TemporaryFolder folder;
    deliverTo(folder, model);
    TryReport report;
    const auto thing = dressing::loadThing(folder.path(), report);
    REQUIRE(thing);
    CHECK(thing->faces[2].name == "side 0-2");
    CHECK(thing->faces[2].triangles == thing->faces[0].triangles);
    std::string about(FileBytes(folder / "stall.thing.json").text());
    about.replace(about.find("side 0-2"), 8, "side 0");
    folder.write("stall.thing.json", about);
    TryReport again;
    CHECK_FALSE(dressing::loadThing(folder.path(), again));
}

TEST_CASE("every material is a face with its own picture beside the mesh") {
    const TemporaryFolder folder;
    deliverTo(folder, boxes(3));
    TryReport report;
    const auto thing = dressing::loadThing(folder.path(), report);
    REQUIRE(thing);
    CHECK(thing->lendable);
    REQUIRE(thing->faces.size() == 3);
    CHECK(thing->faces[0].name == "side 0");
    REQUIRE(thing->faces[0].picture);
    CHECK(thing->faces[0].picture->rgba[0] == 120);
    CHECK_FALSE(thing->faces[1].picture);
    for (const auto& face : thing->faces) CHECK(face.triangles == 12);
    CHECK(thing->faces[2].isInside());
}

TEST_CASE("a picture goes onto the face it is dropped on, and onto no other") {
    const TemporaryFolder folder, elsewhere;
    deliverTo(folder, boxes(3));
    TryReport report;
    const auto arena = dressing::open(folder.path(), report);
    REQUIRE(arena);
    const auto widthOf = [&](int item) {
        const auto& worn = arena->items()[std::size_t(item)].picture;
        return worn ? worn->width : 0;
    };
    CHECK(widthOf(0) == 8);
    // The ray finds the box in the middle.
    const int middle = arena->itemAt({1.25f, 0.25f, 10}, {0, 0, -1});
    REQUIRE(middle >= 0);
    CHECK(arena->itemAt({0.75f, 0.25f, 10}, {0, 0, -1}) < 0); // between two
    CHECK(arena->itemAt({1.25f, 0.25f, 10}, {0, 0, 1}) < 0);  // away from them
    std::string why;
    const int before = arena->itemsRevision();
    CHECK(arena->takePicture(picture(elsewhere, "moss.png", 64), middle, why));
    CHECK(arena->itemsRevision() > before);
    CHECK(widthOf(middle) == 64);
    CHECK(widthOf(0) == 8);
    CHECK(arena->choices()[0].chosen == 1); // the face that was dressed is the one that buttons mean now
    CHECK(arena->tables()[0].rows[1].values[1] == "moss.png");
    CHECK_FALSE(arena->takePicture(picture(elsewhere, "wide.png", 2048), middle, why));
    CHECK(why.find("2048 by 2048") != std::string::npos);
    CHECK_FALSE(arena->takePicture(picture(elsewhere, "odd.png", 60), middle, why));
    CHECK_FALSE(arena->takePicture(elsewhere / "nowhere.png", middle, why));
    CHECK_FALSE(arena->takePicture(elsewhere.write("text.png", "no picture"), middle, why));
    CHECK(widthOf(middle) == 64);
    arena->choose("face", 2);
    CHECK(arena->takePicture(elsewhere / "moss.png", -1, why));
    CHECK(arena->tables()[0].rows[2].values[1] == "moss.png");
    arena->act("undress");
    CHECK(widthOf(middle) == 0);
    CHECK(arena->tables()[0].rows[1].values[1] == "its colour");
}

TEST_CASE("the dressing room refuses what the shared world refuses") {
    const TemporaryFolder folder;
    deliverTo(folder, boxes(7));
    auto report = dressing::tryFolder(folder.path());
    CHECK_FALSE(report.accepted);
    CHECK(report.messages[0].text == "7 faces");
    const TemporaryFolder small;
    deliverTo(small, boxes(2));
    CHECK(dressing::tryFolder(small.path()).accepted);
    for (const char* faces : {"[]", "7", R"([{"name":"side 0"}])", R"([{"picture":"x.png"}])",
                              R"([{"name":"side 0","picture":"../x.png"},{"name":"side 1"}])"}) {
        INFO(faces);
        std::ofstream(small / "stall.thing.json")
            << R"({"format":"faced-thing","version":1,"name":"a","model":"stall.glb","credit":"","faces":)"
            << faces << "}";
        CHECK_FALSE(dressing::tryFolder(small.path()).accepted);
    }
}
