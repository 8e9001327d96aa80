// Stiff segments: where cuts run, what is rounded, what opens when it is bent, and that nothing is seen
// elsewhere.
#include "core/geometry/world.h"
#include "core/model/promises.h"
#include "core/motion/cut_loops.h"
#include "core/motion/posed.h"
#include "core/motion/rigid_segments.h"
#include "core/motion/rounded_joint.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"

#include <glm/gtc/matrix_transform.hpp>
#include <glm/gtc/quaternion.hpp>

#include <random>

using namespace zl;

namespace {

constexpr int sides = 16, rows = 20;
constexpr double radius = 0.1;

/// A hose of `sides` corners a ring along Y from 0 to 2, on a bone at 0 and one at 1; a row of triangles
/// hangs on the lower one up to the middle.
Model hose(double bentBy) {
    Mesh mesh;
    for (int j = 0; j <= rows; ++j)
        for (int i = 0; i < sides; ++i) {
            const double a = 2 * shapes::pi * i / sides, y = 2.0 * j / rows;
            mesh.positions.emplace_back(radius * std::sin(a), y, radius * std::cos(a));
            mesh.normals.emplace_back(std::sin(a), 0, std::cos(a));
            const float up = j < rows / 2 ? 0 : j == rows / 2 ? 0.5f : 1;
            mesh.joints.emplace_back(0, 1, 0, 0);
            mesh.weights.emplace_back(1 - up, up, 0, 0);
        }
    for (std::uint32_t j = 0; j < rows; ++j)
        for (std::uint32_t i = 0; i < sides; ++i) {
            const std::uint32_t a = j * sides + i, b = j * sides + (i + 1) % sides, c = a + sides,
                                d = b + sides;
            mesh.indices.insert(mesh.indices.end(), {a, b, d, a, d, c});
        }
    Model model = shapes::modelOf(std::move(mesh), "hose");
    model.nodes.push_back({"lower", -1, glm::dmat4(1)});
    model.nodes.push_back({"upper", 1, glm::translate(glm::dmat4(1), {0.0, 1.0, 0.0})});
    model.skins.push_back({"rig", {1, 2}, {glm::mat4(1), glm::translate(glm::mat4(1), {0, -1, 0})}, 1});
    model.nodes[0].skin = 0;
    const glm::quat bent = glm::angleAxis(float(bentBy), glm::vec3(1, 0, 0));
    Channel turn{2, Channel::Target::Rotation, Channel::Curve::Linear, {0, 1}, {0, 0, 0, 1}};
    for (const float v : {bent.x, bent.y, bent.z, bent.w}) turn.values.push_back(v);
    model.clips = {std::make_shared<const Clip>(Clip{"bend", {turn}})};
    return model;
}

} // namespace

TEST_CASE("A cut runs once round between two groups, each with its own side of it") {
    const Model model = hose(0);
    const Mesh& mesh = *model.meshes[0];
    std::vector<int> groups(mesh.triangleCount());
    for (std::size_t t = 0; t < groups.size(); ++t) groups[t] = t < groups.size() / 2 ? 3 : 5;
    const auto loops = motion::cutLoops(mesh, groups);
    REQUIRE(loops.size() == 2);
    for (const auto& loop : loops) {
        CHECK(loop.corners.size() == sides);
        for (const auto corner : loop.corners) CHECK(mesh.positions[corner].y == Approx(1));
        for (const int other : loop.beyond) CHECK(other == (loop.group == 3 ? 5 : 3));
    }
    CHECK(loops[0].group == 3);
    // The same ring, the other way round: the upper side runs against it.
    CHECK(loops[0].corners[1] != loops[1].corners[1]);
    // The ends of the hose are open, and no cuts.
    CHECK(motion::cutLoops(mesh, std::vector<int>(mesh.triangleCount(), 0)).empty());
}

TEST_CASE("What opens at a joint is a chord where nothing is rounded, and nothing where all is") {
    const double angle = shapes::pi / 2;
    const Model model = hose(angle);
    const Progress progress;
    const auto open = motion::rigidSegments(model, {false, 0}, progress);
    CHECK(open.segments == 2);
    CHECK(open.borders == 1);
    CHECK(open.added == 0);
    // A corner on the outer side goes along a circle about the joint.
    CHECK(open.gap == Approx(2 * radius * std::sin(angle / 2)).epsilon(1e-6));
    CHECK(open.gapIn == "bend");
    CHECK(open.gapAt == "upper");
    CHECK(motion::rigidSegments(model, {true, 1}, progress).gap < 1e-6);
    // Rounded to 60 % of a quarter: the flat end lies at cos(36°) of the radius.
    const auto most = motion::rigidSegments(model, {true, 0.6}, progress);
    CHECK(most.gap == Approx(radius * (1 - std::cos(shapes::pi / 2 * 0.4))).epsilon(0.02));
}

TEST_CASE("A rounded end lies on a ball about its joint, and closes") {
    const Model model = hose(1);
    const Progress progress;
    const auto taken = motion::rigidSegments(model, {true, 0.8}, progress);
    CHECK(keepsPromises(taken.model));
    std::size_t below = 0;
    for (const int n : shownNodes(taken.model)) {
        const Node& node = taken.model.nodes[std::size_t(n)];
        if (node.name != "upper segment") continue;
        CHECK(node.parent == 2);
        CHECK(node.skin < 0);
        for (const glm::vec3& p : taken.model.meshes[std::size_t(node.mesh)]->positions)
            if (p.y < -1e-4) {
                ++below;
                CHECK(glm::length(p) <= radius + 1e-5);
            }
    }
    CHECK(below >= 2 * sides);
    CHECK(taken.model.skins.empty());
}

TEST_CASE("Segments are seen at rest where the skin was, whatever the rig") {
    std::mt19937 random(20);
    std::uniform_real_distribution<float> any(-1, 1);
    for (int round = 0; round < 12; ++round) {
        Model model = shapes::modelOf(shapes::sphere(10, 8), "body");
        for (int n = 1; n <= 4; ++n) {
            glm::dmat4 local =
                glm::translate(glm::dmat4(1), glm::dvec3(any(random), any(random), any(random)));
            local *= glm::mat4_cast(glm::normalize(glm::dquat(1, any(random), any(random), any(random))));
            if (round % 3 == 1) local = glm::scale(local, glm::dvec3(0.7));
            if (round % 3 == 2 && n == 2) local = glm::scale(local, glm::dvec3(-1, 1, 1));
            model.nodes.push_back({"bone" + std::to_string(n), n == 1 ? -1 : n - 1, local});
        }
        Skin skin{"rig", {1, 2, 3, 4}, {}, 1};
        const auto world = worldMatrices(model);
        for (const int joint : skin.joints)
            skin.inverseBind.emplace_back(glm::inverse(world[std::size_t(joint)]));
        model.skins.push_back(skin);
        model.nodes[0].skin = 0;
        Mesh mesh = *model.meshes[0];
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
            mesh.joints.emplace_back(0, 1, 2, 3);
            const glm::vec4 w(std::abs(any(random)), std::abs(any(random)), std::abs(any(random)),
                              std::abs(any(random)));
            mesh.weights.push_back(w / (w.x + w.y + w.z + w.w));
        }
        model.meshes[0] = std::make_shared<const Mesh>(mesh);
        const Progress progress;
        const auto taken = motion::rigidSegments(model, {false, 0}, progress);
        CHECK(keepsPromises(taken.model));
        CHECK(triangleCount(taken.model) == triangleCount(model));
        // Every corner is where it was; bounds, area and volume are the same then.
        const Mesh before = geometry::flattened(model), after = geometry::flattened(taken.model);
        double far = 0;
        for (const glm::vec3& p : after.positions) {
            double nearest = 1e9;
            for (const glm::vec3& q : before.positions)
                nearest = std::min(nearest, double(glm::length(p - q)));
            far = std::max(far, nearest);
        }
        CHECK(far < 2e-5);
    }
}

TEST_CASE("The step says what was cut, and leaves alone what has no bones") {
    const auto ran = ranStep(hose(0.5), "rigid-segments", nlohmann::json::object());
    CHECK(ran.facts["segments"] == 2);
    CHECK(ran.notes[0].starts_with("2 stiff parts, cut at 1 place; "));
    CHECK(ran.notes.back() == "the bones are nodes that carry a part each, and no skin");
    const auto bare = ranStep(shapes::box({0, 0, 0}, {1, 1, 1}), "rigid-segments", nlohmann::json::object());
    CHECK(bare.notes == std::vector<std::string>{"nothing hangs on bones"});
}

TEST_CASE("One bone a segment: broken by a hose, kept by its segments") {
    const Model model = hose(0.5);
    const auto broken = ruleResult(model, "id = \"one-bone-a-segment\"");
    CHECK(broken.state == platform::State::Broken);
    // The row below the middle and the one above it have corners on both.
    CHECK(broken.finding.faces.size() >= std::size_t(2 * sides));
    const auto ran = ranStep(model, "rigid-segments", nlohmann::json::object());
    CHECK(ruleResult(ran.model, "id = \"one-bone-a-segment\"").state == platform::State::Fits);
}

TEST_CASE("Corners that hang on nothing stay with their node, and weights of nonsense harm nobody") {
    Model model = hose(0.5);
    Mesh mesh = *model.meshes[0];
    for (auto& weights : mesh.weights) weights = glm::vec4(0);
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    const Progress progress;
    const auto taken = motion::rigidSegments(model, {true, 0.8}, progress);
    CHECK(triangleCount(taken.model) == triangleCount(model));
    CHECK(taken.gap == 0);
    for (auto& joints : mesh.joints) joints = {9, 60000, 0, 0};
    for (auto& weights : mesh.weights) weights = glm::vec4(0.5, 0.5, 0, 0);
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    CHECK(triangleCount(motion::rigidSegments(model, {true, 0.8}, progress).model) == triangleCount(model));
}
