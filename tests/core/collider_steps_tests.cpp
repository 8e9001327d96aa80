// Bodies as steps make them: convex pieces, a concave mesh, pieces changed by hand, and the rules on them.
#include "core/base/error.h"
#include "core/contact/changed_pieces.h"
#include "core/contact/plain_shapes.h"
#include "core/platform/check.h"
#include "core/planner/planner.h"
#include "support/bodies.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

/// A mug without a handle, in two parts: floor and walls, 2 m on a side, hollow by 1.6 × 1.8 × 1.6.
Model mug() {
    Model model = shapes::modelOf(geometry::boxMesh({-1, 0, -1}, {1, 0.2, 1}), "floor");
    model.meshes.push_back(std::make_shared<const Mesh>(boxes({{{-1, 0.2, -1}, {-0.8, 2, 1}},
                                                               {{0.8, 0.2, -1}, {1, 2, 1}},
                                                               {{-0.8, 0.2, -1}, {0.8, 2, -0.8}},
                                                               {{-0.8, 0.2, 0.8}, {0.8, 2, 1}}})));
    model.nodes.push_back({"walls", -1, glm::dmat4(1), 1});
    return model;
}

const char* bodyRules = "id = \"collider-pieces\"\nmost = 6\ncorners = 12\nmend = [\"convex-pieces\"]\n"
                        "[[rule]]\nid = \"hollow-filled\"\nlabel = \"H\"\nmessage = \"m\"\nmost = 0.1\n"
                        "mend = [\"convex-pieces\"]\n"
                        "[[rule]]\nid = \"collider-present\"\nlabel = \"P\"\nmessage = \"m\"\n"
                        "mend = [\"convex-pieces\"]\n";

} // namespace

TEST_CASE("Convex pieces keep the platform's limits, are made of chosen parts, and stand beside others") {
    const Model model = mug();
    const auto sheet = sheetWith(bodyRules);
    const auto ran = ranStep(model, "convex-pieces", nlohmann::json::object(), &sheet);
    REQUIRE_FALSE(ran.model.colliders.empty());
    CHECK(ran.model.colliders.size() <= 6);
    for (const Collider& piece : ran.model.colliders) {
        CHECK(piece.kind == "hull");
        checkBody(*piece.mesh, 12);
    }
    CHECK(ran.facts["filled"].get<double>() < 0.05);
    CHECK(ran.facts["missing"].get<double>() < 0.01);
    CHECK(ran.model.colliders[0].name == "piece 1");

    const auto one =
        ranStep(model, "convex-pieces", {{"goal", "number"}, {"pieces", 1}, {"corners", 8}}, &sheet);
    REQUIRE(one.model.colliders.size() == 1);
    CHECK(geometry::signedVolume(*one.model.colliders[0].mesh) == Approx(8));
    const double solid = 8 - 1.6 * 1.8 * 1.6;
    CHECK(one.facts["filled"].get<double>() == Approx((8 - solid) / solid).epsilon(0.02));

    const nlohmann::json floorOnly{{"of", {{{"parts", {"floor"}}}}}};
    const auto floor = ranStep(model, "convex-pieces", floorOnly, &sheet);
    REQUIRE(floor.model.colliders.size() == 1);
    CHECK(geometry::signedVolume(*floor.model.colliders[0].mesh) == Approx(2 * 0.2 * 2));
    nlohmann::json wallsToo{{"of", {{{"parts", {"walls"}}}}}, {"beside", true}};
    const auto both = ranStep(floor.model, "convex-pieces", wallsToo, &sheet);
    CHECK(both.model.colliders.size() > 1);
    CHECK(both.model.colliders.size() <= 6);
    CHECK(both.model.colliders[0].mesh == floor.model.colliders[0].mesh);
    CHECK(both.model.colliders[1].name == "piece 2");
    CHECK(ranStep(Model(), "convex-pieces", nlohmann::json::object()).notes[0] ==
          "no body: the model has no faces");

    // Seen in a mirror it is as solid as before.
    Model mirrored = model;
    for (Node& node : mirrored.nodes) node.local = glm::scale(node.local, glm::dvec3(-1, 1, 1));
    const auto seen = ranStep(mirrored, "convex-pieces", nlohmann::json::object(), &sheet);
    CHECK(seen.facts["filled"].get<double>() < 0.1);
    for (const Collider& piece : seen.model.colliders) checkBody(*piece.mesh, 12);
}

TEST_CASE("a collision mesh keeps its hollows within a limit of faces, and says what a hull would fill") {
    Model fine = shapes::modelOf(ring(1, 0.25, 96, 48), "ring");
    const auto sheet = sheetWith("id = \"collider-triangles\"\nmost = 500\nmend = [\"collision-mesh\"]");
    const auto ran = ranStep(fine, "collision-mesh", nlohmann::json::object(), &sheet);
    REQUIRE(ran.model.colliders.size() == 1);
    const Mesh& mesh = *ran.model.colliders[0].mesh;
    CHECK(ran.model.colliders[0].kind == "mesh");
    CHECK(mesh.triangleCount() <= 500);
    CHECK(mesh.triangleCount() > 400);
    CHECK(geometry::topologyOf(mesh).openEdges == 0);
    CHECK(ran.facts["largestDistance"].get<double>() < 0.04);
    CHECK(geometry::signedVolume(mesh) == Approx(geometry::signedVolume(*fine.meshes[0])).epsilon(0.05));
    // The hull of the ring is a disc: π·1.25²·0.5 less its rounded rim, the ring 2π²·0.25².
    CHECK(ran.facts["hullFilled"].get<double>() > 0.6);
    CHECK(ran.facts["hullFilled"].get<double>() < 1.0);
    CHECK(ranStep(fine, "collision-mesh", {{"goal", "number"}, {"number", 20000}}).facts["triangles"] ==
          fine.meshes[0]->triangleCount());
    CHECK(ranStep(Model(), "collision-mesh", nlohmann::json::object()).model.colliders.empty());
}

TEST_CASE("rules of bodies say what is missing, too much, and filled, and a plan mends them") {
    Model model = mug();
    model.headingKnown = true;
    model.frame.unitAssumed = model.frame.upAssumed = false;
    const auto sheet = sheetWith(bodyRules);
    const auto report = platform::check(model, sheet);
    CHECK(report.rule("collider-present")->state == platform::State::Broken);
    CHECK(report.rule("collider-pieces")->state != platform::State::Broken);
    CHECK(report.rule("hollow-filled")->state == platform::State::Broken);
    const double solid = 8 - 1.6 * 1.8 * 1.6;
    CHECK(report.rule("hollow-filled")->finding.value == Approx(100 * (8 - solid) / solid).epsilon(0.02));
    const auto plan = planner::plan(model, sheet);
    CHECK(plan.holds);
    REQUIRE(plan.steps.size() == 1);
    CHECK(plan.steps[0].entry.step == "convex-pieces");

    const auto many =
        ranStep(model, "convex-pieces", {{"goal", "number"}, {"pieces", 5}, {"corners", 255}}).model;
    const auto tight = sheetWith("id = \"collider-pieces\"\nmost = 2\ncorners = 12");
    CHECK(platform::check(many, tight).rules[0].state == platform::State::Broken);
    const auto round = ranStep(shapes::modelOf(shapes::sphere(24, 16), "ball"), "convex-pieces",
                               {{"goal", "number"}, {"pieces", 1}, {"corners", 100}})
                           .model;
    CHECK(platform::check(round, tight).rules[0].finding.measured == "100 corners");
    const auto surface = ranStep(model, "collision-mesh", nlohmann::json::object()).model;
    CHECK(platform::check(surface, tight).rules[0].finding.measured == "hollow");
    CHECK(platform::check(surface, sheet).rule("hollow-filled")->finding.measured == "open");

    Mesh sheetOnly;
    sheetOnly.positions = {{0, 0, 0}, {1, 0.2f, 0}, {1, 0, 1}, {0, 0.1f, 1}};
    sheetOnly.indices = {0, 2, 1, 0, 3, 2};
    sheetOnly.runs = {{0, 2, -1}};
    const Model open = shapes::modelOf(sheetOnly, "sheet");
    CHECK(platform::check(open, sheetWith("id = \"hollow-filled\"\nmost = 0.1")).rules[0].finding.measured ==
          "not known");
}

TEST_CASE("pieces are merged, left out and made boxes by hand, and offers say what each would do") {
    const Model model = mug();
    const auto sheet = sheetWith(bodyRules);
    const auto plain = ranStep(model, "convex-pieces", nlohmann::json::object(), &sheet);
    const std::size_t count = plain.model.colliders.size();
    REQUIRE(count >= 5);
    const auto& offers = plain.facts["offers"];
    REQUIRE(offers.size() >= 2);
    CHECK(offers[0]["words"].get<std::string>().starts_with("Merge "));
    CHECK(offers[1]["words"].get<std::string>().starts_with("Leave out "));
    const auto merged = ranStep(model, "convex-pieces", offers[0]["params"], &sheet);
    CHECK(merged.model.colliders.size() == count - 1);
    CHECK(merged.facts["missing"].get<double>() < 0.01);
    const auto fewer = ranStep(model, "convex-pieces", offers[1]["params"], &sheet);
    CHECK(fewer.model.colliders.size() == count - 1);
    CHECK(fewer.facts["missing"].get<double>() > 0.01);
    // An offer keeps what was changed before it.
    CHECK(merged.facts["offers"][0]["params"]["changes"].size() == 2);

    // The box around a ball is as wide as the ball; that around a turned box is the box.
    const Mesh ball = shapes::sphere(32, 24, 1);
    CHECK(geometry::signedVolume(contact::boxAround(ball)) == Approx(8).epsilon(0.01));
    Mesh turned = geometry::boxMesh({-2, -1, -0.5}, {2, 1, 0.5});
    const glm::dmat4 turn = glm::rotate(glm::dmat4(1), 0.7, glm::normalize(glm::dvec3(1, 2, 3)));
    turned = geometry::transformed(turned, turn);
    CHECK(geometry::signedVolume(contact::boxAround(turned)) == Approx(8).epsilon(1e-4));

    std::vector<Mesh> pieces{geometry::boxMesh({0, 0, 0}, {1, 1, 1}),
                             geometry::boxMesh({2, 0, 0}, {3, 1, 1})};
    std::vector<std::string> notes;
    using What = contact::PieceChange::What;
    contact::change(pieces, {{What::Merge, {0.5, 0.5, 0.5}, {0.9, 0.5, 0.5}}}, 64, notes);
    CHECK(pieces.size() == 2);
    CHECK(notes == std::vector<std::string>{"piece 1 is not merged: both places lie in it"});
    contact::change(pieces, {{What::Merge, {0.5, 0.5, 0.5}, {9, 0, 0}}, {What::LeaveOut, {0, 0, 0}, {}}}, 64,
                    notes);
    REQUIRE(pieces.size() == 1);
    CHECK(geometry::signedVolume(pieces[0]) == Approx(3));
    CHECK(notes.back() == "the last piece stays");
    contact::change(pieces, {{What::Box, {NAN, 0, 0}, {}}}, 64, notes);
    std::vector<Mesh> none;
    contact::change(none, {{What::LeaveOut, {0, 0, 0}, {}}}, 64, notes);
    CHECK(none.empty());
}

TEST_CASE("a piece becomes the plain shape that suits it, by an offer") {
    Model pair = shapes::modelOf(geometry::merged({geometry::cylinderMesh({0, 0, 0}, 0.4, 3, 48),
                                                   geometry::boxMesh({2, 0, 0}, {3, 1, 1})}),
                                 "pair");
    const auto made = ranStep(pair, "convex-pieces", {{"goal", "number"}, {"pieces", 2}, {"corners", 64}});
    const auto offer = std::ranges::find_if(made.facts["offers"], [](const auto& one) {
        return one["words"].template get<std::string>().starts_with("Make a cylinder of ");
    });
    REQUIRE(offer != made.facts["offers"].end());
    nlohmann::json params{{"goal", "number"}, {"pieces", 2}, {"corners", 64}};
    params.update((*offer)["params"]);
    const auto changed = ranStep(pair, "convex-pieces", params);
    REQUIRE(changed.model.colliders.size() == 2);
    const bool thirtyTwo = std::ranges::any_of(
        changed.model.colliders, [](const Collider& body) { return body.mesh->vertexCount() == 32; });
    CHECK(thirtyTwo);
}
