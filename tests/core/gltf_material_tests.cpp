// Materials of glTF as others write them: where pictures lie, and what is told of those that are lost.
#include "core/formats/format.h"
#include "core/geometry/world.h"
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
    REQUIRE(m.picture(PictureRole::Colour).image >= 0);
    CHECK(model.images[m.picture(PictureRole::Colour).image]->width == 8);
    REQUIRE(m.picture(PictureRole::Normal).image >= 0);
    CHECK(model.images[m.picture(PictureRole::Normal).image]->width == 4);
    CHECK(model.images[m.picture(PictureRole::Normal).image]->name ==
          "picture-2"); // the file calls it nothing
    for (const PictureRole role : {PictureRole::Colour, PictureRole::Normal})
        CHECK(m.picture(role).placement == UvPlacement{{0.25f, 0.5f}, {2, 4}, 0.5f});
    CHECK(m.picture(PictureRole::Opacity).image == m.image(PictureRole::Colour)); // cut out by its alpha
    CHECK(m.picture(PictureRole::Opacity).channel == PictureChannel::Alpha);
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
    CHECK(model.materials[0].picture(PictureRole::Colour).image == -1);
    CHECK_FALSE(model.warnings.empty());
}

TEST_CASE("pictures lie on the UVs that the material names, each on its own") {
    GlbBuilder glb = pictured();
    glb.json["samplers"] = {{{"wrapS", 33071}, {"wrapT", 33648}, {"magFilter", 9728}}};
    glb.json["textures"][1]["sampler"] = 0;
    glb.json["materials"] = {
        {{"name", "slate"},
         {"occlusionTexture", {{"index", 1}, {"texCoord", 1}}},
         {"normalTexture", {{"index", 1}, {"extensions", {{"KHR_texture_transform", {{"scale", {4, 4}}}}}}}},
         {"pbrMetallicRoughness",
          {{"baseColorTexture", {{"index", 0}}}, {"metallicRoughnessTexture", {{"index", 1}}}}}}};
    const auto look = [](const Model& model) {
        REQUIRE(model.meshes[0]->uvSets.size() == 2);
        CHECK(model.meshes[0]->uvSets[0][1] == glm::vec2(1, 0));
        CHECK(model.meshes[0]->uvSets[1][1] == glm::vec2(0.5f, 0));
        const Material& m = model.materials[0];
        const PictureUse &occlusion = m.picture(PictureRole::Occlusion),
                         &rough = m.picture(PictureRole::Roughness);
        CHECK(m.picture(PictureRole::Colour).uvSet == 0);
        CHECK(m.picture(PictureRole::Colour).sampler == Sampler{});
        CHECK(occlusion.uvSet == 1);
        CHECK(occlusion.channel == PictureChannel::Red);
        CHECK(occlusion.sampler == Sampler{Beyond::Clamp, Beyond::Mirror, false});
        CHECK(m.picture(PictureRole::Normal).placement.scale == glm::vec2(4));
        CHECK(rough.channel == PictureChannel::Green);
        CHECK(m.picture(PictureRole::Metalness).channel == PictureChannel::Blue);
        CHECK(m.picture(PictureRole::Metalness).image == rough.image);
        CHECK_FALSE(m.picture(PictureRole::Opacity)); // opaque, whatever its alpha says
        CHECK(rolesLyingApart(m).size() == 4);        // each of them: other UVs, another placement or sampler
        CHECK(model.dropped.empty());
    };
    const Model model = read(glb);
    look(model);
    TemporaryFolder folder; // and all of it goes through our own file
    writeAllOrNone(folder.path(), formats::writeGlb(model, {"slate"}, nullptr));
    look(formats::readModel(folder / "slate.glb"));
}

TEST_CASE("a placement may name other UVs than its texture") {
    GlbBuilder glb = pictured();
    glb.json["materials"] = {
        {{"pbrMetallicRoughness",
          {{"baseColorTexture",
            {{"index", 0},
             {"extensions", {{"KHR_texture_transform", {{"texCoord", 1}, {"scale", {3, 3}}}}}}}}}}}};
    const Model model = read(glb);
    const PictureUse& use = model.materials[0].picture(PictureRole::Colour);
    CHECK(use.uvSet == 1);
    CHECK(use.placement.scale == glm::vec2(3));
    // Where one set has to do for all, it is the one that the colour lies on, with its placement in it.
    const Mesh one = geometry::flattened(model);
    CHECK(one.uvSets[0][1] == glm::vec2(1.5f, 0));
}

TEST_CASE("a UV set left out of a file keeps its place, one beyond all is refused its picture") {
    GlbBuilder glb = pictured();
    auto& attributes = glb.primitive()["attributes"];
    attributes["TEXCOORD_2"] = attributes["TEXCOORD_1"];
    attributes.erase("TEXCOORD_1");
    const int set = GENERATE(2, 2000000000, -1);
    glb.json["materials"] = {
        {{"pbrMetallicRoughness", {{"baseColorTexture", {{"index", 0}, {"texCoord", set}}}}}}};
    const Model model = read(glb);
    REQUIRE(model.meshes[0]->uvSets.size() == 3);
    CHECK(model.meshes[0]->uvSets[2][1] == glm::vec2(0.5f, 0));
    const PictureUse& use = model.materials[0].picture(PictureRole::Colour);
    if (set == 2) CHECK(use.uvSet == 2);
    if (set > 2) CHECK_FALSE(use);
    if (set > 2) CHECK_FALSE(model.warnings.empty());
}

namespace {

/// Four pixels of one colour.
std::shared_ptr<const Image> fill(const char* name, std::array<std::uint8_t, 4> colour) {
    Pixels pixels{2, 2, {}};
    for (int i = 0; i < 4; ++i) pixels.rgba.insert(pixels.rgba.end(), colour.begin(), colour.end());
    return texture::pictureFromBytes(name, texture::encodePng(pixels));
}

} // namespace

TEST_CASE("what glTF keeps in channels of one picture is put together from pictures of their own") {
    Model model = shapes::modelOf(shapes::sphere(8, 5, 1));
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->uvSets = {std::vector<glm::vec2>(mesh->vertexCount(), glm::vec2(0.5f))};
    for (MaterialRun& run : mesh->runs) run.material = 0;
    model.meshes[0] = mesh;
    model.images = {fill("colour.png", {10, 20, 30, 255}), fill("cut.png", {90, 90, 90, 255}),
                    fill("gloss.png", {0, 0, 0, 200}), fill("metal.png", {60, 60, 60, 255}),
                    fill("height.png", {1, 2, 3, 255})};
    Material m{.name = "net", .metalness = 1, .alpha = Material::Alpha::Mask};
    m.picture(PictureRole::Colour).image = 0;
    m.picture(PictureRole::Opacity).image = 1;
    m.picture(PictureRole::Gloss) = {.image = 2, .channel = PictureChannel::Alpha};
    m.picture(PictureRole::Metalness).image = 3;
    m.picture(PictureRole::Height).image = 4;
    model.materials = {m};
    TemporaryFolder folder;
    std::vector<std::string> dropped;
    writeAllOrNone(folder.path(), formats::writeGlb(model, {"net"}, &dropped));
    CHECK(dropped == std::vector<std::string>{"the height picture of \"net\""});
    const Model back = formats::readModel(folder / "net.glb");
    const Material& n = back.materials.at(0);
    const auto pixel = [&](PictureRole role) {
        return texture::decode(*back.images.at(std::size_t(n.image(role)))).rgba;
    };
    const auto colour = pixel(PictureRole::Colour);
    CHECK(std::vector(colour.begin(), colour.begin() + 4) == std::vector<std::uint8_t>{10, 20, 30, 90});
    CHECK(n.picture(PictureRole::Opacity).channel == PictureChannel::Alpha);
    const auto both = pixel(PictureRole::Roughness);
    CHECK(both[1] == 55); // 255 - 200: gloss turned over
    CHECK(both[2] == 60);
    CHECK(n.roughness == 1);
}

TEST_CASE("an extension that comes into the model is not told as dropped, another is") {
    GlbBuilder glb;
    glb.triangle();
    glb.json["extensionsUsed"] = {"KHR_texture_transform", "KHR_mesh_quantization", "KHR_materials_unlit"};
    CHECK(read(glb).dropped == std::vector<std::string>{"extension KHR_materials_unlit"});
}
