// Numbers and words that are said to people: notes of steps, estimates, what a stand-in shows as measured.
// Each was worked out by hand.
#include "core/deliver/deliver.h"
#include "core/formats/format.h"
#include "core/platform/check.h"
#include "core/steps/step.h"
#include "standins/level/level_file.h"
#include "standins/yard/yard_arena.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;
using Notes = std::vector<std::string>;

namespace {

Notes notesOf(const Model& model, const char* step, const nlohmann::json& params = nlohmann::json::object(),
              const platform::Sheet* sheet = nullptr) {
    const Progress progress;
    steps::StepContext context{progress, sheet};
    steps::makeStep(step, params)->apply(model, context);
    return context.notes;
}

/// Three boxes in a row, 1 m apart, under a node that shows nothing: "a", "b", "a".
Model row() {
    Model model;
    model.frame.unitAssumed = model.frame.upAssumed = false;
    model.nodes.push_back({"wrapper", -1, glm::dmat4(1.0)});
    model.meshes.push_back(shapes::box({0, 0, 0}, {0.5, 2, 0.25}).meshes[0]);
    for (int i = 0; i < 3; ++i) {
        glm::dmat4 local(1.0);
        local[3].x = i;
        model.nodes.push_back({i == 1 ? "b" : "a", 0, local, 0});
    }
    return model;
}

std::size_t bytesOf(const std::vector<OutFile>& files) {
    std::size_t bytes = 0;
    for (const OutFile& file : files) bytes += file.bytes.size();
    return bytes;
}

} // namespace

TEST_CASE("notes say by how much a model was turned, scaled and moved") {
    const Model box = shapes::box({1, 3, 0}, {2, 5, 4}); // 1 wide, 2 high, 4 long, 3 above the floor
    CHECK(notesOf(box, "size", {{"by", "height"}, {"measure", 0.5}}) == Notes{"scaled by 0.25"});
    CHECK(notesOf(box, "size", {{"by", "length"}, {"measure", 6}}) == Notes{"scaled by 1.5"});
    CHECK(notesOf(box, "turn", {{"x", 90}, {"y", -45}, {"z", 12.5}}) == Notes{"turned by 90°, -45°, 12.5°"});
    CHECK(notesOf(box, "stand-on-floor") == Notes{"moved down by 3 m"});
    CHECK(notesOf(shapes::box({0, -1.5, 0}, {1, 1, 1}), "stand-on-floor") == Notes{"moved up by 1.5 m"});
    CHECK(notesOf(shapes::box({0, 0, 0}, {1, 1, 1}), "stand-on-floor") == Notes{"stood there already"});
    // The centre is at 1.5, 4, 2: √(2.25 + 16 + 4) away.
    CHECK(notesOf(box, "origin", {{"at", "centre"}}) == Notes{"moved by 4.717 m"});
    const Notes foot = notesOf(box, "origin", {{"at", "foot"}});
    REQUIRE(foot.size() == 2);
    CHECK(foot[0] == "the foot is 1 m by 4 m");
}

TEST_CASE("notes say how large a collider is") {
    const Model box = shapes::box({-1, 0, -2}, {1, 3, 2});
    CHECK(notesOf(box, "collider-box", {{"around", "everything"}, {"inset", 0.25}}) ==
          Notes{"box of 1.5 m × 3 m × 3 m", "may lean 27° before it falls"}); // atan(0.75 / 1.5)
    CHECK(notesOf(box, "collider-cylinder", {{"around", "numbers"}, {"radius", 0.75}, {"height", 2}}) ==
          Notes{"cylinder of 0.75 m radius, 2 m high", "may lean 37° before it falls"});
    // Around the corners of a foot of 2 by 4: √5.
    CHECK(notesOf(box, "collider-cylinder", {{"around", "foot"}, {"inset", 0}}) ==
          Notes{"cylinder of 2.236 m radius, 3 m high", "may lean 56° before it falls"});
    // Low: a quarter as high as it is wide, at most as high as the model.
    CHECK(notesOf(box, "collider-box", {{"around", "everything"}, {"inset", 0}, {"low", true}}) ==
          Notes{"box of 2 m × 0.5 m × 4 m", "may lean 76° before it falls"}); // atan(1 / 0.25)
    CHECK(notesOf(box, "collider-cylinder", {{"around", "foot"}, {"inset", 0}, {"low", true}})[0] ==
          "cylinder of 2.236 m radius, 1.118 m high");
    CHECK(notesOf(shapes::box({-1, 0, -2}, {1, 0.25, 2}), "collider-box", {{"inset", 0}, {"low", true}})[0] ==
          "box of 2 m × 0.25 m × 4 m");
}

TEST_CASE("notes say how many objects, nodes and names there are of each") {
    const Model model = row();
    CHECK(notesOf(model, "join-parts")[0] == "3 objects → 1 object");
    CHECK(notesOf(model, "remove-wrappers") == Notes{"took out 1 node"});
    CHECK(notesOf(model, "bake-placement")[0] ==
          "baked 2 nodes"); // the third one and the wrapper carry nothing
    CHECK(notesOf(model, "rename-parts", {{"what", "objects"}, {"find", "a"}, {"become", "crate"}})[0] ==
          "gave 2 new names");
}

TEST_CASE("notes say how many triangles went and how far the surface moved") {
    const Model ball = shapes::modelOf(shapes::sphere(48, 24, 0.5), "ball");
    const std::size_t before = triangleCount(ball);
    const Progress progress;
    steps::StepContext context{progress};
    const Model out =
        steps::makeStep("reduce-triangles", {{"goal", "number"}, {"number", 300}})->apply(ball, context);
    REQUIRE(context.notes.size() == 2);
    REQUIRE(before == 2208);
    CHECK(context.notes[0] == "2208 → " + std::to_string(triangleCount(out)) + " triangles");
    // A ball of 1 m of so many even faces cannot come nearer than the sagitta of their edges allows, nor be
    // worse than a few times that: edge² = 4π r² · 4 / (√3 · n), sagitta = edge² / 6r.
    const double n = double(triangleCount(out)), r = 0.5;
    const double sagitta = 4 * shapes::pi * r * r * 4 / (std::sqrt(3.0) * n) / (6 * r);
    const double said = std::stod(context.notes[1].substr(std::string("deviates by at most ").size())) / 100;
    CHECK(said > 0.3 * sagitta);
    CHECK(said < 6 * sagitta);
}

TEST_CASE("the estimate of a delivery's size is near what is written") {
    const auto table = sheet("hearthboard");
    const auto* rule = table->rule("file-size");
    REQUIRE(rule);
    for (const bool normals : {true, false}) {
        Mesh mesh = shapes::sphere(120, 60, 0.016);
        if (normals)
            for (const glm::vec3& p : mesh.positions) mesh.normals.push_back(glm::normalize(p));
        for (glm::vec3& p : mesh.positions) p.y += 0.016f;
        const Model ball = shapes::modelOf(mesh, "ball");
        const auto files = deliver::deliverableFor(*table)->make(ball, *table, {"ball"}, {});
        const double written = double(bytesOf(files)) / 1e6;
        const auto report = platform::check(ball, *table);
        const double estimated = report.rule("file-size")->finding.value;
        INFO("normals " << normals << ", estimated " << estimated << " MB, written " << written << " MB");
        CHECK(estimated == Approx(written).epsilon(0.3));
    }
}

TEST_CASE("a level's comments are passed over by the program and by the stand-in, lines stay counted") {
    const std::string level =
        "lampwright-level 1\n# made by hand\nunit 1\naxes Z +X\n   # indented\nobject \"crate\"\n"
        "corner 0 0 0\ncorner 1 0 0\n#corner 9 9 9\ncorner 0 1 0\nface 0 1 2\n# last words\nend\n";
    TemporaryFolder folder;
    const Model model = formats::readModel(folder.write("crate.lamplevel", level));
    CHECK(triangleCount(model) == 1);
    CHECK(vertexCount(model) == 3);
    const auto file = standins::level::readLevelFile(level);
    CHECK(file.problem == "");
    REQUIRE(file.objects.size() == 1);
    CHECK(file.objects[0].shape.positions.size() == 3);

    std::string wrong = level;
    wrong.replace(wrong.find("face 0 1 2"), 10, "fase 0 1 2");
    try {
        formats::readModel(folder.write("wrong.lamplevel", wrong));
        FAIL("a statement that is none was read");
    } catch (const Error& error) {
        CHECK(error.sentence().find("wrong.lamplevel:11") != std::string::npos);
    }
    CHECK(standins::level::readLevelFile(wrong).problem.starts_with("line 11:"));
}

TEST_CASE("the yard shows a truck as wide, high and long as it is, in its unit and in metres") {
    Model truck = shapes::box({-1.1, 0, -2}, {1.1, 1.5, 3});
    truck.headingKnown = true;
    const auto own = sheet("mudhaul");
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), deliver::deliverableFor(*own)->make(truck, *own, {"truck"}, {}));
    standins::TryReport report;
    const auto arena = standins::yard::open(folder.path(), report);
    REQUIRE(arena);
    const auto tables = arena->tables();
    REQUIRE(tables.size() == 1);
    const auto valuesOf = [&](const std::string& name) {
        for (const auto& line : tables[0].rows)
            if (line.name == name) return line.values;
        return Notes{};
    };
    CHECK(valuesOf("width") == Notes{"22\u202fdm", "2.2\u202fm"});
    CHECK(valuesOf("height") == Notes{"15\u202fdm", "1.5\u202fm"});
    CHECK(valuesOf("length, front to back") == Notes{"50\u202fdm", "5\u202fm"});
    CHECK(valuesOf("left at the gate") == Notes{"3\u202fdm", "0.3\u202fm"});

    const auto marks = arena->marks();
    REQUIRE(marks.size() == 3);
    CHECK(marks[0].from.z == Approx(30)); // the arrow starts at the front and points on
    CHECK(marks[0].to.z == Approx(41));
    CHECK(marks[1].to.x - marks[1].from.x == Approx(25));
    CHECK(marks[2].to.x - marks[2].from.x == Approx(22));
    CHECK(marks[2].text == "22\u202fdm wide");
    CHECK(marks[2].from.y == Approx(16));
}
