// What models of other people's making broke, each as small as it can be.
#include "core/base/error.h"
#include "core/base/stamp.h"
#include "core/base/utf8.h"
#include "core/formats/format.h"
#include "core/geometry/clean.h"
#include "core/geometry/parts.h"
#include "core/geometry/reduce.h"
#include "core/geometry/topology.h"
#include "core/geometry/turn_slivers.h"
#include "core/geometry/weld.h"
#include "core/model/promises.h"
#include "core/planner/planner.h"
#include "core/platform/check.h"
#include "core/project/build_all.h"
#include "core/project/dependencies.h"
#include "standins/level/level_file.h"
#include "standins/site/glb_file.h"
#include "standins/world/obj_file.h"
#include "standins/yard/collada_file.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <chrono>
#include <clocale>
#include <fstream>
#include <thread>

using namespace zl;

namespace {

Model ran(const Model& model, const char* step, const nlohmann::json& params = nlohmann::json::object(),
          std::vector<std::string>* notes = nullptr, const platform::Sheet* sheet = nullptr) {
    const Progress progress;
    steps::StepContext context{progress, sheet};
    Model out = steps::makeStep(step, params)->apply(model, context);
    if (notes) *notes = context.notes;
    CHECK(brokenPromise(out) == "");
    return out;
}

Mesh triangles(std::vector<glm::vec3> positions, std::vector<std::uint32_t> indices) {
    Mesh mesh;
    mesh.positions = std::move(positions);
    mesh.indices = std::move(indices);
    mesh.parts = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    return mesh;
}

double areaOf(const Mesh& mesh) {
    double area = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a = mesh.positions[mesh.indices[3 * t]];
        area += glm::length(glm::cross(glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) - a,
                                       glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]]) - a)) / 2;
    }
    return area;
}

std::size_t sliversIn(const Mesh& mesh) {
    std::size_t count = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) count += geometry::isSliver(mesh, t);
    return count;
}

template <class Work>
double secondsOf(const Work& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

constexpr const char* triangleGltf =
    R"({{"asset": {{"version": "2.0"}}, "scene": 0, "scenes": [{{"nodes": [0]}}], "nodes": [{{"mesh": 0}}],
"meshes": [{{"primitives": [{{"attributes": {{"POSITION": 0}}}}]}}],
"accessors": [{{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3"}}],
"bufferViews": [{{"buffer": 0, "byteLength": 36}}], "buffers": [{{"byteLength": 36, "uri": "{}"}}]}})";

std::string threeCorners(float scale) {
    const float numbers[9] = {0, 0, 0, scale, 0, 0, 0, scale, 0};
    return {reinterpret_cast<const char*>(numbers), sizeof numbers};
}

project::Project projectOf(const TemporaryFolder& folder, const std::vector<std::pair<std::string, std::string>>& pieces) {
    project::Project project;
    project.file = folder / "fair.zestloom";
    project.platforms = {"playmeadow"};
    for (const auto& [name, file] : pieces) {
        project::Piece piece;
        piece.name = name;
        piece.sources = {{file, "", "", project::Permission::OwnWork}};
        piece.crossings = {{"playmeadow", {}, "", ""}};
        project.pieces.push_back(piece);
    }
    return project;
}

} // namespace

TEST_CASE("files that a glTF names are looked for as they are on the disk, and two pieces never share a hash") {
    TemporaryFolder folder;
    folder.write("one x.bin", threeCorners(1)), folder.write("two x.bin", threeCorners(2));
    folder.write("a.gltf", fmt::format(fmt::runtime(triangleGltf), "one%20x.bin"));
    folder.write("b.gltf", fmt::format(fmt::runtime(triangleGltf), "two%20x.bin"));
    const auto project = projectOf(folder, {{"A", "a.gltf"}, {"B", "b.gltf"}});
    project::SourceCache sources;
    const auto a = sources.load(project, project.pieces[0]), b = sources.load(project, project.pieces[1]);
    CHECK(std::ranges::find(a.model.files, folder / "one x.bin") != a.model.files.end());
    CHECK(a.hash != b.hash);
    folder.write("one x.bin", threeCorners(5));
    const auto again = sources.load(project, project.pieces[0]);
    CHECK(again.hash != a.hash);
    CHECK(geometry::worldBounds(again.model).size().x == Approx(5));
}

TEST_CASE("pieces whose files all miss something are still told apart") {
    TemporaryFolder folder;
    const auto obj = [](double tall) { return fmt::format("mtllib gone.mtl\nv 0 0 0\nv 1 0 0\nv 0 {} 0\nf 1 2 3\n", tall); };
    folder.write("a.obj", obj(1)), folder.write("b.obj", obj(2));
    const auto project = projectOf(folder, {{"A", "a.obj"}, {"B", "b.obj"}});
    project::SourceCache sources;
    const auto first = sources.load(project, project.pieces[0]), second = sources.load(project, project.pieces[1]);
    CHECK(first.hash != 0);
    CHECK(first.hash != second.hash);
}

TEST_CASE("a material file and a picture that come later are a change, whatever their case") {
    TemporaryFolder folder;
    folder.write("a.obj", "mtllib Skin.mtl\nusemtl s\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    const auto project = projectOf(folder, {{"A", "a.obj"}});
    project::SourceCache sources;
    auto before = sources.load(project, project.pieces[0]);
    CHECK_FALSE(before.model.warnings.empty());
    folder.write("skin.mtl", "newmtl s\nmap_Kd s.png\n");
    auto after = sources.load(project, project.pieces[0]);
    CHECK(after.hash != before.hash);
    CHECK(after.model.images.empty());
    folder.write("S.PNG", png(2, 2));
    after = sources.load(project, project.pieces[0]);
    CHECK(after.model.images.size() == 1);
    CHECK(after.model.warnings.empty());
}

TEST_CASE("a record of a build holds only while nothing that it rests on is another") {
    TemporaryFolder folder;
    folder.write("a.obj", "mtllib a.mtl\no a\nusemtl s\nv 0 0 0\nv 1 0 0\nv 0 0 1\nv 0 1 0\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n");
    folder.write("a.mtl", "newmtl s\nKd 1 0 0\n");
    folder.write("b.obj", readText(folder / "a.obj") + "# another file of the same shape\n");
    project::Project project = projectOf(folder, {{"A", "a.obj"}});
    project.platforms = {"playmeadow"};
    auto& crossing = project.pieces[0].crossings[0];
    crossing.recipe = recipe::fromJson({{{"step", "unit-and-up"}, {"params", {{"unit", "m"}, {"up", "y"}}}},
                                        {{"step", "stand-on-floor"}}});
    using Outcome = project::BuiltCrossing::Outcome;
    const auto built = [&] {
        project::SourceCache sources;
        const auto results = project::buildAll(project, platform::loadSheets(project.folder()), sources,
                                               {folder / "out", 1, {}, {}});
        REQUIRE(results.size() == 1);
        INFO(results[0].words);
        return results[0].outcome;
    };
    REQUIRE(built() == Outcome::Built);
    CHECK(built() == Outcome::Unchanged);
    SECTION("another source") { project.pieces[0].sources[0].path = "b.obj"; }
    SECTION("the source's own change") { folder.write("a.obj", readText(folder / "a.obj") + "#\n"); }
    SECTION("a file that the source names") { folder.write("a.mtl", "newmtl s\nKd 0 1 0\n"); }
    SECTION("the kind of files") { crossing.format = "obj"; }
    SECTION("the credit") { project.pieces[0].sources[0].author = "Mira Quill"; }
    SECTION("the recipe") { crossing.recipe.push_back({"turn", true, {{"y", 90}}}); }
    SECTION("the piece's own recipe") { project.pieces[0].recipe.push_back({"turn", true, {{"y", 90}}}); }
    SECTION("the sheet") {
        std::filesystem::create_directories(folder / "platforms");
        std::string text = readText(sheet("playmeadow")->file);
        folder.write("platforms/own.toml", text.replace(text.find("16000"), 5, "15000"));
    }
    SECTION("a delivered file") { writeFile(folder / "out/playmeadow/a/pack.json", "{}"); }
    SECTION("a record that is JSON but none") {
        for (const auto& file : std::filesystem::directory_iterator(folder / "out/.zest-loom"))
            writeFile(file.path(), "[1, {\"key\": 5}]");
    }
    SECTION("a record of another form") {
        for (const auto& file : std::filesystem::directory_iterator(folder / "out/.zest-loom"))
            writeFile(file.path(), "{\"key\": 5, \"inputs\": [], \"outputs\": 3}");
    }
    CHECK(built() == Outcome::Built);
    CHECK(built() == Outcome::Unchanged);
}

TEST_CASE("names in old code pages become UTF-8, are said, and end nothing") {
    TemporaryFolder folder;
    folder.write("old.obj", "mtllib old.mtl\no K\xf6rper\nusemtl r\xfc" "ckseite\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    folder.write("old.mtl", "newmtl r\xfc" "ckseite\nKd 1 0 0\nmap_Kd fl\xe4" "che.png\n");
    writeFile(folder / "fläche.png", png(2, 2)); // on the disk it is UTF-8
    const Model model = formats::readModel(folder / "old.obj");
    CHECK(model.nodes[0].name == "Körper");
    CHECK(model.materials[0].name == "rückseite");
    CHECK(model.images.size() == 1);
    CHECK(std::ranges::any_of(model.warnings, [](const auto& text) { return text.find("Latin-1") != text.npos; }));
    CHECK_NOTHROW(nlohmann::json(model.nodes[0].name).dump());
    auto project = projectOf(folder, {{"A", "old.obj"}});
    project::SourceCache sources;
    CHECK_NOTHROW(project::buildAll(project, platform::loadSheets(), sources, {folder / "out", 2, {}, {}}));
    CHECK(isUtf8(shortened(std::string(56, 'x') + "ééé", 57)));
}

TEST_CASE("faces without a material keep none, or a plain one, but never their neighbour's") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.materials = {{.name = "red", .baseColour = {1, 0, 0, 1}}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->parts = {{0, 4, 0}, {4, 8, -1}};
    model.meshes[0] = mesh;
    model.nodes.push_back({"bare", -1, glm::dmat4(1.0), 1});
    auto bare = std::make_shared<Mesh>(*mesh);
    bare->parts = {{0, 12, -1}};
    model.meshes.push_back(bare);
    TemporaryFolder folder;
    for (const char* format : {"obj", "lamplevel", "glb"}) {
        INFO(format);
        const std::string name = std::string("two.") + format;
        writeAllOrNone(folder.path(), formats::formatToWrite(name).write(model, {.name = "two"}, nullptr));
        const Model back = formats::readModel(folder / name);
        std::size_t red = 0;
        for (const Node& node : back.nodes)
            if (node.mesh >= 0)
                for (const MeshPart& part : back.meshes[node.mesh]->parts)
                    if (part.material >= 0 && back.materials[part.material].name == "red") red += part.triangleCount;
        CHECK(red == 4);
    }
}

TEST_CASE("joining keeps a picture's placement once, and all that the objects have") {
    Model model = richModel();
    model.skins.clear(), model.clips.clear();
    model.nodes.resize(1);
    model.nodes[0].skin = -1;
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->joints.clear(), mesh->weights.clear();
    mesh->uvSets.push_back(mesh->uvSets[0]);
    mesh->tangents.assign(mesh->vertexCount(), glm::vec4(1, 0, 0, 1));
    model.meshes[0] = mesh;
    model.materials[0].uvScale = {3, 3};
    model.nodes.push_back({"second", -1, glm::translate(glm::dmat4(1.0), {3.0, 0.0, 0.0}), 0});
    std::vector<std::string> notes;
    const Model joined = ran(model, "join-parts", nlohmann::json::object(), &notes);
    REQUIRE(objectCount(joined) == 1);
    const Mesh& one = *joined.meshes[0];
    CHECK(joined.materials[0].uvScale == glm::vec2(3));
    CHECK(one.uvSets.size() == 2);
    CHECK(one.colours.size() == one.vertexCount());
    CHECK(one.tangents.size() == one.vertexCount());
    REQUIRE(one.morphs.size() == 1);
    CHECK(one.morphs[0].normals.size() == one.vertexCount());
    // The same UVs as before: nothing was put into them.
    CHECK(std::ranges::count(one.uvSets[0], mesh->uvSets[0][5]) >= 2);
    // What only one of them has is filled in or said.
    auto without = std::make_shared<Mesh>(*mesh);
    without->tangents.clear(), without->normals.clear();
    model.meshes.push_back(without);
    model.nodes[1].mesh = 1;
    const Model partly = ran(model, "join-parts", nlohmann::json::object(), &notes);
    CHECK(partly.meshes[0]->tangents.empty());
    CHECK(partly.meshes[0]->normals.size() == partly.meshes[0]->vertexCount());
    CHECK(std::ranges::any_of(notes, [](const auto& note) { return note.find("tangents") != note.npos; }));
}

TEST_CASE("parts split from an animated object move and morph as it does") {
    Model model = shapes::modelOf(shapes::sphere(6, 4), "ball");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->parts = {{0, 10, 0}, {10, std::uint32_t(mesh->triangleCount()) - 10, 1}};
    mesh->morphs.push_back({"swell", mesh->positions, {}});
    model.meshes[0] = mesh;
    model.materials = {{.name = "a"}, {.name = "b"}};
    model.clips.push_back(std::make_shared<const Clip>(
        Clip{"roll",
             {{0, Channel::Target::Translation, Channel::Curve::Linear, {0, 1}, {0, 0, 0, 5, 0, 0}},
              {0, Channel::Target::Weights, Channel::Curve::Linear, {0, 1}, {0, 1}}}}));
    const Model split = ran(model, "split-parts", {{"by", "material"}});
    REQUIRE(objectCount(split) == 2);
    int weighed = 0;
    for (const Channel& channel : split.clips[0]->channels) weighed += channel.target == Channel::Target::Weights;
    CHECK(weighed == 2);
    // The second part moves with the first: it hangs below it.
    CHECK(split.nodes[1].parent == 0);
}

TEST_CASE("an object whose share of a reduction is less than one triangle is reduced all the same") {
    Model model = shapes::modelOf(geometry::weld(shapes::sphere(100, 60), 0).mesh, "large");
    const Model small = shapes::modelOf(shapes::sphere(6, 4, 0.1), "small");
    for (int i = 0; i < 3; ++i) {
        model.nodes.push_back({fmt::format("small {}", i), -1, glm::dmat4(1.0), int(model.meshes.size())});
        model.meshes.push_back(small.meshes[0]);
    }
    std::vector<std::string> notes;
    const Model reduced = ran(model, "reduce-triangles", {{"goal", "number"}, {"number", 100}}, &notes);
    CHECK(triangleCount(reduced) < 150); // a small closed shape is not folded into nothing to make it 100
    for (std::size_t i = 1; i < reduced.meshes.size(); ++i)
        CHECK(reduced.meshes[i]->triangleCount() < small.meshes[0]->triangleCount());
    // Fewer triangles than objects: it says what holds it, and not that seams do.
    ran(model, "reduce-triangles", {{"goal", "share"}, {"share", 0.0001}}, &notes);
    INFO(fmt::format("{}", fmt::join(notes, "; ")));
    CHECK(std::ranges::any_of(
        notes, [](const auto& note) { return note.find("each keeps a triangle at least") != note.npos; }));
}

TEST_CASE("steps and planner know a rule by its kind, whatever the sheet calls it") {
    platform::Sheet own = *sheet("hearthboard");
    for (auto& rule : own.rules)
        if (rule.check == "triangles") rule.id = "faces-of-the-figure", rule.limits["most"] = 500;
    Model ball = moved(shapes::modelOf(shapes::sphere(60, 31, 0.016), "ball"),
                       glm::translate(glm::dmat4(1.0), glm::dvec3(0, 0.016, 0)));
    const Model reduced = ran(ball, "reduce-triangles", {{"goal", "limit"}}, nullptr, &own);
    CHECK(triangleCount(reduced) <= 500);
    const auto plan = planner::plan(ball, own);
    CHECK(plan.holds);
    CHECK(std::ranges::any_of(plan.steps, [](const auto& step) {
        return step.entry.step == "reduce-triangles" && step.entry.params["goal"] == "limit";
    }));
}

TEST_CASE("a finding about faces without a material names them, and a plan for them comes") {
    Model model = shapes::box({-0.5, 0, -0.5}, {0.5, 1, 0.5});
    model.materials = {{.name = "red"}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->parts = {{0, 4, 0}, {4, 8, -1}};
    model.meshes[0] = mesh;
    const auto report = platform::check(model, *sheet("hearthboard"));
    const auto* rule = report.rule("materials");
    REQUIRE(rule);
    CHECK(rule->state == platform::State::Broken);
    CHECK(rule->finding.names == std::vector<std::string>{"no material", "red"});
    CHECK_NOTHROW(planner::plan(model, *sheet("hearthboard")));
}

TEST_CASE("neighbouring slivers are taken out, and no gap opens") {
    // Corners 0-4 on one line, a fan of slivers between them, the large triangle across, and one below.
    std::vector<glm::vec3> line;
    for (int i = 0; i <= 4; ++i) line.emplace_back(float(i), 0, 0);
    line.emplace_back(2, 3, 0), line.emplace_back(2, -3, 0);
    const Mesh mesh = triangles(line, {0, 1, 2, 0, 2, 3, 0, 3, 4, 0, 4, 5, 1, 0, 6, 2, 1, 6, 3, 2, 6, 4, 3, 6});
    const double area = areaOf(mesh);
    const auto cleaned = geometry::clean(mesh, 0);
    CHECK(sliversIn(cleaned.mesh) == 0);
    CHECK(cleaned.sliversRemoved >= 3);
    CHECK(areaOf(cleaned.mesh) == Approx(area));
    CHECK(geometry::topologyOf(cleaned.mesh).openEdges == 4); // the outline, and no T-junction along the line
    CHECK(geometry::clean(cleaned.mesh, 0).mesh.indices == cleaned.mesh.indices);
}

TEST_CASE("a sliver on a seam is taken out on the neighbour's side, with the neighbour's UVs and material") {
    // The sliver 0-1-2 lies on the edge 0-1; the triangle across is on corners of its own, in another material.
    Mesh mesh = triangles({{0, 0, 0}, {2, 0, 0}, {1, 0, 0}, {0, 0, 0}, {2, 0, 0}, {1, -2, 0}}, {0, 1, 2, 4, 3, 5});
    mesh.uvSets = {{{0, 0}, {1, 0}, {0.5f, 0}, {5, 5}, {7, 5}, {6, 9}}};
    mesh.parts = {{0, 1, 0}, {1, 1, 1}};
    const auto turned = geometry::turnSlivers(mesh, geometry::joinedPlaces(mesh.positions, 0), 0);
    CHECK(turned.taken == 1);
    REQUIRE(turned.mesh.triangleCount() == 2);
    CHECK(areaOf(turned.mesh) == Approx(areaOf(mesh)));
    CHECK(triangleMaterials(turned.mesh) == std::vector{1, 1});
    for (std::size_t v = 0; v < turned.mesh.vertexCount(); ++v) {
        CHECK(turned.mesh.uvSets[0][v].x >= 5); // none of the sliver's own
        if (turned.mesh.positions[v] == glm::vec3(1, 0, 0)) CHECK(turned.mesh.uvSets[0][v] == glm::vec2(6, 5));
    }
}

TEST_CASE("results are told apart by all that they rest on") {
    TemporaryFolder folder;
    project::Project project = projectOf(folder, {{"A", "a.obj"}});
    project.yardsticks = {{"gate", "gate.obj", "", ""}};
    auto& crossing = project.pieces[0].crossings[0];
    crossing.recipe = recipe::fromJson({{{"step", "match-yardstick"}}});
    platform::Sheet own = *sheet("playmeadow");
    const auto keys = [&] {
        Stamps stamps;
        const auto all = dependenciesOf(project, project.pieces[0], own);
        return std::pair(all.shapeKey(stamps), all.deliveryKey(stamps));
    };
    const auto before = keys();
    CHECK(keys() == before);
    SECTION("finish") {
        crossing.finish = "gloss";
        CHECK(keys().first == before.first);
        CHECK(keys().second != before.second);
    }
    SECTION("format") {
        crossing.format = "obj";
        CHECK(keys().second != before.second);
    }
    SECTION("a yardstick's name") {
        project.yardsticks[0].name = "door";
        CHECK(keys().first != before.first);
    }
    SECTION("the sheet's front") {
        own.front = "-X";
        CHECK(keys().first != before.first);
    }
    SECTION("a yardstick that nothing measures by") {
        crossing.recipe.clear();
        const auto without = keys();
        project.yardsticks[0].name = "door";
        CHECK(keys() == without);
    }
}

TEST_CASE("a step that does not read the sheet shares its result between platforms, one that does does not") {
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(8, 6)));
    recipe::EvaluationCache cache;
    const recipe::Recipe weld{{"weld-and-clean", true, nlohmann::json::object()}},
        floor{{"stand-on-floor", true, nlohmann::json::object()}};
    recipe::evaluate(model, 7, weld, sheet("hearthboard").get(), &cache);
    CHECK(recipe::evaluate(model, 7, weld, sheet("lampwright").get(), &cache).outcomes[0].fromCache);
    recipe::evaluate(model, 7, floor, sheet("hearthboard").get(), &cache);
    CHECK_FALSE(recipe::evaluate(model, 7, floor, sheet("lampwright").get(), &cache).outcomes[0].fromCache);
}

TEST_CASE("reduction keeps bone weights apart, welding morph normals") {
    Mesh plate = triangles({}, {});
    for (int j = 0; j <= 10; ++j)
        for (int i = 0; i <= 10; ++i) plate.positions.emplace_back(float(i), float(j), 0);
    for (std::uint32_t j = 0; j < 10; ++j)
        for (std::uint32_t i = 0; i < 10; ++i) {
            const std::uint32_t a = j * 11 + i;
            plate.indices.insert(plate.indices.end(), {a, a + 1, a + 12, a, a + 12, a + 11});
        }
    plate = shapes::exploded(plate);
    plate.joints.resize(plate.vertexCount(), glm::u16vec4(0));
    plate.weights.resize(plate.vertexCount(), glm::vec4(1, 0, 0, 0));
    for (std::size_t t = 0; t < plate.triangleCount(); ++t) {
        float middle = 0;
        for (int k = 0; k < 3; ++k) middle += plate.positions[plate.indices[3 * t + k]].x / 3;
        for (int k = 0; k < 3; ++k) plate.joints[plate.indices[3 * t + k]].x = middle < 5 ? 0 : 1;
    }
    const Mesh reduced = geometry::reduce(geometry::weld(plate, 0).mesh, {8, 0, false});
    for (std::size_t t = 0; t < reduced.triangleCount(); ++t) {
        const std::uint32_t* c = &reduced.indices[3 * t];
        CHECK(reduced.joints[c[0]].x == reduced.joints[c[1]].x); // each triangle hangs on one bone, as before
        CHECK(reduced.joints[c[0]].x == reduced.joints[c[2]].x);
    }
    Mesh two = triangles({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 0}, {1, 0, 0}, {0, -1, 0}}, {0, 1, 2, 4, 3, 5});
    two.morphs = {{"smile", std::vector<glm::vec3>(6, glm::vec3(0)), std::vector<glm::vec3>(6, glm::vec3(0))}};
    CHECK(geometry::weld(two, 0).mesh.vertexCount() == 4);
    two.morphs[0].normals[3] = glm::vec3(0, 0, 1);
    CHECK(geometry::weld(two, 0).mesh.vertexCount() == 5);
}

TEST_CASE("level text keeps UVs where there are no normals") {
    Model ball = shapes::modelOf(shapes::sphere(8, 6), "ball");
    REQUIRE(ball.meshes[0]->normals.empty());
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), formats::writeLevelText(ball, {.name = "ball"}, nullptr));
    const Model back = formats::readModel(folder / "ball.lamplevel");
    REQUIRE(back.meshes[0]->uvSets.size() == 1);
    CHECK(std::ranges::any_of(back.meshes[0]->uvSets[0], [](const glm::vec2& uv) { return uv.x > 0.5f; }));
}

TEST_CASE("a file that is cut short while it is read is an error or a whole file, never the end") {
    TemporaryFolder folder;
    std::string whole;
    for (int i = 0; i < 200000; ++i) whole += "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -3 -2 -1\n";
    const auto path = folder / "busy.obj";
    writeFile(path, whole);
    std::atomic<bool> done{false};
    std::thread writer([&] {
        while (!done) {
            std::filesystem::resize_file(path, 100);
            std::ofstream(path, std::ios::binary) << whole;
        }
    });
    int read = 0, refused = 0;
    for (int i = 0; i < 12; ++i) {
        try {
            const Model model = formats::readModel(path);
            CHECK(brokenPromise(model) == "");
            ++read;
        } catch (const Error& error) {
            CHECK(error.whole().find("busy.obj") != std::string::npos);
            ++refused;
        }
    }
    done = true;
    writer.join();
    INFO(read << " read, " << refused << " refused");
    CHECK(read > 0); // a file that is whole for a moment is read; the test fails by not getting here
}

TEST_CASE("numbers that are none, targets of no entries and strides beyond the file are answered") {
    TemporaryFolder folder;
    folder.write("nan.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt nan inf\nvt 0 1\nf 1/1 2/2 3/2\n");
    const Model model = formats::readModel(folder / "nan.obj");
    CHECK(brokenPromise(model) == "");
    CHECK_FALSE(model.warnings.empty());
    CHECK_NOTHROW(standins::world::readObjFile(folder.write("bare.obj", "mtllib\nusemtl\nv 0 0 0\n")));
    CHECK_NOTHROW(formats::readModel(folder.write("far.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -2147483648 -2147483647 1\nf 1 2 3\n")));
    // A GLB whose accessor's stride overflows the check of the site's reader.
    std::string glb = formats::writeGlb(shapes::box({0, 0, 0}, {1, 1, 1}), {"box"}, nullptr)[0].bytes;
    const std::string plain = "\"byteLength\":", with = "\"byteStride\":18446744073709551000,\"byteLength\":";
    const std::size_t views = glb.find("bufferViews");
    const std::size_t at = glb.find(plain, views);
    REQUIRE(at != std::string::npos);
    glb.replace(at, plain.size(), with);
    const auto put = [&](std::size_t where, std::size_t value) {
        const auto word = std::uint32_t(value);
        std::memcpy(&glb[where], &word, 4);
    };
    std::uint32_t json = 0;
    std::memcpy(&json, &glb[12], 4);
    put(8, glb.size()), put(12, json + with.size() - plain.size());
    CHECK_FALSE(standins::site::readGlbFile(glb).problem.empty());
}

TEST_CASE("a small glTF cannot ask for gigabytes") {
    TemporaryFolder folder;
    const std::string greedy =
        R"({"asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0}],
"meshes": [{"primitives": [{"attributes": {"POSITION": 0, "COLOR_0": 1}}]}],
"accessors": [{"componentType": 5126, "count": 60000000, "type": "VEC3"}, {"componentType": 5126, "count": 60000000, "type": "VEC4"}]})";
    try {
        formats::readModel(folder.write("greedy.gltf", greedy));
        FAIL("was read");
    } catch (const Error& error) {
        CHECK(error.whole().find("more memory") != std::string::npos);
    }
}

TEST_CASE("many parts, shared corners, crowded corners, repeated libraries and like names take no square of time") {
    // Twice the work may take three times as long and a little, not four times.
    const auto linear = [](const char* what, const auto& work) {
        INFO(what);
        work(1000);
        const double once = secondsOf([&] { work(8000); }), twice = secondsOf([&] { work(32000); });
        CAPTURE(once, twice);
        CHECK(twice < 9 * once + 0.05);
    };
    TemporaryFolder folder;
    linear("loose parts", [&](int n) {
        Mesh mesh;
        for (int i = 0; i < n; ++i)
            for (const glm::vec3& by : {glm::vec3(0), glm::vec3(0.1f, 0, 0), glm::vec3(0, 0.1f, 0)}) {
                mesh.indices.push_back(std::uint32_t(mesh.positions.size()));
                mesh.positions.push_back(glm::vec3(float(i), 0, 0) + by);
            }
        CHECK(objectCount(geometry::splitObjects(shapes::modelOf(mesh), geometry::SplitBy::LoosePart,
                                                 [](const Node&) { return true; })) == std::size_t(n));
    });
    linear("groups that share a pool of corners", [&](int n) {
        std::string obj;
        for (int i = 0; i < n; ++i) obj += fmt::format("v {} 0 {}\n", i, i % 7);
        for (int i = 0; i < n; ++i) obj += fmt::format("g g{}\nf {} {} {}\n", i, 1 + i, n - i, 1 + (i + n / 2) % n);
        formats::readModel(folder.write("pool.obj", obj));
    });
    linear("one corner of many normals", [&](int n) {
        std::string obj = "v 0 0 0\nv 1 0 0\nv 0 1 0\n";
        for (int i = 0; i < n; ++i) obj += fmt::format("vn 0 {} 1\n", i);
        for (int i = 0; i < n; ++i) obj += fmt::format("f 1//{} 2//{} 3//{}\n", i + 1, i + 1, i + 1);
        formats::readModel(folder.write("cone.obj", obj));
    });
    linear("a library named again and again", [&](int n) {
        std::string mtl, obj;
        for (int i = 0; i < 300; ++i) mtl += fmt::format("newmtl m{}\nKd 1 0 0\n", i);
        folder.write("many.mtl", mtl);
        for (int i = 0; i < n; ++i) obj += "mtllib many.mtl\n";
        formats::readModel(folder.write("many.obj", obj + "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"));
    });
    linear("names that are all alike", [&](int n) {
        Model model = shapes::box({0, 0, 0}, {1, 1, 1});
        model.nodes.assign(std::size_t(n), model.nodes[0]);
        ran(model, "rename-parts", {{"find", "*"}, {"become", "same"}, {"legal", true}});
    });
}

TEST_CASE("what is long can be stopped") {
    const std::atomic<bool> stop{true};
    const Progress progress(nullptr, &stop);
    steps::StepContext context{progress, nullptr};
    const Model model = shapes::modelOf(shapes::exploded(shapes::sphere(30, 20)));
    for (const char* id : {"weld-and-clean", "reduce-triangles", "split-parts"}) {
        INFO(id);
        const nlohmann::json params = std::string_view(id) == "split-parts" ? nlohmann::json{{"by", "loose"}}
                                      : std::string_view(id) == "reduce-triangles"
                                          ? nlohmann::json{{"goal", "number"}, {"number", 50}}
                                          : nlohmann::json::object();
        CHECK_THROWS_AS(steps::makeStep(id, params)->apply(model, context), Cancelled);
    }
}

TEST_CASE("a language with a decimal comma changes no file that is written and none that is read", "[locale]") {
    const bool wanted = std::getenv("ZEST_LOOM_COMMA") != nullptr;
    const char* set = std::setlocale(LC_ALL, wanted ? "" : "C");
    REQUIRE(set);
    char probe[16];
    std::snprintf(probe, sizeof probe, "%.1f", 0.5);
    REQUIRE(std::string(probe) == (wanted ? "0,5" : "0.5")); // the language is really in force
    Model model = richModel();
    model.nodes[0].local = glm::translate(glm::dmat4(1.0), {0.125, 0.25, -0.375});
    TemporaryFolder folder;
    for (const auto& format : formats::allFormats()) {
        if (!format.write) continue;
        INFO(format.id);
        formats::WriteOptions options{"x", 0.1};
        options = formats::inFrameOf(format, options);
        const auto files = format.write(model, options, nullptr);
        std::setlocale(LC_ALL, "C");
        const auto plain = format.write(model, options, nullptr);
        writeAllOrNone(folder.path(), plain);
        const Model there = formats::readModel(folder / plain[0].name);
        std::setlocale(LC_ALL, wanted ? "" : "C");
        const bool isArchive = format.id == "3mf";
        if (!isArchive) CHECK(files[0].bytes == plain[0].bytes);
        const Model here = formats::readModel(folder / plain[0].name);
        CHECK(here.frame.unit.metres == Approx(there.frame.unit.metres));
        CHECK(glm::length(geometry::worldBounds(here).size() - geometry::worldBounds(there).size()) < 1e-6);
        writeAllOrNone(folder.path(), files);
        CHECK(glm::length(geometry::worldBounds(formats::readModel(folder / files[0].name)).size() -
                          geometry::worldBounds(there).size()) < 1e-6);
    }
    const auto cart = standins::yard::readColladaFile(
        formats::writeCollada(model, {.name = "x", .metresPerUnit = 0.1}, nullptr)[0].bytes);
    CHECK(cart.problem == "");
    CHECK(cart.unitMetres == Approx(0.1));
    const auto level =
        standins::level::readLevelFile(formats::writeLevelText(model, {"x", 1, Up::Z, "+X"}, nullptr)[0].bytes);
    CHECK(level.problem == "");
    std::setlocale(LC_ALL, "C");
}
