// Poses of clips, and bones, clips and morph targets on their way through COLLADA.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/motion/pose.h"
#include "standins/world/collada_file.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

#include <assimp/Importer.hpp>
#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <set>

using namespace zl;
using Target = Channel::Target;
using Curve = Channel::Curve;

namespace {

/// An arm of two bones with a hand: bends at the elbow, slides at the shoulder.
Model arm() {
    Model model = shapes::box({-0.1, 0, -0.1}, {0.1, 2, 0.1});
    model.nodes[0].name = "sleeve";
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    for (const glm::vec3& p : mesh->positions) {
        mesh->joints.emplace_back(0, 1, 0, 0);
        mesh->weights.push_back(p.y > 1 ? glm::vec4(0.25f, 0.75f, 0, 0) : glm::vec4(1, 0, 0, 0));
    }
    mesh->runs = {{0, 4, 0}, {4, std::uint32_t(mesh->triangleCount() - 4), 1}};
    model.meshes[0] = mesh;
    model.materials = {{.name = "cuff"}, {.name = "cloth"}};
    model.nodes.push_back({"shoulder", -1, glm::translate(glm::dmat4(1.0), {0.0, 0.25, 0.0})});
    model.nodes.push_back({"elbow", 1, glm::translate(glm::dmat4(1.0), {0.0, 1.0, 0.0})});
    model.nodes.push_back({"hand", 2, glm::translate(glm::dmat4(1.0), {0.0, 0.75, 0.0})});
    model.nodes[0].skin = 0;
    Skin skin{"arm", {1, 2, 3}, {}, 1};
    const auto world = worldMatrices(model);
    for (const int joint : skin.joints) skin.inverseBind.emplace_back(glm::inverse(world[joint]));
    model.skins.push_back(skin);
    const float half = std::sqrt(0.5f);
    model.clips.push_back(std::make_shared<const Clip>(
        Clip{"bend", {{2, Target::Rotation, Curve::Linear, {0, 1}, {0, 0, 0, 1, 0, 0, half, half}}}}));
    model.clips.push_back(std::make_shared<const Clip>(
        Clip{"slide",
             {{1, Target::Translation, Curve::Linear, {0, 0.5f, 2}, {0, 0.25f, 0, 1, 0.25f, 0, 1, 3, 0}},
              {3, Target::Scale, Curve::Step, {0, 1}, {1, 1, 1, 2, 2, 2}}}}));
    return model;
}

/// The box around all skinned corners at a time into a clip.
geometry::Bounds posed(const Model& model, const Clip& clip, double seconds) {
    Model at = model;
    for (std::size_t n = 0; n < at.nodes.size(); ++n)
        at.nodes[n].local = motion::localAt(model, clip, int(n), seconds);
    const auto world = worldMatrices(at);
    geometry::Bounds bounds;
    for (const Node& node : at.nodes) {
        if (node.mesh < 0 || node.skin < 0) continue;
        const Mesh& mesh = *at.meshes[node.mesh];
        const Skin& skin = at.skins[node.skin];
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
            glm::dvec4 sum(0);
            for (int k = 0; k < 4; ++k) {
                const auto joint = mesh.joints[v][k];
                sum += double(mesh.weights[v][k]) *
                       (world[skin.joints[joint]] * glm::dmat4(skin.inverseBind[joint]) *
                        glm::dvec4(mesh.positions[v], 1));
            }
            bounds.add(glm::dvec3(sum));
        }
    }
    return bounds;
}

void checkSame(const geometry::Bounds& a, const geometry::Bounds& b) {
    CHECK(glm::length(a.min - b.min) < 2e-5);
    CHECK(glm::length(a.max - b.max) < 2e-5);
}

Model throughFile(const TemporaryFolder& folder, const Model& model, const formats::WriteOptions& options,
                  const std::string& extension, std::vector<std::string>* dropped = nullptr) {
    const auto name = options.name + "." + extension;
    writeAllOrNone(folder.path(), formats::formatToWrite(name).write(model, options, dropped));
    return formats::readModel(folder / name);
}

const Clip& clipNamed(const Model& model, const std::string& name) {
    const auto found =
        std::ranges::find_if(model.clips, [&](const auto& clip) { return clip->name == name; });
    REQUIRE(found != model.clips.end());
    return **found;
}

} // namespace

TEST_CASE("a straight channel is halfway at half the time, and holds its ends") {
    const Channel channel{0, Target::Translation, Curve::Linear, {1, 3}, {0, 0, 0, 4, -2, 8}};
    CHECK(motion::valueAt(channel, 2) == std::vector<double>{2, -1, 4});
    CHECK(motion::valueAt(channel, 1.5) == std::vector<double>{1, -0.5, 2});
    CHECK(motion::valueAt(channel, 0) == std::vector<double>{0, 0, 0});
    CHECK(motion::valueAt(channel, 3) == std::vector<double>{4, -2, 8});
    CHECK(motion::valueAt(channel, 99) == std::vector<double>{4, -2, 8});
}

TEST_CASE("a turn goes evenly along the arc, the short way round") {
    // A quarter turn about Y: after a third of the time it is 30 degrees, whose half has sine 0.258819.
    const float half = std::sqrt(0.5f);
    Channel channel{0, Target::Rotation, Curve::Linear, {0, 3}, {0, 0, 0, 1, 0, half, 0, half}};
    auto v = motion::valueAt(channel, 1);
    CHECK(v[1] == Approx(0.2588190451).epsilon(1e-6));
    CHECK(v[3] == Approx(0.9659258263).epsilon(1e-6));
    for (int k = 4; k < 8; ++k)
        channel.values[k] = -channel.values[k]; // the same turn, written the other way
    v = motion::valueAt(channel, 1);
    CHECK(std::abs(v[1]) == Approx(0.2588190451).epsilon(1e-6));
    CHECK(std::abs(v[3]) == Approx(0.9659258263).epsilon(1e-6));
}

TEST_CASE("a step holds until the next key") {
    const Channel channel{0, Target::Scale, Curve::Step, {0, 2}, {1, 1, 1, 5, 6, 7}};
    CHECK(motion::valueAt(channel, 1.999) == std::vector<double>{1, 1, 1});
    CHECK(motion::valueAt(channel, 2) == std::vector<double>{5, 6, 7});
}

TEST_CASE("a spline is the cubic that its values and tangents describe") {
    // (s/2)³ over two seconds: 0 and 1 at the ends, slopes 0 and 3/2.
    const Channel channel{0,
                          Target::Translation,
                          Curve::CubicSpline,
                          {0, 2},
                          {9, 9, 9, 0, 0, 0, 0, 0, 0, 1.5f, 1.5f, 1.5f, 1, 1, 1, 9, 9, 9}};
    for (const double s : {0.25, 0.5, 1.0, 1.75}) {
        const auto v = motion::valueAt(channel, s);
        CHECK(v[0] == Approx(s * s * s / 8).margin(1e-9));
        CHECK(v[2] == Approx(s * s * s / 8).margin(1e-9));
    }
    CHECK(motion::valueAt(channel, -1)[1] == 0);
    CHECK(motion::valueAt(channel, 5)[1] == 1);
}

TEST_CASE("weights have one value for each morph target; a channel without keys has none") {
    const Channel weights{0, Target::Weights, Curve::Linear, {0, 1}, {0, 1, 0, 1, 0, 0.5f}};
    CHECK(motion::valueAt(weights, 0.5) == std::vector<double>{0.5, 0.5, 0.25});
    CHECK(motion::valueAt({0, Target::Scale, Curve::Linear, {}, {}}, 1).empty());
    CHECK(motion::valueAt({0, Target::Rotation, Curve::Linear, {0}, {0, 0, 1}}, 0).empty()); // not four
}

TEST_CASE("what a clip leaves alone stays as at rest, a mirrored rest too") {
    Model model = arm();
    const glm::dmat4 rest = glm::scale(
        glm::rotate(glm::translate(glm::dmat4(1.0), {1.0, 2.0, 3.0}), 0.7, glm::dvec3(0.6, 0.0, 0.8)),
        {-2.0, 3.0, 0.5});
    model.nodes[1].local = rest;
    const Clip lift{"lift", {{1, Target::Translation, Curve::Linear, {0, 1}, {1, 2, 3, 5, 6, 7}}}};
    const glm::dmat4 start = motion::localAt(model, lift, 1, 0), end = motion::localAt(model, lift, 1, 1);
    for (int c = 0; c < 4; ++c)
        for (int r = 0; r < 3; ++r) {
            CHECK(start[c][r] == Approx(rest[c][r]).margin(1e-9));
            CHECK(end[c][r] == Approx(rest[c][r] + (c == 3 ? 4 : 0)).margin(1e-9));
        }
    CHECK(motion::localAt(model, lift, 2, 0.5) == model.nodes[2].local);
}

TEST_CASE("pose times: keys once, splines in between, steps from both sides") {
    const Model model = arm();
    CHECK(motion::poseTimes(*model.clips[0], 2) == std::vector<double>{0, 1});
    CHECK(motion::poseTimes(*model.clips[0], 1).empty());
    const auto stepped = motion::poseTimes(*model.clips[1], 3);
    REQUIRE(stepped.size() == 3);
    CHECK(stepped[1] == Approx(0.9999));
    const Clip spline{"s", {{0, Target::Scale, Curve::CubicSpline, {0, 1}, std::vector<float>(18, 1.0f)}}};
    const auto times = motion::poseTimes(spline, 0, 9);
    REQUIRE(times.size() == 11);
    CHECK(times[1] == Approx(0.1));
}

TEST_CASE("COLLADA carries bones, weights and clips, in any unit and up axis") {
    TemporaryFolder folder;
    const Model model = arm();
    const auto [metres, up] = GENERATE(table<double, Up>({{1.0, Up::Y}, {0.1, Up::Y}, {0.01, Up::Z}}));
    std::vector<std::string> dropped;
    const Model back =
        throughFile(folder, model, {.name = "arm", .metresPerUnit = metres, .up = up}, "dae", &dropped);
    CHECK(dropped.empty());
    REQUIRE(back.skins.size() == 1);
    CHECK(back.skins[0].joints.size() == 3); // the hand weighs nothing and still belongs to the rig
    std::set<std::string> bones;
    for (const int joint : back.skins[0].joints) bones.insert(back.nodes[joint].name);
    CHECK(bones == std::set<std::string>{"elbow", "hand", "shoulder"});
    CHECK(usedMaterials(back).size() == 2);
    REQUIRE(back.clips.size() == 2);
    for (const char* name : {"bend", "slide"})
        for (const double t : {0.0, 0.25, 0.5, 1.0, 1.5, 2.0}) {
            INFO(name << " at " << t);
            // Poses are keyed: halfway through a quarter turn a reader that turns evenly is right as well.
            checkSame(posed(model, clipNamed(model, name), t), posed(back, clipNamed(back, name), t));
        }
}

TEST_CASE("COLLADA bones and clips are read alike by a reader that is not ours") {
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), formats::formatToWrite("arm.dae").write(arm(), {.name = "arm"}, nullptr));
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile((folder / "arm.dae").string(), aiProcess_ValidateDataStructure);
    INFO(importer.GetErrorString());
    REQUIRE(scene);
    REQUIRE(scene->mNumAnimations == 2);
    unsigned weights = 0;
    for (unsigned m = 0; m < scene->mNumMeshes; ++m)
        for (unsigned b = 0; b < scene->mMeshes[m]->mNumBones; ++b)
            for (unsigned w = 0; w < scene->mMeshes[m]->mBones[b]->mNumWeights; ++w)
                weights += scene->mMeshes[m]->mBones[b]->mWeights[w].mWeight == 0.75f;
    CHECK(weights > 0);
    const auto isBend = [&](const aiAnimation* clip) {
        return std::string_view(clip->mName.C_Str()).ends_with("bend"); // that reader puts names before names
    };
    const aiAnimation* bend = scene->mAnimations[isBend(scene->mAnimations[0]) ? 0 : 1];
    REQUIRE(isBend(bend));
    REQUIRE(bend->mNumChannels == 1);
    const aiQuaternion last =
        bend->mChannels[0]->mRotationKeys[bend->mChannels[0]->mNumRotationKeys - 1].mValue;
    CHECK(std::abs(last.z) == Approx(std::sqrt(0.5)).epsilon(1e-4));
}

TEST_CASE("the yard sees a truck that hangs on bones as it was bound") {
    const auto files = formats::formatToWrite("arm.dae").write(arm(), {.name = "arm"}, nullptr);
    const auto read = standins::world::readColladaFile(files[0].bytes);
    CHECK(read.problem.empty());
    REQUIRE(read.parts.size() == 1);
    CHECK(read.parts[0].name == "sleeve");
    CHECK(read.parts[0].shape.indices.size() == 36);
    CHECK(read.transformed == std::vector<std::string>{"shoulder", "elbow", "hand"}); // bones are not baked
}

TEST_CASE("COLLADA says that it leaves morph targets out, and keeps shape and clips") {
    TemporaryFolder folder;
    Model model = arm();
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->morphs.push_back({"wink", std::vector<glm::vec3>(mesh->vertexCount(), {0, 0.1f, 0}), {}});
    model.meshes[0] = mesh;
    Clip winks{"winks", {{0, Target::Weights, Curve::Linear, {0, 1}, {0, 1}}}};
    model.clips.push_back(std::make_shared<const Clip>(winks));
    std::vector<std::string> dropped;
    const Model back = throughFile(folder, model, {.name = "arm"}, "dae", &dropped);
    CHECK(dropped == std::vector<std::string>{"morph targets", "keys of morph weights"});
    CHECK(triangleCount(back) == triangleCount(model));
    CHECK(back.clips.size() == 2);
}
