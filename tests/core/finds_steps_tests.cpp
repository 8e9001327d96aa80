// What meshes of other people's making broke in steps, each as small as it can be.
#include "core/formats/format.h"
#include "core/geometry/clean.h"
#include "core/geometry/reduce.h"
#include "core/geometry/topology.h"
#include "core/geometry/turn_slivers.h"
#include "core/geometry/weld.h"
#include "core/model/promises.h"
#include "core/planner/planner.h"
#include "core/platform/check.h"
#include "core/steps/step.h"
#include "support/finds.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

using namespace zl;

namespace {

Mesh triangles(std::vector<glm::vec3> positions, std::vector<std::uint32_t> indices) {
    Mesh mesh;
    mesh.positions = std::move(positions);
    mesh.indices = std::move(indices);
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    return mesh;
}

double areaOf(const Mesh& mesh) {
    double area = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const glm::dvec3 a = mesh.positions[mesh.indices[3 * t]];
        area += glm::length(glm::cross(glm::dvec3(mesh.positions[mesh.indices[3 * t + 1]]) - a,
                                       glm::dvec3(mesh.positions[mesh.indices[3 * t + 2]]) - a)) /
                2;
    }
    return area;
}

std::size_t sliversIn(const Mesh& mesh) {
    std::size_t count = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) count += geometry::isSliver(mesh, t);
    return count;
}

} // namespace

TEST_CASE("faces without a material keep none, or a plain one, but never their neighbour's") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.materials = {{.name = "red", .baseColour = {1, 0, 0, 1}}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, 4, 0}, {4, 8, -1}};
    model.meshes[0] = mesh;
    model.nodes.push_back({"bare", -1, glm::dmat4(1.0), 1});
    auto bare = std::make_shared<Mesh>(*mesh);
    bare->runs = {{0, 12, -1}};
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
                for (const MaterialRun& run : back.meshes[node.mesh]->runs)
                    if (run.material >= 0 && back.materials[run.material].name == "red")
                        red += run.triangleCount;
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
    model.materials[0].picture(PictureRole::Colour).placement.scale = {3, 3};
    model.nodes.push_back({"second", -1, glm::translate(glm::dmat4(1.0), {3.0, 0.0, 0.0}), 0});
    std::vector<std::string> notes;
    const Model joined = ran(model, "join-parts", nlohmann::json::object(), &notes);
    REQUIRE(objectCount(joined) == 1);
    const Mesh& one = *joined.meshes[0];
    CHECK(joined.materials[0].picture(PictureRole::Colour).placement.scale == glm::vec2(3));
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
    mesh->runs = {{0, 10, 0}, {10, std::uint32_t(mesh->triangleCount()) - 10, 1}};
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
    for (const Channel& channel : split.clips[0]->channels)
        weighed += channel.target == Channel::Target::Weights;
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

TEST_CASE("what one object cannot give up, the others do") {
    Model model = shapes::modelOf(geometry::weld(shapes::sphere(100, 60), 0).mesh, "large");
    // A fan of triangles, all of its corners but one on the border.
    Mesh fan;
    for (int i = 0; i < 8; ++i) fan.positions.push_back({3 + std::cos(i * 0.8f), std::sin(i * 0.8f), 0});
    for (std::uint32_t i = 1; i + 1 < 8; ++i) fan.indices.insert(fan.indices.end(), {0, i, i + 1});
    fan.runs = {{0, static_cast<std::uint32_t>(fan.triangleCount()), -1}};
    model.nodes.push_back({"fan", -1, glm::dmat4(1.0), 1});
    model.meshes.push_back(std::make_shared<const Mesh>(fan));
    const Model reduced = ran(model, "reduce-triangles", {{"goal", "number"}, {"number", 300}});
    CHECK(reduced.meshes[1]->triangleCount() == 6); // borders are held
    CHECK(triangleCount(reduced) <= 300);
    CHECK(triangleCount(reduced) >= 290);
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
    mesh->runs = {{0, 4, 0}, {4, 8, -1}};
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
    const Mesh mesh =
        triangles(line, {0, 1, 2, 0, 2, 3, 0, 3, 4, 0, 4, 5, 1, 0, 6, 2, 1, 6, 3, 2, 6, 4, 3, 6});
    const double area = areaOf(mesh);
    const auto cleaned = geometry::clean(mesh, 0);
    CHECK(sliversIn(cleaned.mesh) == 0);
    CHECK(cleaned.sliversRemoved >= 3);
    CHECK(areaOf(cleaned.mesh) == Approx(area));
    CHECK(geometry::topologyOf(cleaned.mesh).openEdges == 4); // the outline, and no T-junction along the line
    CHECK(geometry::clean(cleaned.mesh, 0).mesh.indices == cleaned.mesh.indices);
}

TEST_CASE("a sliver on a seam is taken out on the neighbour's side, with the neighbour's UVs and material") {
    // The sliver 0-1-2 lies on the edge 0-1; the triangle across is on corners of its own, in another
    // material.
    Mesh mesh =
        triangles({{0, 0, 0}, {2, 0, 0}, {1, 0, 0}, {0, 0, 0}, {2, 0, 0}, {1, -2, 0}}, {0, 1, 2, 4, 3, 5});
    mesh.uvSets = {{{0, 0}, {1, 0}, {0.5f, 0}, {5, 5}, {7, 5}, {6, 9}}};
    mesh.runs = {{0, 1, 0}, {1, 1, 1}};
    const auto turned = geometry::turnSlivers(mesh, geometry::joinedPlaces(mesh.positions, 0), 0);
    CHECK(turned.taken == 1);
    REQUIRE(turned.mesh.triangleCount() == 2);
    CHECK(areaOf(turned.mesh) == Approx(areaOf(mesh)));
    CHECK(triangleMaterials(turned.mesh) == std::vector{1, 1});
    for (std::size_t v = 0; v < turned.mesh.vertexCount(); ++v) {
        CHECK(turned.mesh.uvSets[0][v].x >= 5); // none of the sliver's own
        if (turned.mesh.positions[v] == glm::vec3(1, 0, 0))
            CHECK(turned.mesh.uvSets[0][v] == glm::vec2(6, 5));
    }
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
    Mesh two =
        triangles({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 0}, {1, 0, 0}, {0, -1, 0}}, {0, 1, 2, 4, 3, 5});
    two.morphs = {
        {"smile", std::vector<glm::vec3>(6, glm::vec3(0)), std::vector<glm::vec3>(6, glm::vec3(0))}};
    CHECK(geometry::weld(two, 0).mesh.vertexCount() == 4);
    two.morphs[0].normals[3] = glm::vec3(0, 0, 1);
    CHECK(geometry::weld(two, 0).mesh.vertexCount() == 5);
}
