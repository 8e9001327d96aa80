// Avatars: roles and faces proposed, set-ups carried over, and what VRM keeps.
#include "core/avatar/face.h"
#include "core/avatar/licence.h"
#include "core/avatar/proposed.h"
#include "core/avatar/roles.h"
#include "core/avatar/t_pose.h"
#include "core/base/error.h"
#include "core/geometry/world.h"
#include "core/model/promises.h"
#include "core/motion/posed.h"
#include "core/planner/planner.h"
#include "support/avatar_figure.h"
#include "support/companions.h"
#include "support/rule_sheet.h"
#include "support/sheets.h"

#include <catch2/catch.hpp>

#include <set>

using namespace zl;
using nlohmann::json;

namespace {

int node(const Model& model, const std::string& name) {
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (model.nodes[n].name == name) return int(n);
    FAIL("no node " << name);
    return -1;
}

RanStep takenFrom(const Model& donor, const Model& own, json params = json::object()) {
    TestSurroundings around;
    around.add("old", donor, 1);
    const Progress progress;
    steps::StepContext context{progress, nullptr, &around};
    params["from"] = {{"piece", "old"}};
    Model out = steps::makeStep("take-setup", params)->apply(own, context);
    return {std::move(out), context.notes, context.shortfall, context.facts};
}

/// Which node a role means, by name.
std::map<std::string, std::string> rolesOf(const Model& model) {
    std::map<std::string, std::string> out;
    for (const auto& [role, key] : model.avatar->bones)
        if (const int n = avatar::nodeOf(model, key); n >= 0) out[role] = model.nodes[std::size_t(n)].name;
    return out;
}

} // namespace

TEST_CASE("VRM knows 55 bones of which 15 are required, each below another that it knows") {
    std::set<std::string_view> required;
    for (const auto& role : avatar::allRoles()) {
        if (role.required) required.insert(role.name);
        if (!role.above.empty()) CHECK(avatar::roleNamed(role.above));
    }
    CHECK(avatar::allRoles().size() == 55);
    CHECK(required == std::set<std::string_view>{"hips", "spine", "head", "leftUpperLeg", "leftLowerLeg",
                                                 "leftFoot", "rightUpperLeg", "rightLowerLeg", "rightFoot",
                                                 "leftUpperArm", "leftLowerArm", "leftHand", "rightUpperArm",
                                                 "rightLowerArm", "rightHand"});
    CHECK(avatar::roleNamed("hips")->above.empty());
    CHECK(avatar::roleNamed("leftThumbDistal")->above == "leftThumbProximal");
    CHECK_FALSE(avatar::roleNamed("tail"));
}

TEST_CASE("Morph targets' names mean expressions in the manners of several programs") {
    const std::pair<const char*, const char*> known[] = {{"aa", "aa"},
                                                         {"A", "aa"},
                                                         {"Mouth_A", "aa"},
                                                         {"vowel-i", "ih"},
                                                         {"Blink", "blink"},
                                                         {"blink.L", "blinkLeft"},
                                                         {"Eye_Blink_R", "blinkRight"},
                                                         {"eyesClosed", "blink"},
                                                         {"JOY", "happy"},
                                                         {"face.smile", "happy"},
                                                         {"Surprised", "surprised"},
                                                         {"lookUp", "lookUp"},
                                                         {"sorrow", "sad"}};
    for (const auto& [morph, meant] : known) {
        CAPTURE(morph);
        CHECK(avatar::expressionMeantBy(morph) == std::string_view(meant));
    }
    for (const char* other : {"", "nose wide tip", "brow", "_", "B", "happier"}) {
        CAPTURE(other);
        CHECK_FALSE(avatar::expressionMeantBy(other));
    }
}

TEST_CASE("Roles are told by names, and by where bones stand when names say nothing") {
    const Model named = figureWithFaces({});
    const auto byName = avatar::proposedRoles(named);
    CHECK(byName.guessed.empty());
    CHECK(byName.named.at("leftUpperArm") == node(named, "upperarm.left"));
    CHECK(byName.named.at("rightToes") == node(named, "toes.right"));
    CHECK(byName.named.at("hips") == node(named, "hips"));
    Model nameless = named;
    for (std::size_t n = 0; n < nameless.nodes.size(); ++n)
        nameless.nodes[n].name = "b" + std::string(n, 'x');
    const auto byShape = avatar::proposedRoles(nameless);
    CHECK(byShape.named.empty());
    for (const auto& role : avatar::allRoles())
        if (role.required) {
            INFO(role.name);
            REQUIRE(byShape.guessed.contains(role.name));
            CHECK(byShape.guessed.find(role.name)->second == byName.named.find(role.name)->second);
        }
    // Left names on the right side are what they say; a head that hangs on a hand is none.
    Model odd = named;
    odd.nodes[std::size_t(node(odd, "hand.left"))].name = "head";
    const auto mixed = avatar::proposedRoles(odd);
    CHECK((!mixed.named.contains("head") || mixed.named.at("head") != node(named, "hand.left")));
    CHECK(avatar::proposedRoles(Model()).named.empty());
}

TEST_CASE("The set-up says what is missing, takes rows by hand, and measures the T-pose") {
    Model model = figureWithFaces({"aa", "grin"});
    const auto ran = ranStep(model, "avatar-setup", json::object());
    CHECK(keepsPromises(ran.model));
    CHECK(ran.shortfall.empty());
    CHECK(ran.facts["unused"] == json::array({"grin"}));
    // Shoulder to hand is 0.128 aside, 0.291 down and 0.012 forward of a height.
    const double arm =
        glm::degrees(std::acos(0.128 / std::sqrt(0.128 * 0.128 + 0.291 * 0.291 + 0.012 * 0.012)));
    CHECK(ran.facts["armDegrees"].get<double>() == Approx(arm).margin(0.05));
    const auto byHand = ranStep(model, "avatar-setup",
                                {{"faces", {{{"expression", "happy"}, {"morph", "grin"}, {"weight", 0.5}}}},
                                 {"bones", {{{"role", "jaw"}, {"bone", "head"}}}}});
    CHECK(byHand.model.avatar->expression("happy")->morphs[0].morph == "grin");
    CHECK(byHand.model.avatar->expression("happy")->morphs[0].weight == 0.5);
    CHECK(rolesOf(byHand.model).at("jaw") == "head");
    CHECK(byHand.shortfall == "has no bone for head"); // one bone does one thing
    CHECK_THROWS_WITH(
        ranStep(model, "avatar-setup", {{"faces", {{{"expression", "happy"}, {"morph", "frown"}}}}}),
        Catch::Contains("no morph target \"frown\""));
    CHECK_THROWS_WITH(ranStep(model, "avatar-setup", {{"bones", {{{"role", "tail"}, {"bone", "head"}}}}}),
                      Catch::Contains("no bone of an avatar is called \"tail\""));
    // What is set up already stays.
    const auto again = ranStep(byHand.model, "avatar-setup", json::object());
    CHECK(again.model.avatar->expression("happy")->morphs[0].weight == 0.5);
    const auto placed = ranStep(model, "avatar-setup", {{"eyes", "place"}, {"place", {0, 0.05, 0.1}}});
    CHECK(glm::distance(placed.model.avatar->lookAt->eyes, glm::dvec3(0, 0.05, 0.1)) < 1e-9);
}

TEST_CASE("Arms come level by the rest pose, and what moves stays right") {
    Model model = ranStep(figureWithFaces({"aa"}), "avatar-setup", json::object()).model;
    Clip bow{"bow",
             {{node(model, "spine"),
               Channel::Target::Rotation,
               Channel::Curve::Linear,
               {0, 1},
               {0, 0, 0, 1, 0.5f, 0, 0, std::sqrt(0.75f)}}}};
    model.clips = {std::make_shared<const Clip>(bow)};
    const auto ran = ranStep(model, "rest-pose", {{"take", "level"}});
    const auto off = avatar::offTPose(ran.model);
    REQUIRE(off);
    CHECK(off->armDegrees < 0.01);
    CHECK(off->legDegrees < 0.01);
    CHECK(keepsPromises(ran.model));
    // In the clip every bone is where it was: arms keep hanging there.
    const auto before = motion::posed(model, *model.clips[0], 1),
               after = motion::posed(ran.model, *ran.model.clips[0], 1);
    for (const char* bone : {"hand.left", "hand.right", "foot.left", "head"})
        CHECK(glm::distance(glm::dvec3(before.world[std::size_t(node(model, bone))][3]),
                            glm::dvec3(after.world[std::size_t(node(ran.model, bone))][3])) < 1e-4);
    CHECK(ranStep(figureWithFaces({}), "rest-pose", {{"take", "level"}}).shortfall.find("set it up") !=
          std::string::npos);
}

TEST_CASE("Faces add up, binary ones are whole, and overrides keep eyes and mouth out of the way") {
    Model model = avatarFigure();
    Avatar own = *model.avatar;
    for (Expression& e : own.expressions)
        if (e.name == "happy") e.mouth = Expression::Override::Blend;
    model.avatar = std::make_shared<const Avatar>(own);
    auto seen =
        avatar::shownExpressions(model, {{{"aa", 0.8}, {"happy", 0.25}, {"blink", 1}, {"angry", 7}}, {}});
    CHECK(seen["aa"] == Approx(0.8 * 0.75));
    CHECK(seen["angry"] == 1);
    CHECK(seen["blink"] == 1);
    seen = avatar::shownExpressions(model, {{{"aa", 0.8}, {"wink", 0.6}, {"blink", 1}}, {}});
    CHECK(seen["wink"] == 1); // binary
    CHECK(seen["blink"] == 0);
    CHECK(seen["aa"] == 0); // blended by a whole one
    CHECK(avatar::shownExpressions(model, {{{"wink", 0.4}}, {}})["wink"] == 0);
    // Two binds on one target: blink 0.7 wholly and half of it by the wink would be more than one.
    const Clip clip = avatar::clipOf(model, {{{"wink", 1}, {"sad", 0.5}}, {}});
    const int shown = shownNodes(model)[0];
    const auto channel =
        std::ranges::find_if(clip.channels, [&](const Channel& c) { return c.node == shown; });
    REQUIRE(channel != clip.channels.end());
    const auto& morphs = model.meshes[std::size_t(model.nodes[std::size_t(shown)].mesh)]->morphs;
    for (std::size_t m = 0; m < morphs.size(); ++m)
        CHECK(channel->values[m] == Approx(morphs[m].name == "blink" ? 0.5
                                           : morphs[m].name == "sad" ? 0.5
                                                                     : 0));
}

TEST_CASE("Eyes turn by their ranges: outward and inward, up and down") {
    Model model = figureWithFaces({"aa"});
    const int head = node(model, "head");
    for (const char* eye : {"eye.left", "eye.right"}) {
        model.nodes.push_back(
            {eye, head, glm::translate(glm::dmat4(1), {eye[4] == 'l' ? 0.03 : -0.03, 0.08, 0.09})});
        Skin& skin = model.skins[0];
        skin.joints.push_back(int(model.nodes.size()) - 1);
        skin.inverseBind.emplace_back(glm::mat4(glm::inverse(worldMatrices(model)[model.nodes.size() - 1])));
    }
    model = ranStep(model, "avatar-setup", json::object()).model;
    REQUIRE(model.avatar->lookAt);
    CHECK(model.avatar->lookAt->by == LookAt::By::Bones);
    CHECK(glm::distance(model.avatar->lookAt->eyes, glm::dvec3(0, 0.08, 0.09)) < 1e-9);
    Avatar own = *model.avatar;
    own.lookAt->outward = {90, 30}, own.lookAt->inward = {45, 9}, own.lookAt->up = {60, 12};
    model.avatar = std::make_shared<const Avatar>(own);
    // 45° to its left: outward for the left eye, 15° of 30; inward for the right one, all 9°.
    const auto looks = [&](const glm::dvec2& look, const char* eye) {
        const Clip clip = avatar::clipOf(model, {{}, look});
        return glm::dvec3(motion::posed(model, clip, 0).world[std::size_t(node(model, eye))][2]);
    };
    const auto aside = [](double degrees) {
        return glm::dvec3(std::sin(glm::radians(degrees)), 0, std::cos(glm::radians(degrees)));
    };
    CHECK(glm::distance(looks({45, 0}, "eye.left"), aside(15)) < 1e-6);
    CHECK(glm::distance(looks({45, 0}, "eye.right"), aside(9)) < 1e-6);
    CHECK(glm::distance(looks({-90, 0}, "eye.right"), aside(-30)) < 1e-6);
    CHECK(looks({0, 30}, "eye.left").y == Approx(std::sin(glm::radians(6.0))));
}

TEST_CASE("A set-up goes over onto a changed mesh and is the same but for what changed") {
    const Model old = avatarFigure();
    // The same skeleton; one face is drawn anew, one is gone, one came.
    Model changed = figureWithFaces({"aa", "blink", "happy", "angry", "sad", "brow"});
    for (auto& mesh : changed.meshes)
        if (!mesh->morphs.empty()) {
            Mesh own = *mesh; // what came goes the other way than what is gone
            for (glm::vec3& p : own.morphs.back().positions) p = -p;
            mesh = std::make_shared<const Mesh>(std::move(own));
        }
    const auto ran = takenFrom(old, changed);
    CHECK(keepsPromises(ran.model));
    CHECK(rolesOf(ran.model) == rolesOf(old));
    CHECK(ran.facts["guessed"].empty());
    const Avatar &was = *old.avatar, &is = *ran.model.avatar;
    CHECK(is.licence == was.licence);
    REQUIRE(is.expressions.size() == was.expressions.size());
    for (std::size_t e = 0; e < was.expressions.size(); ++e) {
        INFO(was.expressions[e].name);
        CHECK(is.expressions[e].name == was.expressions[e].name);
        CHECK(is.expressions[e].binary == was.expressions[e].binary);
        CHECK(is.expressions[e].blink == was.expressions[e].blink);
        CHECK(is.expressions[e].morphs.size() == (was.expressions[e].name == "surprised" ? 0u : 1u));
    }
    CHECK(ran.facts["missing"] == json::array({"surprised: morph target surprised"}));
    CHECK(ran.facts["leftOver"] == json::array({"brow"}));
    CHECK(is.lookAt->eyes == was.lookAt->eyes);
    CHECK(is.lookAt->up.gives == 12);
    REQUIRE(is.springs.size() == 1);
    CHECK(is.springs[0].joints.size() == 2);
    CHECK(is.springs[0].joints[0].radius == 0.01);
    CHECK(is.colliders[0].from == was.colliders[0].from);
    CHECK(is.colliders[1].to == was.colliders[1].to);
    CHECK(is.constraints.size() == 1);
    // Nothing points at the old one: every key is one of this model's.
    std::set<int> keys;
    for (const Node& n : ran.model.nodes) keys.insert(n.key);
    for (const auto& [role, key] : is.bones) CHECK(keys.contains(key));
    for (const Expression& e : is.expressions)
        for (const auto& bind : e.morphs) CHECK((bind.node == 0 || keys.contains(bind.node)));
}

TEST_CASE("Bones and faces of other names are found by what they mean, by hierarchy and by what they move") {
    const Model old = avatarFigure();
    Model other = figureWithFaces({"Mouth_A", "eyesClosed", "JOY", "cross", "SORROW", "wow"});
    // Twice as large, bones called otherwise, one nameless in the middle of the arm.
    for (Node& n : other.nodes) {
        if (n.name == "forearm.left") n.name = "qx";
        if (n.name == "upperarm.left") n.name = "L_UpperArm";
        if (n.name == "head") n.name = "Head";
    }
    other.placement = glm::scale(glm::dmat4(1), glm::dvec3(2));
    const auto ran = takenFrom(old, other);
    CHECK(rolesOf(ran.model).at("leftUpperArm") == "L_UpperArm");
    CHECK(rolesOf(ran.model).at("leftLowerArm") == "qx");
    CHECK(ran.facts["guessed"].dump().find("forearm.left → qx") != std::string::npos);
    // "cross" and "wow" move what "angry" and "surprised" moved.
    CHECK(ran.model.avatar->expression("angry")->morphs.at(0).morph == "cross");
    CHECK(ran.model.avatar->expression("surprised")->morphs.at(0).morph == "wow");
    CHECK(ran.model.avatar->expression("happy")->morphs.at(0).morph == "JOY");
    CHECK(ran.facts["guessed"].dump().find("angry → cross") != std::string::npos);
    // The bone's own space grows with the placement, so a place in it stays.
    CHECK(glm::distance(ran.model.avatar->lookAt->eyes, old.avatar->lookAt->eyes) < 1e-9);
    CHECK_THROWS_WITH(takenFrom(figureWithFaces({}), other), Catch::Contains("not set up as an avatar"));
}

TEST_CASE("A set-up outlives other steps: parts joined, renamed, and bones left out") {
    Model model = avatarFigure();
    const auto roles = rolesOf(model);
    const auto ran = ranStep(model, "rename-parts", {{"find", "*"}, {"become", "own.{1}"}, {"legal", false}});
    for (const auto& [role, name] : rolesOf(ran.model)) CHECK(name == "own." + roles.at(role));
    const auto joined = ranStep(model, "join-parts", json::object()).model;
    CHECK_FALSE(avatar::targetsOf(joined, joined.avatar->expression("happy")->morphs.at(0)).empty());
    const auto baked = ranStep(model, "bake-placement", json::object()).model;
    CHECK(rolesOf(baked) == roles);
    const auto fewer = ranStep(model, "leave-out-bones", {{"which", "named"}, {"bones", {"toes*"}}});
    CHECK(rolesOf(fewer.model).at("leftFoot") == "foot.left");
}

TEST_CASE("Rules of avatars name what is missing as the standard does") {
    const Model plain = figureWithFaces({"aa"});
    CHECK(ruleResult(plain, "id = \"avatar-bones\"").finding.measured == "not set up");
    Model half = avatarFigure();
    Avatar own = *half.avatar;
    own.bones.erase("leftHand");
    std::erase_if(own.expressions, [](const Expression& e) { return e.name == "sad"; });
    own.licence.erase("authors");
    half.avatar = std::make_shared<const Avatar>(own);
    const auto bones = ruleResult(half, "id = \"avatar-bones\"").finding;
    CHECK_FALSE(bones.holds);
    CHECK(bones.measured == "14 of 15");
    CHECK(bones.note.find("leftHand") != std::string::npos);
    const auto faces = ruleResult(half, "id = \"expressions\"\nnames = \"aa, sad\"").finding;
    CHECK(faces.note == "There is no face for sad");
    CHECK(ruleResult(half, "id = \"avatar-licence\"").finding.note.find("authors") != std::string::npos);
    CHECK(ruleResult(half, "id = \"one-root\"").finding.holds);
    const auto pose = ruleResult(avatarFigure(), "id = \"t-pose\"\ndegrees = 10").finding;
    CHECK_FALSE(pose.holds);
    CHECK(pose.value == Approx(66.3).margin(0.5));
    Model two = avatarFigure();
    two.nodes[std::size_t(node(two, "hips"))].parent = -1;
    CHECK_FALSE(ruleResult(two, "id = \"one-root\"").finding.holds);
}

TEST_CASE("A plan makes an avatar of a figure; only its maker is not known to it") {
    const auto sheetOf = sheet("mirrorfolk");
    Model model = figureWithFaces({"aa", "blink", "happy", "angry", "sad", "surprised"});
    model.headingKnown = true;
    const auto plan = planner::plan(model, *sheetOf);
    std::set<std::string> broken;
    for (const auto& rule : plan.after.rules)
        if (rule.state == platform::State::Broken) broken.insert(rule.id);
    CHECK(broken == std::set<std::string>{"avatar-licence"});
}

TEST_CASE("The licence comes from what the project knows of the maker") {
    TestSurroundings around;
    around.known = {
        "Quay hand", {"Mira Quill", "Odd Fennel"}, "CC BY 4.0", steps::Provenance::Allows::Freely};
    const auto run = [&](json params) {
        const Progress progress;
        steps::StepContext context{progress, nullptr, &around};
        return steps::makeStep("avatar-licence", params)
            ->apply(ranStep(figureWithFaces({}), "avatar-setup", json::object()).model, context);
    };
    auto licence = run(json::object()).avatar->licence;
    CHECK(licence["authors"] == json::array({"Mira Quill", "Odd Fennel"}));
    CHECK(licence["name"] == "Quay hand");
    CHECK(licence["avatarPermission"] == "everyone");
    CHECK(licence["thirdPartyLicenses"] == "CC BY 4.0");
    CHECK(licence["modification"] == "prohibited");
    CHECK(avatar::missingOfLicence(licence).empty());
    around.known.allows = steps::Provenance::Allows::Nothing;
    licence = run({{"authors", " Tamsin Reed ,, "}, {"change", "passed"}}).avatar->licence;
    CHECK(licence["authors"] == json::array({"Tamsin Reed"}));
    CHECK(licence["avatarPermission"] == "onlyAuthor");
    CHECK(licence["modification"] == "allowModificationRedistribution");
}
