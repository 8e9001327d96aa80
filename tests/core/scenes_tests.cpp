// Scenes of solids: kept as documents and as XML, read back the same, refused where they are none, and what
// rules and deliveries make of them.
#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/deliver/deliver.h"
#include "core/deliver/solid_scene.h"
#include "core/formats/scene_file.h"
#include "core/geometry/world.h"
#include "core/platform/check.h"
#include "core/project/documents.h"
#include "core/project/solids_document.h"
#include "core/solids/scene_fields.h"
#include "core/solids/scene_model.h"
#include "core/steps/step.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>
#include <nlohmann/json.hpp>

#include <random>

namespace scene_tests {

using namespace zl;
using namespace zl::solids;

Scene garden() {
    Scene out;
    out.groups[1] = {"garden", 0, 5};
    out.groups[2] = {"pots", 1, 0};
    out.solids[3].name = "slab", out.solids[3].group = 1;
    out.solids[3].shape.size = {2, 0.1, 3};
    out.solids[4].name = "pot", out.solids[4].group = 2, out.solids[4].at = {0.5, 0.3, -0.25};
    out.solids[4].shape.kind = solids::Kind::Cylinder, out.solids[4].shape.hollow = 0.7;
    out.solids[4].turn = {10, 20, 30};
    out.solids[4].faces[HeadFace] = {Stuff::Metal, {0.1f, 0.2f, 0.3f}, 0.5f, {}, {}};
    out.solids[5].name = "ball", out.solids[5].group = 1, out.solids[5].shape.kind = solids::Kind::Ball;
    out.solids[5].physics = Physics::Falls;
    out.lights[6] = {"lamp", LightKind::Lamp, {0, 2, 0}, {0, 0, 0}, {1, 0.9f, 0.8f}, 2, {0.1, 0.1}};
    return out;
}

/// Anything that a scene may be, all numbers on the safe side.
Scene anyScene(std::mt19937& random) {
    const auto number = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    const auto pick = [&](int count) { return int(random() % unsigned(count)); };
    Scene out;
    for (int g = 1; g <= 5; ++g) out.groups[g] = {"group", g == 1 ? 0 : 1 + pick(g - 1), 0};
    for (int s = 10; s < 30; ++s) {
        Solid& solid = out.solids[s];
        solid.name = "solid <&\"> é", solid.group = pick(6);
        solid.shape.kind = solids::Kind(pick(6)), solid.shape.outline = Outline(pick(4));
        solid.shape.size = {number(0.02, 9), number(0.02, 9), number(0.02, 9)};
        solid.shape.gap = number(0, 300), solid.shape.gapFrom = number(-360, 360);
        solid.shape.hollow = number(0, 0.9), solid.shape.thick = number(0.1, 1);
        solid.shape.foot = {number(0.1, 2), 1}, solid.shape.head = {1, number(0.1, 2)};
        solid.shape.lean = {number(-2, 2), 0}, solid.shape.twist = number(-700, 700);
        solid.at = {number(-99, 99), number(-99, 99), number(-99, 99)};
        solid.turn = {number(-179, 179), number(-89, 89), number(-179, 179)};
        solid.physics = Physics(pick(3));
        solid.look = {Stuff(pick(6)), {0.25f, 0.5f, float(number(0, 1))}, float(number(0, 1)), {}, {}};
        if (pick(2))
            solid.faces[pick(faceCount)] = {Stuff(pick(6)), {0, 1, 0}, 0, {}, {{0.5f, 0}, {2, 3}, 1}};
    }
    out.lights[40] = {"l", LightKind(pick(3)), {1, 2, 3}, {4, 5, 6}, {1, 0, 1}, number(0, 99), {1, 2}};
    return out;
}

/// The same but for rounding of places and turns.
void checkAlike(const Scene& a, const Scene& b) {
    REQUIRE(a.solids.size() == b.solids.size());
    CHECK(a.groups == b.groups);
    CHECK(a.lights.size() == b.lights.size());
    for (const auto& [number, solid] : a.solids) {
        Solid other = b.solids.at(number);
        CHECK(glm::distance(solid.at, other.at) < 1e-9);
        CHECK(glm::length(glm::vec4(glm::mat4_cast(turned(solid.turn))[0] -
                                    glm::mat4_cast(turned(other.turn))[0])) < 1e-9);
        other.at = solid.at, other.turn = solid.turn;
        CHECK(other == solid);
    }
}

Error refusal(const auto& work) {
    try {
        work();
    } catch (const Error& error) {
        return error;
    }
    FAIL("nothing was refused");
    return Error("");
}

TEST_CASE("a document of solids says the same when it is read again", "[solids]") {
    std::mt19937 random(7);
    for (int n = 0; n < 50; ++n) {
        project::SolidsDocument document;
        document.scene = n == 0 ? garden() : anyScene(random);
        const auto again = project::SolidsDocument::read(parsedJson(jsonText(document.toJson())));
        CHECK(static_cast<project::SolidsDocument&>(*again).scene == document.scene);
    }
}

TEST_CASE("documents that are none are refused with what is wrong", "[solids]") {
    const auto read = [](const char* text) {
        return refusal([&] { project::SolidsDocument::read(parsedJson(text)); });
    };
    CHECK(std::string(read("[]").what()) == "holds a part that is none");
    CHECK(std::string(read(R"({"solids": 3})").what()) == "has no list \"solids\"");
    const Error kind = read(R"({"solids": [{"number": 1, "shape": {"kind": "egg"}}]})");
    CHECK(std::string(kind.what()) == "does not say rightly what its \"kind\" is");
    CHECK_THAT(read(R"({"solids": [{"number": 1, "shape": {"size": [1, 1e9, 1]}}]})").what(),
               Catch::Contains("\"size\" of a solid"));
    CHECK_THAT(read(R"({"solids": [{"number": 1}, {"number": 1}]})").what(),
               Catch::Contains("two of number 1"));
    CHECK_THAT(read(R"({"solids": [{"number": 1, "group": 5}]})").what(), Catch::Contains("in group 5"));
    CHECK_THAT(read(R"({"groups": [{"number": 1, "within": 2}, {"number": 2, "within": 1}]})").what(),
               Catch::Contains("within itself"));
    CHECK_THAT(read(R"({"lights": [{"number": 1, "strength": 1e300}]})").what(), Catch::Contains("strength"));
    CHECK_THAT(read(R"({"solids": [{"number": 0}]})").what(), Catch::Contains("below 1"));
    CHECK_THAT(read(R"({"solids": [{"number": 2, "faces": [{"face": 99}]}]})").what(),
               Catch::Contains("no face 99"));
}

TEST_CASE("a change of a scene goes back, and one that cannot be leaves it as it was", "[solids]") {
    project::SolidsDocument document;
    document.scene = garden();
    Scene other = garden();
    other.solids.erase(5), other.groups[1].lead = 3;
    other.solids[9] = other.solids[4], other.lights[6].strength = 5;
    project::SolidsChange change(project::SceneParts::between(document.scene, other));
    change.make(document);
    CHECK(document.scene == other);
    change.takeBack(document);
    CHECK(document.scene == garden());
    change.make(document);
    CHECK(document.scene == other);
    Scene circle = other;
    circle.groups[1].within = 2;
    project::SolidsChange wrong(project::SceneParts::between(other, circle));
    CHECK_THROWS_AS(wrong.make(document), Error);
    CHECK(document.scene == other);
}

TEST_CASE("a scene goes to XML and back in any axes", "[solids]") {
    std::mt19937 random(11);
    for (const auto& [up, front] : {std::pair{Up::Y, "+Z"}, {Up::Z, "+X"}, {Up::Z, "-Y"}, {Up::Y, "-X"}})
        for (int n = 0; n < 20; ++n) {
            const Scene scene = n == 0 ? garden() : anyScene(random);
            const std::string text = formats::writeScene({"a & b", scene, false}, up, front);
            const formats::SceneFile back = formats::readScene(text, "here");
            CHECK(back.name == "a & b");
            checkAlike(scene, back.scene);
        }
    // In the world's own axes nothing is rounded.
    CHECK(formats::readScene(formats::writeScene({"x", garden(), true}, Up::Y, "+Z"), "").scene == garden());
    CHECK(formats::readScene(formats::writeScene({"x", garden(), true}, Up::Y, "+Z"), "").lit);
}

TEST_CASE("hostile XML of scenes is refused, soon", "[solids]") {
    const auto said = [](const std::string& body) {
        return std::string(refusal([&] {
                               formats::readScene("<scene version=\"1\" up=\"Z\" front=\"+X\">" + body +
                                                      "</scene>",
                                                  "bad.xml");
                           }).what());
    };
    CHECK_THAT(said("<solid number=\"1\" kind=\"egg\"/>"), Catch::Contains("\"kind\" of <solid>"));
    CHECK_THAT(said("<solid number=\"1\" size=\"nan 1 1\"/>"), Catch::Contains("size"));
    CHECK_THAT(said("<solid number=\"1\" size=\"1 1\"/>"), Catch::Contains("size"));
    CHECK_THAT(said("<solid number=\"1\" at=\"1e99 0 0\"/>"), Catch::Contains("too far"));
    CHECK_THAT(said("<solid number=\"1\"/><solid number=\"1\"/>"), Catch::Contains("two <solid>"));
    CHECK_THAT(said("<solid/>"), Catch::Contains("no number"));
    CHECK_THAT(said("<light number=\"1\" strength=\"inf\"/>"), Catch::Contains("strength"));
    CHECK_THAT(said("<cube/>"), Catch::Contains("<cube>"));
    CHECK_THAT(said("<group number=\"1\" lead=\"7\"/>"), Catch::Contains("goes by solid 7"));
    std::string deep;
    for (int n = 1; n < 100000; ++n) deep += fmt::format("<group number=\"{}\">", n);
    CHECK_THAT(said(deep), Catch::Contains("is not XML") || Catch::Contains("too deep"));
    std::string nested;
    for (int n = 1; n < 200; ++n) nested += fmt::format("<group number=\"{}\">", n);
    for (int n = 1; n < 200; ++n) nested += "</group>";
    CHECK_THAT(said(nested), Catch::Contains("too deep"));
    CHECK_THROWS_AS(formats::readScene("<scene version=\"2\" up=\"Z\" front=\"+X\"/>", ""), Error);
    CHECK_THROWS_AS(formats::readScene("<scene version=\"1\" up=\"Z\" front=\"+Z\"/>", ""), Error);
    // Entities that would grow a thousandfold are not looked at: the text stays what it is.
    const std::string bomb = "<?xml version=\"1.0\"?><!DOCTYPE s [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b "
                             "\"&a;&a;&a;&a;\">]><scene version=\"1\" up=\"Z\" front=\"+X\" name=\"&b;\"/>";
    CHECK(formats::readScene(bomb, "").name.size() < 10);
}

TEST_CASE("a scene as a model: nodes in its groups, a run a face", "[solids]") {
    const Model model = modelOf(garden(), "garden");
    REQUIRE(model.nodes.size() == 5);
    CHECK(model.nodes[0].name == "garden");
    CHECK(model.nodes[1].name == "pots");
    CHECK(model.nodes[1].parent == 0);
    const Shown* shown = shownBy(model);
    REQUIRE(shown);
    CHECK(shown->parts[0].faces == std::vector<int>{0, 1, 2, 3, 4, 5});
    CHECK(shown->parts[1].faces == std::vector<int>{FootFace, HeadFace, FirstSide, Inside});
    for (const Part& part : shown->parts) CHECK(part.faces.size() == part.mesh->runs.size());
    CHECK(model.materials.size() == 2); // all plain but the pot's head
    Model other = model;
    other.meshes[0] = std::make_shared<const Mesh>(*model.meshes[0]);
    CHECK(shownBy(other) == nullptr);
    CHECK_THROWS_AS(modelOf(Scene(), "nothing"), Error);
}

TEST_CASE("turns by three angles come back as themselves", "[solids]") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> any(-180, 180);
    for (int n = 0; n < 1000; ++n) {
        const glm::dvec3 degrees(any(random), n % 7 == 0 ? 90 : any(random) / 2, any(random));
        const glm::dmat3 a = glm::mat3_cast(turned(degrees)),
                         b = glm::mat3_cast(turned(degreesOf(turned(degrees))));
        for (int k = 0; k < 3; ++k) CHECK(glm::distance(a[k], b[k]) < 1e-6);
    }
    // About X first: a quarter about X, then one about Y, takes Y to Z and on to X.
    CHECK(glm::distance(turned({90, 90, 0}) * glm::dvec3(0, 1, 0), glm::dvec3(1, 0, 0)) < 1e-12);
}

platform::Finding finding(const Scene& scene, const char* check, std::map<std::string, double> limits) {
    platform::Sheet sheet;
    platform::RuleSpec rule;
    rule.id = rule.check = check, rule.limits = std::move(limits);
    sheet.rules = {rule};
    return platform::check(modelOf(scene, "m"), sheet).rules.at(0).finding;
}

TEST_CASE("rules about solids count what they say", "[solids]") {
    Scene scene = garden();
    CHECK(finding(scene, "solids-in-group", {{"most", 3}}).holds); // with the group in it
    const auto many = finding(scene, "solids-in-group", {{"most", 2}});
    CHECK_FALSE(many.holds);
    CHECK(many.value == 3);
    CHECK(many.nodes.size() == 3);
    CHECK(finding(scene, "solid-size", {{"least", 0.1}, {"most", 3}}).holds);
    CHECK_FALSE(finding(scene, "solid-size", {{"least", 0.11}, {"most", 3}}).holds);
    CHECK_FALSE(finding(scene, "solid-size", {{"least", 0.1}, {"most", 2.9}}).holds);
    CHECK(finding(scene, "solid-faces", {{"most", 11}}).value == 11); // 6, 4 and 1
    CHECK(finding(scene, "region-room", {{"most", 9}, {"shaped", 3}}).value == 5);
    CHECK_FALSE(finding(scene, "light-baked", {}).holds);
}

TEST_CASE("rules for another sort of model are left out", "[solids]") {
    platform::Sheet sheet;
    for (const auto& [id, of] : {std::pair{"triangles", platform::Of::Meshes},
                                 {"solid-faces", platform::Of::Solids},
                                 {"unit-known", platform::Of::All}}) {
        platform::RuleSpec rule;
        rule.id = rule.check = id, rule.of = of;
        if (of != platform::Of::All) rule.limits["most"] = 100;
        sheet.rules.push_back(rule);
    }
    const Model scene = modelOf(garden(), "m");
    CHECK(platform::check(scene, sheet).rules.size() == 2);
    CHECK(platform::check(scene, sheet).rule("solid-faces"));
    Model mesh = scene;
    mesh.solids.reset();
    CHECK(platform::check(mesh, sheet).rule("triangles"));
    CHECK(platform::asFor(mesh, sheet).rules.size() == 2);
}

TEST_CASE("a scene is delivered where its steps put it", "[solids]") {
    const auto sheet = platform::sheetNamed(platform::loadSheets(), "commonmoor");
    Model model = modelOf(garden(), "garden");
    model = moved(model, glm::translate(glm::dmat4(1), glm::dvec3(1, 2, 3)) *
                             glm::rotate(glm::dmat4(1), glm::radians(90.0), glm::dvec3(0, 1, 0)) *
                             glm::scale(glm::dmat4(1), glm::dvec3(2)));
    const Scene placed = deliver::placedScene(model, *shownBy(model));
    CHECK(glm::distance(placed.solids.at(3).at, glm::dvec3(1, 2, 3)) < 1e-9);
    CHECK(glm::distance(placed.solids.at(3).shape.size, glm::dvec3(4, 0.2, 6)) < 1e-9);
    CHECK(glm::distance(placed.solids.at(4).at, glm::dvec3(0.5, 2.6, 2)) < 1e-9);
    CHECK(placed.lights.at(6).strength == Approx(8)); // as bright on what is twice as far
    const auto files = deliver::solidSceneFiles(model, *shownBy(model), *sheet, "garden", {});
    REQUIRE(files.size() == 1);
    CHECK(files[0].name == "garden.scene.xml");
    checkAlike(formats::readScene(files[0].bytes, "").scene, placed);
    CHECK_THROWS_AS(
        deliver::placedScene(moved(model, glm::scale(glm::dmat4(1), glm::dvec3(1, 2, 1))), *shownBy(model)),
        Refused);
}

TEST_CASE("pictures beside a document are read with it and waited for", "[solids]") {
    const TemporaryFolder folder;
    project::SolidsDocument document;
    document.scene = garden();
    document.scene.solids[3].look.picture = "wood.png";
    const Model without = document.model(folder.path(), {});
    CHECK(without.images.empty());
    CHECK(without.files == std::vector<std::filesystem::path>{folder.path() / "wood.png"});
    CHECK(without.warnings.size() >= 1);
}

} // namespace scene_tests
