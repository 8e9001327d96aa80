// Chains: what each format keeps, as expected and as measured, and what is put back.
#include "core/base/archive.h"
#include "core/base/error.h"
#include "core/chain/chain.h"
#include "core/chain/facts.h"
#include "core/chain/put_back.h"
#include "core/geometry/world.h"
#include "core/texture/picture_file.h"
#include "support/random_tree.h"
#include "support/temporary_folder.h"

#include <assimp/Importer.hpp>
#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <catch2/catch.hpp>

using namespace zl;
using chain::Fate;
using formats::Aspect;

namespace {

/// Two objects in a group, two materials, one with a picture and a UV placement, normals.
Model stall() {
    Model model = shapes::randomTree(1, 4, true);
    model.name = "stall";
    model.nodes = {
        {"stall", -1, glm::translate(glm::dmat4(1.0), {0.3, 0.0, 0.0})},
        {"counter", 0, glm::dmat4(1.0), 0},
        {"awning", 0, glm::scale(glm::translate(glm::dmat4(1.0), {0.0, 1.5, 0.2}), glm::dvec3(2.0)), 1}};
    model.materials = {{.name = "pine", .baseColour = {1, 1, 1, 1}},
                       {.name = "sailcloth", .baseColour = {0.8f, 0.2f, 0.1f, 1}}};
    model.images = {texture::pictureFromBytes(
        "pine.png", texture::encodePng({4, 4, std::vector<std::uint8_t>(64, 180)}))};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    for (int m = 0; m < 2; ++m) {
        auto mesh = std::make_shared<Mesh>(*model.meshes[m]);
        mesh->name = model.nodes[m + 1].name;
        mesh->runs = {{0, std::uint32_t(mesh->triangleCount()), m}};
        model.meshes[m] = mesh;
    }
    return model;
}

chain::Result through(const Model& model, const std::string& formats, const TemporaryFolder& folder,
                      const platform::Sheet* sheet = nullptr) {
    return chain::run(model, chain::planned(chain::legsFrom(formats), sheet, "stall"), folder.path());
}

Fate measured(const chain::Result& result, std::size_t leg, Aspect aspect) {
    return result.legs.at(leg).measured.at(aspect).fate;
}

} // namespace

TEST_CASE("every written format does what its table says, and nothing changes silently") {
    TemporaryFolder folder;
    const std::string format = GENERATE("obj", "stl", "ply", "glb", "dae", "x3d", "3mf", "level");
    const Model model = stall();
    const auto result = through(model, format, folder);
    REQUIRE(result.legs.size() == 1);
    for (const Aspect aspect : formats::allAspects()) {
        const Fate expected = result.legs[0].keeps.at(aspect).fate,
                   found = result.legs[0].measured.at(aspect).fate;
        INFO(format << ", " << formats::aspectId(aspect) << ": expected " << chain::fateId(expected)
                    << ", measured " << chain::fateId(found) << " ("
                    << result.legs[0].measured.at(aspect).words << ")");
        // What is promised is kept; what is announced as lost or changed may be put back, never kept by
        // chance only.
        if (expected == Fate::None || expected == Fate::Kept)
            CHECK((found == expected || found == Fate::PutBack));
        if (found == Fate::Lost) CHECK(expected == Fate::Lost);
        if (found == Fate::Changed) CHECK((expected == Fate::Changed || expected == Fate::Lost));
    }
    CHECK(triangleCount(result.model) == triangleCount(model));
    const auto before = geometry::worldBounds(model), after = geometry::worldBounds(result.model);
    CHECK(glm::length(before.centre() - after.centre()) < 1e-4);
    CHECK(glm::length(before.size() - after.size()) < 1e-4);
}

TEST_CASE("STL melts two objects into one; objects, names and materials are put back") {
    TemporaryFolder folder;
    const Model model = stall();
    const auto result = through(model, "stl,glb", folder);
    CHECK(measured(result, 0, Aspect::Objects) == Fate::PutBack);
    CHECK(measured(result, 0, Aspect::Names) == Fate::PutBack);
    CHECK(measured(result, 0, Aspect::Materials) == Fate::PutBack);
    CHECK(measured(result, 0, Aspect::Pictures) == Fate::PutBack);
    CHECK(measured(result, 0, Aspect::Scale) == Fate::PutBack);
    CHECK(measured(result, 0, Aspect::Uvs) == Fate::Lost);
    CHECK(measured(result, 0, Aspect::Hierarchy) == Fate::Lost);
    CHECK(measured(result, 1, Aspect::Names) == Fate::Kept);
    REQUIRE(objectCount(result.model) == 2);
    CHECK(result.model.nodes[0].name == "counter");
    CHECK(result.model.materials[result.model.meshes[result.model.nodes[1].mesh]->runs[0].material].name ==
          "sailcloth");
}

TEST_CASE("UV placement is a setting in GLB and goes into the UVs elsewhere") {
    TemporaryFolder folder;
    Model model = stall();
    model.materials[0].picture(PictureRole::Colour).placement = {{0.25f, 0.5f}, {2, 3}, 0.7f};
    auto result = through(model, "glb", folder);
    CHECK(measured(result, 0, Aspect::UvPlacement) == Fate::Kept);
    CHECK(measured(result, 0, Aspect::Uvs) == Fate::Kept);
    CHECK(result.model.materials[0].picture(PictureRole::Colour).placement.turn == Approx(0.7f));
    for (const char* format : {"obj", "dae", "level"}) {
        INFO(format);
        result = through(model, format, folder);
        CHECK(result.legs[0].keeps.at(Aspect::UvPlacement).fate == Fate::Lost);
        CHECK(measured(result, 0, Aspect::UvPlacement) == Fate::PutBack);
        CHECK(result.legs[0].measured.at(Aspect::UvPlacement).words.find("in the UVs now") == 0);
    }
}

TEST_CASE("a hidden factor is seen and said") {
    TemporaryFolder folder;
    const auto meadow = platform::sheetNamed(platform::loadSheets(), "playmeadow");
    const auto result =
        through(stall(), "obj", folder, meadow.get()); // written in quarters of a metre, read as metres
    CHECK(measured(result, 0, Aspect::Scale) == Fate::PutBack);
    CHECK(result.legs[0].measured.at(Aspect::Scale).words.find("4 times as large") == 0);
}

TEST_CASE("verdicts see what is different") {
    const Model model = stall();
    const auto facts = chain::factsOf(model);
    const auto after = [&](const std::function<void(Model&)>& change) {
        Model other = model;
        change(other);
        return chain::compared(facts, chain::factsOf(other));
    };
    CHECK(after([](Model&) {}).at(Aspect::Scale).fate == Fate::Kept);
    CHECK(after([](Model& m) { m = moved(m, glm::scale(glm::dmat4(1.0), glm::dvec3(100))); })
              .at(Aspect::Scale)
              .words == "100 times as large");
    CHECK(after([](Model& m) {
              m = moved(m, glm::rotate(glm::dmat4(1.0), glm::radians(90.0), {1, 0, 0}));
          })
              .at(Aspect::Up)
              .fate == Fate::Lost);
    CHECK(after([](Model& m) {
              m = moved(m, glm::rotate(glm::dmat4(1.0), glm::radians(180.0), {1, 0, 0}));
          })
              .at(Aspect::Up)
              .fate == Fate::Lost);
    CHECK(after([](Model& m) { m.nodes[2].name = "canopy"; }).at(Aspect::Names).words ==
          "\"awning\" is \"canopy\"");
    CHECK(after([](Model& m) { m.nodes[2].parent = 1; }).at(Aspect::Hierarchy).fate == Fate::Changed);
    CHECK(after([](Model& m) { m.materials[1].name = "linen"; }).at(Aspect::Materials).fate == Fate::Changed);
    CHECK(after([](Model& m) { m.materials[0].picture(PictureRole::Colour).image = -1; })
              .at(Aspect::Pictures)
              .fate == Fate::Lost);
    const auto bare = after([](Model& m) {
        for (auto& mesh : m.meshes) {
            auto copy = std::make_shared<Mesh>(*mesh);
            copy->uvSets.clear();
            for (glm::vec3& n : copy->normals) n = -n;
            mesh = copy;
        }
    });
    CHECK(bare.at(Aspect::Uvs).fate == Fate::Lost);
    CHECK(bare.at(Aspect::Normals).fate == Fate::Changed);
    CHECK(bare.at(Aspect::Clips).fate == Fate::None);
}

TEST_CASE("what cannot be told for sure is left as it came") {
    const Model model = stall();
    Model came = shapes::modelOf(shapes::sphere(9, 7), "melted"); // other triangles altogether
    came.frame = {unitNamed("m"), Up::Y, true, true};
    const Model same = chain::putBack(model, came, {unitNamed("cm"), Up::Y});
    CHECK(objectCount(same) == 1);
    CHECK(same.nodes[0].name == "melted");
    CHECK(same.frame.unit.id == "cm"); // but how it was written is known
}

TEST_CASE("objects are told apart again by their triangles, and not when one of these has moved") {
    const Model model = stall();
    Mesh melted = geometry::flattened(model);
    const auto back = [&] {
        Model came = shapes::modelOf(melted, "melted");
        came.materials = model.materials, came.images = model.images;
        return chain::putBack(model, came, {unitNamed("m"), Up::Y});
    };
    CHECK(objectCount(back()) == 2);
    // One corner of one triangle, and of no other.
    const std::size_t corner = 3 * (melted.triangleCount() / 2) + GENERATE(0, 1, 2);
    melted.positions.push_back(melted.positions[melted.indices[corner]] + glm::vec3(5));
    if (!melted.normals.empty()) melted.normals.push_back({0, 1, 0});
    for (auto& set : melted.uvSets) set.push_back({0, 0});
    melted.indices[corner] = std::uint32_t(melted.positions.size() - 1);
    CHECK(objectCount(back()) == 1);
}

TEST_CASE("the area of UVs is measured in the picture's plane") {
    Mesh mesh;
    mesh.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
    mesh.uvSets = {{{0.25f, 0.25f}, {0.75f, 0.25f}, {0.25f, 1}}};
    mesh.indices = {0, 1, 2};
    mesh.runs = {{0, 1, -1}};
    CHECK(chain::factsOf(shapes::modelOf(mesh)).uvArea == Approx(0.5 * 0.75)); // of the parallelogram
}

TEST_CASE("chains with unknown formats or nothing in them are refused") {
    CHECK_THROWS_AS(chain::planned(chain::legsFrom("glb,papier"), nullptr, "x"), Error);
    CHECK_THROWS_AS(chain::planned(chain::legsFrom("fbx"), nullptr, "x"), Error); // read, not written
    CHECK_THROWS_AS(chain::legsFrom(" , "), Error);
    CHECK_THROWS_AS(chain::planned({{.format = "obj", .loses = {"colour-of-money"}}}, nullptr, "x"), Error);
}

TEST_CASE("COLLADA, X3D and 3MF are read alike by a reader that is not ours") {
    TemporaryFolder folder;
    const Model model = stall();
    const auto [format, metres] =
        GENERATE(table<std::string, double>({{"dae", 0.1}, {"x3d", 1.0}, {"3mf", 0.01}}));
    const auto files = formats::formatWithId(format)->write(model, {"stall", metres, Up::Y}, nullptr);
    writeAllOrNone(folder.path(), files);
    Assimp::Importer importer;
    importer.SetPropertyBool(AI_CONFIG_IMPORT_COLLADA_USE_COLLADA_NAMES, true);
    std::string text = readText(folder / files[0].name);
    if (format == "x3d") // that reader fails on quoted addresses
        for (std::size_t at; (at = text.find("&quot;")) != std::string::npos;) text.erase(at, 6);
    const aiScene* scene =
        importer.ReadFileFromMemory(text.data(), text.size(), aiProcess_PreTransformVertices, format.c_str());
    INFO(importer.GetErrorString());
    REQUIRE(scene);
    unsigned faces = 0;
    geometry::Bounds bounds;
    for (unsigned m = 0; m < scene->mNumMeshes; ++m) {
        faces += scene->mMeshes[m]->mNumFaces;
        for (unsigned i = 0; i < scene->mMeshes[m]->mNumVertices; ++i) {
            const auto& v = scene->mMeshes[m]->mVertices[i];
            bounds.add(glm::dvec3(v.x, v.y, v.z));
        }
    }
    CHECK(faces == triangleCount(model));
    const double unit = format == "3mf" ? metres : 1; // the others are read in metres
    CHECK(glm::length(bounds.size()) * unit ==
          Approx(glm::length(geometry::worldBounds(model).size())).epsilon(1e-4));
    if (format == "dae") {
        CHECK(text.find("meter=\"0.1\"") != std::string::npos);
        CHECK(text.find("name=\"awning\"") != std::string::npos);
    }
}

TEST_CASE("10 000 nested nodes go through every format that keeps a tree, and every one that does not") {
    TemporaryFolder folder;
    Model deep = shapes::box({0, 0, 0}, {1, 1, 1});
    deep.nodes.clear();
    for (int i = 0; i < 10000; ++i)
        deep.nodes.push_back({"n" + std::to_string(i), i - 1,
                              glm::translate(glm::dmat4(1.0), {0.001, 0.0, 0.0}), i == 9999 ? 0 : -1});
    const std::string format = GENERATE("glb", "dae", "x3d", "3mf", "obj", "level");
    INFO(format);
    const auto result = through(deep, format, folder);
    CHECK(geometry::worldBounds(result.model).min.x == Approx(10).epsilon(1e-4));
    CHECK(std::filesystem::file_size(result.legs[0].file) < 20u << 20);
}

TEST_CASE("level text with faults is refused with its line") {
    TemporaryFolder folder;
    const std::string head = "lampwright-level 1\nunit 1\naxes Z +X\n";
    const auto refused = [&](const std::string& text, const std::string& place) {
        try {
            formats::readModel(folder.write("bad.lamplevel", text));
            FAIL("was read: " << text);
        } catch (const Error& error) {
            CHECK(error.where().find(place) != std::string::npos);
        }
    };
    refused("lampwright-level 2\nend\n", ":1");
    refused("something else\n", ":1");
    refused(head + "object \"a\"\ncorner 0 0 0\nface 0 1 2\nend\n", "lamplevel:");
    refused(head + "object \"a\"\ncorner 0 0\nend\n", ":5");
    refused(head + "object \"a\ncorner 0 0 0\nend\n", ":4");
    refused(head + "use \"none\"\nend\n", ":4");
    refused(head + "object \"a\"\n", "lamplevel:"); // cut off
    refused(head + "melt\nend\n", ":4");
    refused("lampwright-level 1\nunit nan\nend\n", ":2");
    refused("lampwright-level 1\naxes Z +Z\nend\n", ":2");
    const Model empty = formats::readModel(folder.write("fine.lamplevel", head + "end\n"));
    CHECK(triangleCount(empty) == 0);
    const Model quoted = formats::readModel(folder.write(
        "q.lamplevel",
        head +
            "object \"say \\\"hi\\\" \\\\\"\ncorner 0 0 0\ncorner 1 0 0\ncorner 0 1 0\nface 0 1 2\nend\n"));
    CHECK(quoted.nodes[0].name == "say \"hi\" \\");
}

TEST_CASE("archives are the same bytes for the same files") {
    const std::vector<OutFile> files{{"a.txt", "alpha"}, {"b/c.txt", std::string(100000, 'x')}};
    const std::string once = zipped(files);
    CHECK(once == zipped(files));
    CHECK(once.substr(0, 2) == "PK");
    CHECK(once.size() < 2000);
}
