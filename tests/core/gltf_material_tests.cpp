// Materials of glTF as others write them: where pictures lie, and what is told of those that are lost.
#include "core/formats/format.h"
#include "core/texture/picture_file.h"
#include "support/glb_builder.h"
#include "support/read_glb.h"
#include "support/rich_model.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

using namespace zl;

namespace {

/// A triangle of one material, with two UV sets and two pictures that nothing uses yet.
GlbBuilder pictured() {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["material"] = 0;
    glb.primitive()["attributes"]["TEXCOORD_0"] = glb.floats({0, 0, 1, 0, 0, 1}, 3, "VEC2");
    glb.primitive()["attributes"]["TEXCOORD_1"] = glb.floats({0, 0, 0.5f, 0, 0, 0.5f}, 3, "VEC2");
    for (const int edge : {8, 4}) {
        const std::string bytes = png(edge, edge);
        glb.json["images"].push_back({{"bufferView", glb.view(std::vector<char>(bytes.begin(), bytes.end()))},
                                      {"mimeType", "image/png"}});
        glb.json["textures"].push_back({{"source", edge == 8 ? 0 : 1}});
    }
    return glb;
}

} // namespace

TEST_CASE("materials: factors, pictures inside and beside, two sides, cut-outs") {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["material"] = 0;
    glb.primitive()["attributes"]["TEXCOORD_0"] = glb.floats({0, 0, 1, 0, 0, 1}, 3, "VEC2");
    const std::string bytes = png(8, 8);
    const nlohmann::json lie{
        {"KHR_texture_transform", {{"offset", {0.25, 0.5}}, {"scale", {2, 4}}, {"rotation", 0.5}}}};
    glb.json["images"] = {{{"bufferView", glb.view(std::vector<char>(bytes.begin(), bytes.end()))},
                           {"mimeType", "image/png"},
                           {"name", "inside"}},
                          {{"uri", "data:image/png;base64," + base64(png(4, 4))}}};
    glb.json["textures"] = {{{"source", 0}}, {{"source", 1}}};
    glb.json["materials"] = {{{"name", "bronze"},
                              {"doubleSided", true},
                              {"alphaMode", "MASK"},
                              {"alphaCutoff", 0.25},
                              {"emissiveFactor", {0.5, 0, 0}},
                              {"normalTexture", {{"index", 1}, {"extensions", lie}}},
                              {"pbrMetallicRoughness",
                               {{"baseColorFactor", {0.5, 0.25, 1, 0.75}},
                                {"metallicFactor", 0.875},
                                {"roughnessFactor", 0.125},
                                {"baseColorTexture", {{"index", 0}, {"extensions", lie}}}}}}};
    glb.json["extensionsUsed"] = {"KHR_texture_transform"};
    const Model model = read(glb);
    REQUIRE(model.materials.size() == 1);
    const Material& m = model.materials[0];
    CHECK(m.name == "bronze");
    CHECK(m.baseColour == glm::vec4(0.5f, 0.25f, 1, 0.75f));
    CHECK(m.metalness == 0.875f);
    CHECK(m.roughness == 0.125f);
    CHECK(m.emission.r == 0.5f);
    CHECK(m.doubleSided);
    CHECK(m.alpha == Material::Alpha::Mask);
    CHECK(m.alphaCutoff == 0.25f);
    REQUIRE(m.baseColourImage >= 0);
    CHECK(model.images[m.baseColourImage]->width == 8);
    REQUIRE(m.normalImage >= 0);
    CHECK(model.images[m.normalImage]->width == 4);
    CHECK(model.images[m.normalImage]->name == "picture-2"); // the file calls it nothing
    CHECK(m.uvOffset == glm::vec2(0.25f, 0.5f));
    CHECK(m.uvScale == glm::vec2(2, 4));
    CHECK(m.uvTurn == 0.5f);
    CHECK(model.dropped.empty());
}

TEST_CASE("pictures that are missing, broken or lead out of the folder leave the shape and a warning") {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["material"] = 0;
    const std::string uri =
        GENERATE("gone.png", "../../etc/passwd", "data:image/png;base64,AAAA", "%2e%2e/x.png");
    glb.json["images"] = {{{"uri", uri}}};
    glb.json["textures"] = {{{"source", 0}}};
    glb.json["materials"] = {{{"pbrMetallicRoughness", {{"baseColorTexture", {{"index", 0}}}}}}};
    const Model model = read(glb);
    CHECK(triangleCount(model) == 1);
    CHECK(model.materials[0].baseColourImage == -1);
    CHECK_FALSE(model.warnings.empty());
}

TEST_CASE("the UVs that a material's pictures lie on come first") {
    GlbBuilder glb = pictured();
    glb.json["materials"] = {{{"name", "slate"},
                              {"pbrMetallicRoughness",
                               {{"baseColorTexture", {{"index", 0}, {"texCoord", 1}}},
                                {"metallicRoughnessTexture", {{"index", 1}, {"texCoord", 1}}}}}}};
    const Model model = read(glb);
    REQUIRE(model.meshes[0]->uvSets.size() == 2);
    CHECK(model.meshes[0]->uvSets[0][1] == glm::vec2(0.5f, 0));
    CHECK(model.meshes[0]->uvSets[1][1] == glm::vec2(1, 0));
    CHECK(model.materials[0].metalRoughImage >= 0);
    CHECK(model.dropped.empty());
}

TEST_CASE("a placement may name other UVs than its texture") {
    GlbBuilder glb = pictured();
    glb.json["materials"] = {
        {{"pbrMetallicRoughness",
          {{"baseColorTexture",
            {{"index", 0},
             {"extensions", {{"KHR_texture_transform", {{"texCoord", 1}, {"scale", {3, 3}}}}}}}}}}}};
    const Model model = read(glb);
    CHECK(model.meshes[0]->uvSets[0][1] == glm::vec2(0.5f, 0));
    CHECK(model.materials[0].uvScale == glm::vec2(3));
}

TEST_CASE("a picture that lies otherwise than its material's colour is dropped and told") {
    GlbBuilder glb = pictured();
    glb.json["materials"] = {
        {{"name", "slate"},
         {"occlusionTexture", {{"index", 1}, {"texCoord", 1}}},
         {"normalTexture", {{"index", 1}, {"extensions", {{"KHR_texture_transform", {{"scale", {4, 4}}}}}}}},
         {"pbrMetallicRoughness", {{"baseColorTexture", {{"index", 0}}}}}}};
    const Model model = read(glb);
    CHECK(model.materials[0].baseColourImage >= 0);
    CHECK(model.materials[0].occlusionImage == -1);
    CHECK(model.materials[0].normalImage == -1);
    CHECK(model.dropped ==
          std::vector<std::string>{
              "the normal picture of \"slate\", which lies on other UVs than its colour picture",
              "the occlusion picture of \"slate\", which lies on other UVs than its colour "
              "picture"});
}

TEST_CASE("an extension that comes into the model is not told as dropped, another is") {
    GlbBuilder glb;
    glb.triangle();
    glb.json["extensionsUsed"] = {"KHR_texture_transform", "KHR_mesh_quantization", "KHR_materials_unlit"};
    CHECK(read(glb).dropped == std::vector<std::string>{"extension KHR_materials_unlit"});
}
