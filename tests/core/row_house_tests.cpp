// Packages delivered for the row of houses, loaded by the stand-in's own reader beside others'.
#include "core/base/error.h"
#include "core/deliver/row_package.h"
#include "core/figure/figure.h"
#include "core/formats/format.h"
#include "core/package/make_mine.h"
#include "core/package/reference_check.h"
#include "core/package/references.h"
#include "core/steps/step.h"
#include "standins/stand_in.h"
#include "standins/world/arena.h"
#include "support/finds.h"
#include "support/row_packages.h"
#include "support/sheets.h"

using namespace zl;

namespace {

/// The apple box, and Odd Fennel's copy of it that is twice as high.
void twoPackages(const TemporaryFolder& folder) {
    rows::write(folder / "apple.rowpackage", rows::appleBox());
    auto copy = package::makeMine(rows::appleBox(), {"plumBox", "Odd Fennel", {"kid-"}}).package;
    rows::write(folder / "plum.rowpackage", copy);
}

std::vector<OutFile> delivered(const Model& model, const std::filesystem::path& source,
                               const nlohmann::json& params = nlohmann::json::object()) {
    const auto sheet =
        platform::readSheet(std::filesystem::path(ZEST_LOOM_ROOT) / "platforms/thistledown.toml");
    return deliver::deliverableFor(sheet, params)
        ->make(model, sheet, {"Pear box", "by Mira Quill", source}, {});
}

standins::TryReport tried(const std::filesystem::path& folder) {
    return standins::standInNamed("house")->tryFolder(folder);
}

std::string refusals(const standins::TryReport& report) {
    std::string all;
    for (const auto& message : report.messages)
        if (message.kind == standins::Message::Kind::Refused) all += message.text + "; ";
    return all;
}

} // namespace

TEST_CASE("A reshaped item is delivered under its own names and shown beside the original and another copy") {
    const TemporaryFolder folder;
    twoPackages(folder);
    const auto source = folder / "apple.rowpackage/geometry/appleBox.rowmesh";
    Model model = formats::readModel(source);
    model.placement = glm::scale(glm::dmat4(1.0), {1, 1.5, 1}) * model.placement;
    const auto files = delivered(model, source, {{"maker", "Tamsin Reed"}});
    REQUIRE(files.size() == 3);
    CHECK(files[0].name == "pear-box.rowpackage");
    CHECK(files[1].name == "neighbours/apple.rowpackage");
    writeAllOrNone(folder / "out", files);
    const auto report = tried(folder / "out");
    CHECK(refusals(report) == "");
    CHECK(report.accepted);
    const auto& items = report.tests["items"];
    REQUIRE(items.size() == 3);
    for (const auto& item : items) CHECK(item["ownShape"] == true);
    CHECK(items[0]["height"] == 3.0);
    CHECK(items[2]["height"] == 4.5);
    CHECK(items[2]["delivered"] == true);
    // Every other resource is as it was but for numbers and names.
    const auto made = package::readPackage(folder / "out/pear-box.rowpackage", {});
    CHECK(made.maker == "Tamsin Reed");
    CHECK(made.credit == "by Mira Quill");
    CHECK(made.resources.back().name == "kid-pear-box");
    CHECK(made.resources[0].bytes->size() == rows::appleBox().resources[0].bytes->size());
}

TEST_CASE("Two packages with one number show one shape, and the row refuses them") {
    const TemporaryFolder folder;
    auto mine = rows::appleBox();
    Model model = shapes::box({0, 0, 0}, {1, 9, 1});
    writeAllOrNone(folder / "out", {{"neighbours/apple.rowpackage", bytesOf(mine)}});
    for (auto& resource : mine.resources)
        if (resource.key.is(package::ResourceKind::Geometry)) {
            Mesh mesh = geometry::boxMesh({0, 0, 0}, {1, 1, 9});
            mesh.normals.assign(mesh.vertexCount(), {0, 0, 1});
            resource.bytes = std::make_shared<const std::string>(formats::rowMeshBytes(
                mesh, Up::Z, {{"appleBox-wood", rows::key(package::ResourceKind::Material, 0x2222), 0, 12}}));
        }
    rows::write(folder / "out/mine.rowpackage", mine);
    const auto report = tried(folder / "out");
    CHECK_FALSE(report.accepted);
    CHECK(refusals(report).find("\"Apple box\" of apple.rowpackage shows the shape of mine.rowpackage") == 0);
    for (const auto& item : report.tests["items"]) CHECK(item["height"] == 9.0);
}

TEST_CASE("A copy of which one reference still points at the original is refused by the row") {
    const TemporaryFolder folder;
    auto copy = package::makeMine(rows::appleBox(), {"pear", "Mira Quill", {}}).package;
    const auto& original = rows::appleBox().resources;
    auto& shape = *copy.resource(copy.first(package::ResourceKind::Geometry)->key);
    auto groups = formats::rowMeshHead(*shape.bytes, "x").groups;
    groups[0].material = original[1].key;
    shape.bytes = std::make_shared<const std::string>(formats::withRowGroups(*shape.bytes, "x", groups));
    writeAllOrNone(folder / "out", {{"neighbours/apple.rowpackage", bytesOf(rows::appleBox())}});
    rows::write(folder / "out/pear.rowpackage", copy);
    CHECK(refusals(tried(folder / "out")).find("wears a material of apple.rowpackage") != std::string::npos);
    std::filesystem::remove_all(folder / "out/neighbours");
    CHECK(refusals(tried(folder / "out")).find("wears nothing") != std::string::npos);
}

TEST_CASE("What cannot be kept apart from the original is not delivered") {
    const TemporaryFolder folder;
    auto odd = rows::appleBox();
    rows::add(odd, {99, 0, 0x8888}, "appleBox-rig", std::string("\x01 appleBox \x02"));
    auto entry = *odd.resources[5].bytes;
    entry.insert(entry.find("}"), ", \"rig\": \"63:00000000:0000000000008888\"");
    odd.resources[5].bytes = std::make_shared<const std::string>(entry);
    rows::write(folder / "apple.rowpackage", odd);
    const auto source = folder / "apple.rowpackage/geometry/appleBox.rowmesh";
    try {
        delivered(formats::readModel(source), source);
        FAIL("it was delivered");
    } catch (const Refused& error) {
        CHECK(error.whole().find("the kind 99 \"pear-box-rig\" still names \"appleBox\"") !=
              std::string::npos);
    }
}

TEST_CASE("Any other piece becomes a new item with its materials and pictures") {
    const TemporaryFolder folder;
    Model model = shapes::box({0, 0, 0}, {1, 2, 1});
    model.materials.push_back({.name = "Painted wood"});
    model.materials[0].picture(PictureRole::Colour).image = 0;
    model.images.push_back(
        texture::pictureFromPixels("wood.png", {2, 2, std::vector<std::uint8_t>(16, 90)}, false));
    Mesh mesh = *model.meshes[0];
    mesh.runs[0].material = 0;
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    writeAllOrNone(folder / "out", delivered(model, folder / "box.obj", {{"maker", "Mira Quill"}}));
    const auto made = package::readPackage(folder / "out/pear-box.rowpackage", {});
    CHECK(checkReferences(made, {}).isClean());
    CHECK(package::Links(made).all().size() ==
          4); // entry to geometry and thumbnail, geometry to material, to picture
    const auto report = tried(folder / "out");
    CHECK(refusals(report) == "");
    CHECK(report.tests["items"][0]["height"] == 2.0);
    const Model back = formats::readModel(folder / "out/pear-box.rowpackage/geometry/pear-box.rowmesh");
    CHECK(back.materials.at(0).image(PictureRole::Colour) == 0);
    CHECK(back.warnings.empty());
}

TEST_CASE("The row house refuses hostile folders in words") {
    const TemporaryFolder folder;
    CHECK(refusals(tried(folder / "nothing")) != "");
    std::filesystem::create_directories(folder / "out");
    CHECK(refusals(tried(folder / "out")).find("There is no package") == 0);
    writeFile(folder / "out/x.rowpackage", "not SQLite");
    CHECK(refusals(tried(folder / "out")).find("cannot be read") != std::string::npos);
    const std::string whole = bytesOf(rows::appleBox());
    for (std::size_t size = 0; size < whole.size(); size += 1000) {
        writeFile(folder / "out/x.rowpackage", whole.substr(0, size));
        CHECK_FALSE(tried(folder / "out").accepted);
    }
    auto bad = rows::appleBox();
    std::string geometry = *bad.resources[3].bytes;
    for (std::size_t at = 8; at < geometry.size(); at += 13) { // any number in it, made huge
        std::string hit = geometry;
        for (std::size_t k = at; k < std::min(at + 4, hit.size()); ++k) hit[k] = '\xff';
        bad.resources[3].bytes = std::make_shared<const std::string>(hit);
        rows::write(folder / "out/x.rowpackage", bad);
        CHECK_NOTHROW(tried(folder / "out"));
    }
}

TEST_CASE("A delivered pose plays on the game's own figure, which takes what it wears along") {
    const TemporaryFolder folder;
    const Model figure = figure::figureOf(figure::kindNamed("grown-a"));
    const auto step = steps::makeStep(
        "pose", {{"called", "reach"},
                 {"reaches", {{{"end", "hand.left"}, {"to", {0.5, 1.6, 0.2}}, {"bend", {0, -1, 0}}}}}});
    steps::StepContext context{{}};
    writeAllOrNone(folder / "out", delivered(step->apply(figure, context), {}, {{"what", "poses"}}));
    const auto* house = standins::standInNamed("house");
    standins::TryReport report;
    const auto arena = house->open(folder / "out", report);
    REQUIRE(arena);
    CHECK(report.accepted);
    const auto told = tried(folder / "out").tests["poses"][0];
    CHECK(told["leftHandAt"][0].get<double>() == Approx(0.5).margin(0.01));
    CHECK(told["leftHandAt"][1].get<double>() == Approx(1.6).margin(0.01));
    // It moves there by itself, comes to rest, and goes back when that is chosen.
    const auto places = [&] {
        std::vector<float> out;
        for (const auto& drawn : arena->drawn()) out.push_back(drawn.pose[3].y);
        return out;
    };
    const auto still = places();
    CHECK(arena->advance(0.35));
    const auto half = places();
    CHECK(half != still);
    arena->advance(0.5);
    const auto there = places();
    CHECK(there != half);
    REQUIRE(arena->choices().size() == 1);
    CHECK(arena->choices()[0].options == std::vector<std::string>{"at rest", "reach"});
    arena->choose("pose", 7); // no such one
    CHECK(places() == there);
    arena->choose("pose", 0);
    arena->advance(2);
    for (std::size_t i = 0; i < still.size(); ++i) CHECK(places()[i] == Approx(still[i]).margin(1e-5));
}

TEST_CASE("A pose for bones that the game's figures have not is not delivered, and it is said which") {
    Model figure = figure::figureOf(figure::kindNamed("grown-a"));
    for (Node& node : figure.nodes)
        if (node.name == "head") node.name = "snout";
    const auto step =
        steps::makeStep("pose", {{"called", "nod"}, {"turns", {{{"bone", "snout"}, {"x", 20}}}}});
    steps::StepContext context{{}};
    try {
        delivered(step->apply(figure, context), {}, {{"what", "poses"}});
        FAIL("it was delivered");
    } catch (const Refused& refused) {
        CHECK(std::string(refused.what()).find("\"snout\"") != std::string::npos);
        CHECK(refused.where() == "nod");
    }
}
