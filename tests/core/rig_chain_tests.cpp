// Bones, clips and morph targets along chains: what each format is said to do to them, and what it does.
#include "core/chain/chain.h"
#include "core/chain/facts.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "support/rich_model.h"
#include "support/temporary_folder.h"

#include <assimp/Importer.hpp>
#include <assimp/scene.h>
#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;
using chain::Fate;
using formats::Aspect;

namespace {

/// A flag on two bones that waves, with a morph target where `morphs` says so.
Model flag(bool morphs) {
    Model model = shapes::modelOf(shapes::sphere(10, 8), "flag");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->joints.assign(mesh->vertexCount(), glm::u16vec4(0, 1, 0, 0));
    mesh->weights.assign(mesh->vertexCount(), glm::vec4(0.5f, 0.5f, 0, 0));
    if (morphs) mesh->morphs.push_back({"furled", mesh->positions, {}});
    mesh->runs = {{0, std::uint32_t(mesh->triangleCount()), 0}};
    model.meshes[0] = mesh;
    model.materials = {{.name = "sailcloth"}};
    model.nodes.push_back({"pole", -1, glm::dmat4(1.0)});
    model.nodes.push_back({"tip", 1, glm::translate(glm::dmat4(1.0), {0.0, 1.0, 0.0})});
    model.nodes[0].skin = 0;
    model.skins = {{"flag", {1, 2}, {glm::mat4(1), glm::translate(glm::mat4(1), {0, -1, 0})}, 1}};
    for (const char* name : {"wave", "rest"})
        model.clips.push_back(std::make_shared<const Clip>(
            Clip{name,
                 {{2, Channel::Target::Translation, Channel::Curve::Linear, {0, 1}, {0, 1, 0, 0.5f, 1, 0}},
                  {1, Channel::Target::Scale, Channel::Curve::Linear, {0, 1}, {1, 1, 1, 1, 2, 1}}}}));
    return model;
}

chain::Result through(const Model& model, const char* formats, const TemporaryFolder& folder) {
    return chain::run(model, chain::planned(chain::legsFrom(formats), nullptr, "flag"), folder.path());
}

Fate expected(const chain::Result& result, std::size_t leg, Aspect aspect) {
    return result.legs.at(leg).keeps.at(aspect).fate;
}
Fate measured(const chain::Result& result, std::size_t leg, Aspect aspect) {
    return result.legs.at(leg).measured.at(aspect).fate;
}

} // namespace

TEST_CASE("what a format is said to do to bones, clips and morphs is what it does") {
    TemporaryFolder folder;
    const auto [format, rig, morphs] =
        GENERATE(table<const char*, Fate, Fate>({{"glb", Fate::Kept, Fate::Kept},
                                                 {"dae", Fate::Kept, Fate::Lost},
                                                 {"obj", Fate::Lost, Fate::Lost},
                                                 {"stl", Fate::Lost, Fate::Lost},
                                                 {"ply", Fate::Lost, Fate::Lost},
                                                 {"x3d", Fate::Lost, Fate::Lost},
                                                 {"3mf", Fate::Lost, Fate::Lost},
                                                 {"level", Fate::Lost, Fate::Lost}}));
    INFO(format);
    const auto result = through(flag(true), format, folder);
    for (const Aspect aspect : {Aspect::Bones, Aspect::Clips, Aspect::Morphs}) {
        INFO(formats::aspectId(aspect) << ": " << result.legs[0].measured.at(aspect).words);
        const Fate wanted = aspect == Aspect::Morphs ? morphs : rig;
        CHECK(expected(result, 0, aspect) == wanted);
        CHECK(measured(result, 0, aspect) == wanted);
    }
}

TEST_CASE("a rig goes from GLB through COLLADA, and no further than level text") {
    TemporaryFolder folder;
    const auto result = through(flag(false), "glb,dae,level", folder);
    REQUIRE(result.legs.size() == 3);
    for (const Aspect aspect : {Aspect::Bones, Aspect::Clips}) {
        CHECK(measured(result, 0, aspect) == Fate::Kept);
        CHECK(measured(result, 1, aspect) == Fate::Kept);
        CHECK(expected(result, 2, aspect) == Fate::Lost);
        CHECK(measured(result, 2, aspect) == Fate::Lost);
        CHECK_FALSE(result.legs[2].measured.at(aspect).words.empty()); // how many
    }
    CHECK(measured(result, 0, Aspect::Morphs) == Fate::None); // there are none to lose
}

TEST_CASE("facts compare by name: one bone less, a clip under another name, a morph too many") {
    const chain::Facts before = chain::factsOf(flag(true));
    CHECK(before.bones == std::vector<std::string>{"pole", "tip"});
    CHECK(before.clips == std::vector<std::string>{"rest", "wave"});
    CHECK(before.morphs == std::vector<std::string>{"furled"});
    chain::Facts after = before;
    after.bones.pop_back();
    after.clips[1] = "flutter";
    after.morphs.emplace_back("torn");
    const auto verdicts = chain::compared(before, after);
    CHECK(verdicts.at(Aspect::Bones).fate == Fate::Changed);
    CHECK(verdicts.at(Aspect::Bones).words.find("1 of 2") != std::string::npos);
    CHECK(verdicts.at(Aspect::Clips).words.find("flutter") != std::string::npos);
    CHECK(verdicts.at(Aspect::Morphs).fate == Fate::Changed);
    CHECK(verdicts.at(Aspect::Names).fate == Fate::Kept);
}

TEST_CASE("corners that differently placed pictures share hang on their bones in every copy") {
    Model model = richModel();
    Mesh mesh = *model.meshes[0];
    mesh.uvSets.assign(1, {});
    for (const glm::vec3& p : mesh.positions) mesh.uvSets[0].emplace_back(p.x, p.y);
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    model.materials[1].wear(PictureRole::Colour, {.image = 0});
    model.materials[1].picture(PictureRole::Colour).placement.offset = {0.5f, 0.25f};
    REQUIRE(geometry::withPlacedUvs(mesh, model.materials).vertexCount() > mesh.vertexCount());
    const TemporaryFolder folder;
    for (const auto& [write, name] :
         {std::pair(&formats::writeCollada, "bell.dae"), {&formats::writeGlb, "bell.glb"}}) {
        INFO(name);
        writeAllOrNone(folder.path(), write(model, {"bell"}, nullptr));
        // Read by the library itself: ours reads in a process of its own.
        Assimp::Importer importer;
        const aiScene* scene = importer.ReadFile((folder / name).string(), 0);
        REQUIRE(scene);
        for (unsigned m = 0; m < scene->mNumMeshes; ++m) {
            const aiMesh& own = *scene->mMeshes[m];
            std::vector<double> sum(own.mNumVertices, 0);
            for (unsigned b = 0; b < own.mNumBones; ++b)
                for (unsigned w = 0; w < own.mBones[b]->mNumWeights; ++w) {
                    REQUIRE(own.mBones[b]->mWeights[w].mVertexId < own.mNumVertices);
                    sum[own.mBones[b]->mWeights[w].mVertexId] += double(own.mBones[b]->mWeights[w].mWeight);
                }
            for (const double all : sum) CHECK(all == Approx(1));
        }
    }
}
