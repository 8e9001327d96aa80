// Levels of detail: coarser copies that only those see who ask, named and written as a platform wants.
#include "core/deliver/deliver.h"
#include "core/geometry/levels.h"
#include "core/geometry/world.h"
#include "core/model/model_bytes.h"
#include "core/model/promises.h"
#include "core/planner/planner.h"
#include "support/ran_step.h"
#include "support/rich_model.h"
#include "support/rule_sheet.h"
#include "support/sheets.h"

using namespace zl;

namespace {

Model ballOnPost() {
    Model model = shapes::modelOf(shapes::sphere(80, 60), "ball"); // 9440 triangles
    model.nodes[0].local[3].y = 3;
    model.nodes.push_back({"post", -1, glm::dmat4(1.0), 1});
    model.meshes.push_back(std::make_shared<const Mesh>(geometry::boxMesh({-0.2, 0, -0.2}, {0.2, 2, 0.2})));
    return model;
}

const nlohmann::json twoLevels{
    {"levels", {{{"by", "share"}, {"share", 0.3}}, {{"by", "deviation"}, {"deviation", 0.1}}}}};

} // namespace

TEST_CASE("coarser copies stand beside what they stand for, and nobody sees them who does not ask") {
    const Model model = ballOnPost();
    const auto ran = ranStep(model, "levels-of-detail", twoLevels);
    CHECK(brokenPromise(ran.model) == "");
    CHECK(geometry::levelCount(ran.model) == 3);
    CHECK(triangleCount(ran.model) == triangleCount(model));
    CHECK(objectCount(ran.model) == 2);
    CHECK(geometry::worldBounds(ran.model).max == geometry::worldBounds(model).max);
    std::size_t before = triangleCount(model);
    for (int level = 1; level < 3; ++level) {
        const Model coarse = geometry::atLevel(ran.model, level);
        CHECK(brokenPromise(coarse) == "");
        CHECK(triangleCount(coarse) < before);
        CHECK(triangleCount(coarse) == ran.facts["levels"][level - 1]["triangles"].get<std::size_t>());
        before = triangleCount(coarse);
        CHECK(glm::distance(geometry::worldBounds(coarse).centre(), geometry::worldBounds(model).centre()) <
              0.1);
        std::vector<std::string> names;
        for (const int node : shownNodes(coarse)) names.push_back(coarse.nodes[std::size_t(node)].name);
        CHECK(names ==
              std::vector<std::string>{fmt::format("ball_lod{}", level), fmt::format("post_lod{}", level)});
    }
    CHECK(triangleCount(geometry::atLevel(ran.model, 1)) == Approx(0.3 * 9452).epsilon(0.04));
    CHECK(ran.facts["levels"][1]["deviation"].get<double>() <= 0.12);
    CHECK(ran.facts["levels"][1]["deviation"].get<double>() > 0.02);
    const Model whole = geometry::withoutLevels(ran.model);
    CHECK(whole.nodes.size() == 2);
    CHECK(geometry::atLevel(ran.model, 0).nodes.size() == 2);
    // Steps that move the whole take the copies along.
    const Model moved = ranStep(ran.model, "turn", {{"y", 90.0}}).model;
    const Model baked = ranStep(moved, "bake-placement", nlohmann::json::object()).model;
    CHECK(geometry::levelCount(baked) == 3);
    CHECK(glm::distance(geometry::worldBounds(geometry::atLevel(baked, 1)).centre(),
                        geometry::worldBounds(baked).centre()) < 0.1);
    CHECK(ranStep(ran.model, "levels-of-detail", twoLevels).model.nodes.size() ==
          ran.model.nodes.size()); // anew, not more
    CHECK(ranStep(model, "levels-of-detail", nlohmann::json::object()).notes[0] ==
          "there are no levels yet: add one");
}

TEST_CASE("skins, morphs and materials stay with coarser copies, and a level that is none is said") {
    Model model = richModel();
    const auto ran =
        ranStep(model, "levels-of-detail",
                {{"levels", {{{"by", "share"}, {"share", 1.0}}, {{"by", "share"}, {"share", 0.5}}}},
                 {"named", "{name} far {n}"}});
    CHECK(brokenPromise(ran.model) == "");
    CHECK(ran.model.nodes.back().name == "bell far 1");
    CHECK(ran.model.nodes.back().skin == 0);
    CHECK(ran.model.meshes.back()->morphs.size() == 1);
    CHECK(ran.shortfall.find("is no coarser than the one before, and is left out") != std::string::npos);
    const Model back = modelFromBytes(toBytes(ran.model));
    CHECK(geometry::levelCount(back) == 2);
}

TEST_CASE("open edges hold coarser copies until they are let go, and that is said") {
    // Strips that only touch: every edge is open.
    Mesh strips;
    for (int s = 0; s < 60; ++s)
        for (int k = 0; k < 8; ++k) {
            const auto at = std::uint32_t(strips.positions.size());
            const float x = float(s), z = 0.3f * float(k), bend = 0.02f * float(k * k);
            strips.positions.insert(strips.positions.end(), {{x, bend, z}, {x + 0.9f, bend, z}});
            if (k > 0) strips.indices.insert(strips.indices.end(), {at - 2, at, at - 1, at - 1, at, at + 1});
        }
    strips.runs = {{0, std::uint32_t(strips.triangleCount()), -1}};
    const Model model = shapes::modelOf(strips, "strips");
    const nlohmann::json level{{"by", "share"}, {"share", 0.2}};
    const auto held = ranStep(model, "levels-of-detail", {{"levels", {level}}});
    CHECK(held.shortfall.find("hold") != std::string::npos);
    const auto free = ranStep(model, "levels-of-detail", {{"levels", {level}}, {"hold-borders", false}});
    CHECK(free.shortfall.empty());
    CHECK(geometry::levelCount(free.model) == 2);
    CHECK(triangleCount(geometry::atLevel(free.model, 1)) <= 0.2 * 840);
    // A plan lets them go where that is what the platform's levels need.
    const auto sheet =
        sheetWith("id = \"levels\"\nleast = 2\nmost = \"900, 168\"\nmend = [\"levels-of-detail\"]");
    const auto plan = planner::plan(model, sheet);
    REQUIRE(plan.holds);
    CHECK(plan.recipe().back().params["hold-borders"] == false);
}

TEST_CASE("a rule counts levels and the triangles of each") {
    const Model model = ballOnPost();
    CHECK(ruleResult(model, "id = \"levels\"\nleast = 3").state == platform::State::Broken);
    const Model three = ranStep(model, "levels-of-detail", twoLevels).model;
    CHECK(ruleResult(three, "id = \"levels\"\nleast = 3").state == platform::State::Fits);
    CHECK(ruleResult(three, "id = \"levels\"\nleast = 3\nmost = \"10000, 3000\"").state ==
          platform::State::Fits);
    CHECK(ruleResult(model, "id = \"levels\"\nleast = 3\nmost = \"30000, 20000, 10000\"").state ==
          platform::State::Fits);
    const auto broken = ruleResult(three, "id = \"levels\"\nleast = 3\nmost = \"10000, 2000\"");
    CHECK(broken.state == platform::State::Broken);
    CHECK(broken.finding.note.find("Level 1 has 2") == 0);
    CHECK_THROWS_WITH(sheetWith("id = \"triangles\"\nmost = 9\n[levels]\nname = \"{name}\"\n"),
                      Catch::Contains("told apart"));
    const std::string named = "id = \"triangles\"\nmost = 9\n[levels]\nname = \"{name}{n}\"\nas = ";
    CHECK(sheetWith(named + "\"nodes\"\n").levels.as == platform::SheetLevels::As::Nodes);
    CHECK(platform::hashOf(sheetWith(named + "\"nodes\"\n")) !=
          platform::hashOf(sheetWith(named + "\"files\"\n")));
    CHECK_THROWS_WITH(sheetWith(named + "\"node\"\n"), Catch::Contains("no way of writing levels \"node\""));
}

TEST_CASE("levels are files of their own where a platform takes them, and left out elsewhere") {
    const Model three = ranStep(ballOnPost(), "levels-of-detail", twoLevels, sheet("saltbranch").get()).model;
    const auto names = [&](const char* platform, const Model& model) {
        std::vector<std::string> out;
        for (const OutFile& file : deliver::deliverableFor(*sheet(platform), nlohmann::json::object())
                                       ->make(model, *sheet(platform), {.name = "post"}, {}))
            if (file.name.ends_with(".glb")) out.push_back(file.name);
        return out;
    };
    CHECK(names("saltbranch", three) ==
          std::vector<std::string>{"post_lod0.glb", "post_lod1.glb", "post_lod2.glb"});
    CHECK(names("saltbranch", ballOnPost()) == std::vector<std::string>{"post.glb"});
    CHECK(names("playmeadow", geometry::withoutLevels(three)) == names("playmeadow", ballOnPost()));
}
