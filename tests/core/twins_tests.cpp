// Pieces in several sizes: held against each other, run through one recipe, delivered together, and tried by
// the wardrobe.
#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/deliver/deliver.h"
#include "core/formats/format.h"
#include "core/geometry/twins.h"
#include "core/project/build_all.h"
#include "core/project/other_sizes.h"
#include "standins/stand_in.h"
#include "standins/wardrobe/wardrobe.h"
#include "support/quickest.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

/// A figure's coat of two objects, on two bones, as wide as asked.
Model coat(double wide) {
    Model model;
    model.frame.unitAssumed = model.frame.upAssumed = false;
    model.headingKnown = true;
    model.materials = {{.name = "felt"}, {.name = "horn"}};
    model.nodes = {{"hips", -1, glm::dmat4(1.0)},
                   {"chest", 0, glm::translate(glm::dmat4(1.0), {0.0, 0.5, 0.0})}};
    model.skins = {{"body", {0, 1}, {glm::mat4(1), glm::translate(glm::mat4(1), glm::vec3(0, -0.5f, 0))}, 0}};
    const auto add = [&](const char* name, Mesh mesh, int material) {
        for (auto& p : mesh.positions) p = glm::vec3(wide * p.x, p.y + 0.8, p.z);
        mesh.normals.assign(mesh.vertexCount(), glm::vec3(0, 0, 1));
        mesh.joints.assign(mesh.vertexCount(), glm::u16vec4(0, 1, 0, 0));
        mesh.weights.assign(mesh.vertexCount(), glm::vec4(0.5f, 0.5f, 0, 0));
        mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), material}};
        mesh.name = name;
        model.nodes.push_back({name, -1, glm::dmat4(1.0), int(model.meshes.size()), 0});
        model.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
    };
    add("coat", shapes::sphere(24, 12, 0.4), 0);
    add("button", shapes::sphere(8, 4, 0.05), 1);
    return model;
}

Model withMesh(Model model, std::size_t node, const std::function<void(Mesh&)>& change) {
    auto mesh = std::make_shared<Mesh>(*model.meshes[std::size_t(model.nodes[node].mesh)]);
    change(*mesh);
    model.meshes[std::size_t(model.nodes[node].mesh)] = mesh;
    return model;
}

void dropLast(Mesh& mesh) {
    mesh.indices.resize(mesh.indices.size() - 3);
    --mesh.runs.back().triangleCount;
}

/// A project of one coat in two sizes beside it.
project::Project inTwoSizes(const TemporaryFolder& folder, const Model& slim, const Model& broad) {
    writeAllOrNone(folder.path(), formats::writeGlb(slim, {"coat_slim"}, nullptr));
    writeAllOrNone(folder.path(), formats::writeGlb(broad, {"coat_broad"}, nullptr));
    project::Project project;
    project.file = folder / "coats.zestloom";
    project::Piece piece;
    piece.name = "Coat";
    for (const char* size : {"slim", "broad"})
        piece.sources.push_back(
            {"coat_" + std::string(size) + ".glb", "", "", project::Permission::OwnWork, "", size});
    piece.crossings = {{"fellmark", {}}};
    project.pieces = {piece};
    project.platforms = {"fellmark"};
    return project;
}

project::BuiltCrossing builtIn(const project::Project& project, const std::filesystem::path& out) {
    project::SourceCache sources;
    const auto results = buildAll(project, {sheet("fellmark")}, sources, {out, 1, {}, {}});
    REQUIRE(results.size() == 1);
    return results[0];
}

standins::TryReport wornIn(const std::filesystem::path& folder) {
    return standins::standInNamed("wardrobe")->tryFolder(folder);
}

bool says(const standins::TryReport& report, const std::string& words) {
    return std::ranges::any_of(report.messages, [&](const auto& message) {
        return (message.text + " " + message.detail).find(words) != std::string::npos;
    });
}

} // namespace

TEST_CASE("two sizes are held against each other object by object, and the first difference is named") {
    const Model slim = coat(1), broad = coat(1.3);
    const auto alike = geometry::comparedTwins(slim, broad);
    CHECK(alike.equal);
    REQUIRE(alike.objects.size() == 2);
    CHECK(alike.objects[0].name == "coat");
    CHECK(alike.objects[0].uvs);
    CHECK(alike.why({"slim", "broad"}).empty());

    const auto fewer = geometry::comparedTwins(slim, withMesh(broad, 3, dropLast));
    CHECK_FALSE(fewer.equal);
    CHECK(fewer.firstUnequal()->name == "button");
    CHECK(fewer.firstUnequal()->triangles == std::array<std::size_t, 2>{48, 47});
    CHECK(fewer.why({"slim", "broad"}) == "\"button\" has 48 triangles in slim and 47 triangles in broad");

    const auto turned =
        geometry::comparedTwins(slim, withMesh(broad, 2, [](Mesh& mesh) {
                                    std::rotate(&mesh.indices[30], &mesh.indices[31], &mesh.indices[33]);
                                }));
    CHECK(turned.firstUnequal()->firstDifference == 10u);
    CHECK(turned.why({"slim", "broad"}) == "\"coat\" is made of other triangles from number 11 on");

    Model swapped = broad;
    std::swap(swapped.nodes[2], swapped.nodes[3]);
    const auto order = geometry::comparedTwins(slim, swapped);
    CHECK(order.why({"slim", "broad"}) == "\"coat\" is object 1 in slim and 2 in broad");

    Model without = broad;
    without.nodes.pop_back();
    CHECK(geometry::comparedTwins(slim, without).why({"slim", "broad"}) ==
          "\"button\" is there in slim only");
    CHECK(geometry::comparedTwins(without, slim).objects.size() == 2);

    Model named = broad;
    named.nodes[2].name = "coat_broad";
    Model base = slim;
    base.nodes[2].name = "coat_slim";
    CHECK(geometry::comparedTwins(base, named).equal);
    const auto other = geometry::comparedTwins(slim, withMesh(broad, 2, [](Mesh& m) {
                                                   m.weights[0] = {1, 0, 0, 0};
                                               }));
    CHECK(other.equal); // a game may weigh them otherwise; it is told
    CHECK_FALSE(other.objects[0].weights);
    CHECK(geometry::comparedTwins({}, {}).equal);
}

TEST_CASE("a piece without a source has one size, which has no name") {
    CHECK(project::Piece{}.sizes() == std::vector<std::string>{""});
}

TEST_CASE("two sizes of 200 000 triangles are compared in a moment") {
    const Model a = shapes::modelOf(shapes::sphere(500, 201), "coat"),
                b = shapes::modelOf(shapes::sphere(500, 201), "coat"); // of bytes of its own
    CHECK(quickestOfThree([&] { CHECK(geometry::comparedTwins(a, b).equal); }) < secondsAllowed(0.2));
}

TEST_CASE("one recipe runs on both sizes, and what comes of it is delivered together and can be worn") {
    const TemporaryFolder folder;
    auto fair = inTwoSizes(folder, coat(1), coat(1.3));
    const Model slim = formats::readModel(folder / "coat_slim.glb");
    std::vector<char> some(slim.meshes[0]->triangleCount(), 0);
    for (std::size_t t = 0; t < 60; ++t) some[t] = 1;
    selection::Chosen chosen{std::vector<std::vector<char>>(slim.nodes.size())};
    chosen.faces[2] = some;
    fair.pieces[0].crossings[0].recipe = {
        {"cut-out", true,
         steps::makeStep("cut-out",
                         {{"faces", selection::toJson(selection::stored(slim, chosen))}, {"name", "hem"}})
             ->params()},
        {"part-material", true,
         steps::makeStep("part-material",
                         nlohmann::json{{"faces", nlohmann::json::parse(R"([{"parts": ["hem"]}])")},
                                        {"called", "lit felt"},
                                        {"settings", {{{"name", "glow"}, {"value", "0.5"}}}}})
             ->params()}};
    // As the project's own file has it, too.
    fair = project::fromJson(nlohmann::json(toJson(fair)), fair.file);
    CHECK(fair.pieces[0].sizes() == std::vector<std::string>{"slim", "broad"});
    for (const char* format : {"glb", "text"}) {
        INFO(format);
        fair.pieces[0].crossings[0].deliver = {{"format", format}};
        const auto built = builtIn(fair, folder / format);
        INFO(built.words);
        REQUIRE(built.outcome == project::BuiltCrossing::Outcome::Built);
        CHECK(built.files.size() == 3);
        const auto out = project::folderOf(folder / format, "fellmark", "Coat");
        const auto report = wornIn(out);
        for (const auto& message : report.messages) UNSCOPED_INFO(message.text << " " << message.detail);
        REQUIRE(report.accepted);
        const auto& objects = report.tests["objects"];
        REQUIRE(objects.size() == 3);
        CHECK(objects[2]["name"] == "hem");
        CHECK(objects[2]["triangles"] == 60);
        CHECK(objects[2]["settings"]["glow"] == 0.5);
        // Coat of 0.4 m radius: 0.8 m are 57.14 units slim, 1.3 times that broad, and the mean half-way.
        CHECK(objects[0]["widths"][0].get<double>() == Approx(0.8 / 0.014).epsilon(1e-3));
        CHECK(objects[0]["widths"][1].get<double>() == Approx(1.15 * 0.8 / 0.014).epsilon(1e-3));
        CHECK(objects[0]["widths"][2].get<double>() == Approx(1.3 * 0.8 / 0.014).epsilon(1e-3));
    }
}

TEST_CASE("a size that is missing, unequal or broken delivers nothing, and says which and why") {
    const TemporaryFolder folder;
    using Outcome = project::BuiltCrossing::Outcome;
    const auto nothing = [&] {
        return !std::filesystem::exists(project::folderOf(folder / "out", "fellmark", "Coat"));
    };

    auto fair = inTwoSizes(folder, coat(1), withMesh(coat(1.3), 3, dropLast));
    auto built = builtIn(fair, folder / "out");
    CHECK(built.outcome == Outcome::DoesNotFit);
    CHECK(built.words == "\"button\" has 48 triangles in slim and 47 triangles in broad");
    CHECK(nothing());

    fair.pieces[0].sources.pop_back();
    built = builtIn(fair, folder / "out");
    CHECK(built.outcome == Outcome::DoesNotFit);
    CHECK(built.words.find("The broad size is missing") != std::string::npos);
    CHECK(nothing());

    // Faces that were chosen on one hold on the other only where that has the same triangles.
    fair = inTwoSizes(folder, coat(1), withMesh(coat(1.3), 2, dropLast));
    const Model slim = formats::readModel(folder / "coat_slim.glb");
    selection::Chosen chosen{std::vector<std::vector<char>>(slim.nodes.size())};
    chosen.faces[2].assign(slim.meshes[0]->triangleCount(), 0);
    chosen.faces[2][5] = 1;
    fair.pieces[0].crossings[0].recipe = {
        {"cut-out", true,
         steps::makeStep("cut-out", {{"faces", selection::toJson(selection::stored(slim, chosen))}})
             ->params()}};
    built = builtIn(fair, folder / "out");
    CHECK(built.outcome == Outcome::Failed);
    CHECK(built.words.find("the broad size") != std::string::npos);
    CHECK(built.words.find("numbered otherwise") != std::string::npos);

    writeFile(folder / "coat_broad.glb", "glTF\2 no more");
    CHECK(builtIn(fair, folder / "out").outcome == Outcome::Failed);
    std::filesystem::remove(folder / "coat_broad.glb");
    CHECK(builtIn(fair, folder / "out").outcome == Outcome::Failed);
    CHECK(nothing());
}

TEST_CASE("the wardrobe refuses what cannot be blended as its game does: which object, which number") {
    const TemporaryFolder folder;
    const auto deliver = [&](const Model& slim, const Model& broad) {
        const auto s = sheet("fellmark");
        deliver::Labels labels{.name = "coat", .sizes = {"slim", {{"broad", broad}}}};
        writeAllOrNone(folder / "d", deliver::deliverableFor(*s)->make(slim, *s, labels, {}));
        return wornIn(folder / "d");
    };
    CHECK(deliver(coat(1), coat(1.3)).accepted);
    auto report = deliver(coat(1), withMesh(coat(1.3), 3, dropLast));
    CHECK_FALSE(report.accepted);
    CHECK(says(report, "Object 2 (\"button\"): triangles 48 slim, 47 broad"));
    report = deliver(coat(1), withMesh(coat(1.3), 2, [](Mesh& m) { std::swap(m.indices[0], m.indices[1]); }));
    CHECK(says(report, "Object 1 (\"coat\"): triangle 1 joins other corners"));
    Model glowing = coat(1);
    glowing.materials[0].settings = {{"glow", 1.5}, {"hum", 1.0}};
    report = deliver(glowing, coat(1.3));
    CHECK_FALSE(report.accepted);
    CHECK(says(report, "glow of \"coat\" is 1.5"));
    CHECK(says(report, "\"hum\" of \"coat\" means nothing here"));
    std::filesystem::remove(folder / "d/coat_broad.glb");
    CHECK_FALSE(wornIn(folder / "d").accepted);
    CHECK_THROWS_AS(
        deliver::deliverableFor(*sheet("fellmark"))->make(coat(1), *sheet("fellmark"), {.name = "coat"}, {}),
        Refused);
}

TEST_CASE("the wardrobe's readers end on whatever they are given") {
    using namespace standins::wardrobe;
    const std::string glb = formats::writeGlb(coat(1), {"c"}, nullptr)[0].bytes;
    for (std::size_t cut = 0; cut < glb.size(); cut += 97) CHECK_NOTHROW(readGlbOutfit(glb.substr(0, cut)));
    std::string broken = glb;
    for (std::size_t at = 20; at < glb.size(); at += 61) {
        broken[at] = char(broken[at] ^ 0x5a);
        CHECK_NOTHROW(readGlbOutfit(broken));
    }
    for (const char* text :
         {"", "outfit 2\n", "outfit 1\nv 1 2 3\n", "outfit 1\nobject \"a\nv 0 0 0", "outfit 1\nt 0 0 0\n",
          "outfit 1\nobject \"a\"\nv 0 0 0 0 0 1 0 0 7 1\n", "outfit 1\nobject \"a\"\nv nan 0 0 0 0 1 0 0\n",
          "outfit 1\nobject \"a\"\nt 0 1 2\n", "outfit 1\nbone \"b\" 5 0 0 0\n", "outfit 1\nwing \"b\"\n",
          "outfit 1\nobject a\n", "outfit 1\nobject \"a\"\nset \"b\" 1e999\n"}) {
        INFO(text);
        CHECK_FALSE(readTextOutfit(text).problem.empty());
    }
}

TEST_CASE("primitives of a glTF mesh that share their corners are one mesh whose materials touch") {
    const TemporaryFolder folder;
    Model ball = shapes::modelOf(shapes::sphere(24, 12), "ball");
    ball.materials = {{.name = "a"}, {.name = "b"}};
    ball = withMesh(ball, 0, [](Mesh& m) {
        m.runs = {{0, 200, 0}, {200, std::uint32_t(m.triangleCount() - 200), 1}};
    });
    writeAllOrNone(folder.path(), formats::writeGlb(ball, {"ball"}, nullptr));
    const Model back = formats::readModel(folder / "ball.glb");
    CHECK(back.meshes[0]->vertexCount() == ball.meshes[0]->vertexCount());
    CHECK(back.meshes[0]->indices == ball.meshes[0]->indices);
    CHECK(back.meshes[0]->runs.size() == 2);
}
