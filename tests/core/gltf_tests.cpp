// glTF as others write it: every kind of number, interleaved and sparse data, placed textures, and promises
// that are not kept.
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/texture/picture_file.h"
#include "support/rich_model.h"
#include "support/glb_builder.h"
#include "support/read_glb.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;

namespace {

constexpr int byteType = 5120, ubyteType = 5121, shortType = 5122, ushortType = 5123, uintType = 5125;

std::string refusal(const GlbBuilder& glb) {
    try {
        read(glb);
    } catch (const Error& error) {
        CHECK(error.whole().find("made.glb") != std::string::npos);
        return error.whole();
    }
    return {};
}

} // namespace

TEST_CASE("a triangle without indices is one triangle, in metres with Y up") {
    GlbBuilder glb;
    glb.triangle();
    const Model model = read(glb);
    CHECK(triangleCount(model) == 1);
    CHECK_FALSE(model.frame.unitAssumed);
    CHECK(model.nodes[0].name == "plate");
    CHECK(geometry::worldBounds(model).size() == glm::dvec3(1, 1, 0));
}

TEST_CASE("indices come as bytes, shorts and ints") {
    GlbBuilder glb;
    glb.triangle();
    const int type = GENERATE(ubyteType, ushortType, uintType);
    if (type == ubyteType)
        glb.primitive()["indices"] = glb.values(std::vector<std::uint8_t>{0, 2, 1}, type, 3, "SCALAR");
    else if (type == ushortType)
        glb.primitive()["indices"] = glb.values(std::vector<std::uint16_t>{0, 2, 1}, type, 3, "SCALAR");
    else
        glb.primitive()["indices"] = glb.values(std::vector<std::uint32_t>{0, 2, 1}, type, 3, "SCALAR");
    CHECK(read(glb).meshes[0]->indices == std::vector<std::uint32_t>{0, 2, 1});
}

TEST_CASE("corners that no face stands on are left out, so that nothing is measured by them") {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["attributes"]["POSITION"] =
        glb.floats({9, 9, 9, 0, 0, 0, 1, 0, 0, 0, -7, 0, 0, 1, 0}, 5, "VEC3");
    glb.primitive()["indices"] = glb.values(std::vector<std::uint8_t>{1, 2, 4}, ubyteType, 3, "SCALAR");
    const Model model = read(glb);
    CHECK(geometry::worldBounds(model).size() == glm::dvec3(1, 1, 0));
    CHECK(model.meshes[0]->indices == std::vector<std::uint32_t>{0, 1, 2});
    CHECK(std::ranges::find(model.warnings, "left out 2 corners that no face stands on") !=
          model.warnings.end());
}

TEST_CASE("objects of lines among objects of faces show nothing and are measured by nobody") {
    GlbBuilder glb;
    glb.triangle();
    nlohmann::json lines = glb.primitive();
    lines["mode"] = 1;
    lines["attributes"]["POSITION"] = glb.floats({0, 0, 0, 50, 0, 0}, 2, "VEC3");
    glb.json["meshes"].push_back({{"primitives", {lines}}});
    glb.json["nodes"].push_back({{"name", "wire"}, {"mesh", 1}});
    glb.json["scenes"][0]["nodes"].push_back(1);
    const Model model = read(glb);
    CHECK(geometry::worldBounds(model).size() == glm::dvec3(1, 1, 0));
    REQUIRE(model.nodes.size() == 2); // it stays in the tree
    CHECK(model.nodes[1].mesh == -1);
    CHECK(std::ranges::find(model.warnings, "left out 1 object without faces: lines or points") !=
          model.warnings.end());
}

TEST_CASE("strips and fans become the triangles that the standard says") {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["attributes"]["POSITION"] =
        glb.floats({0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 0, 2, 0}, 5, "VEC3");
    const int mode = GENERATE(5, 6);
    glb.primitive()["mode"] = mode;
    const auto indices = read(glb).meshes[0]->indices;
    // glTF 2.0, 3.7.2.1: a strip turns every second triangle round, a fan keeps its first corner.
    if (mode == 5)
        CHECK(indices == std::vector<std::uint32_t>{0, 1, 2, 1, 3, 2, 2, 3, 4});
    else
        CHECK(indices == std::vector<std::uint32_t>{0, 1, 2, 0, 2, 3, 0, 3, 4});
}

TEST_CASE("lines and points are no triangles, and that is said") {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["mode"] = GENERATE(0, 1, 2, 3);
    const Model model = read(glb);
    CHECK(triangleCount(model) == 0);
    CHECK_FALSE((model.warnings.empty() && model.dropped.empty()));
}

TEST_CASE("normalised numbers mean shares, as the standard says for each type") {
    GlbBuilder glb;
    glb.triangle();
    const auto uv = [&](const auto& numbers, int type) {
        glb.primitive()["attributes"]["TEXCOORD_0"] = glb.accessor({{"bufferView", glb.view(numbers)},
                                                                    {"componentType", type},
                                                                    {"count", 3},
                                                                    {"type", "VEC2"},
                                                                    {"normalized", true}});
        return read(glb).meshes[0]->uvSets.at(0);
    };
    CHECK(uv(std::vector<std::uint8_t>{0, 255, 51, 0, 0, 0}, ubyteType)[0].y == Approx(1));
    CHECK(uv(std::vector<std::uint8_t>{0, 255, 51, 0, 0, 0}, ubyteType)[1].x == Approx(0.2));
    CHECK(uv(std::vector<std::uint16_t>{65535, 0, 13107, 0, 0, 0}, ushortType)[0].x == Approx(1));
    CHECK(uv(std::vector<std::uint16_t>{65535, 0, 13107, 0, 0, 0}, ushortType)[1].x == Approx(0.2));
    const auto colours = [&] {
        glb.primitive()["attributes"]["COLOR_0"] = glb.accessor(
            {{"bufferView", glb.view(std::vector<std::uint8_t>{255, 0, 51, 0, 255, 0, 0, 0, 255})},
             {"componentType", ubyteType},
             {"count", 3},
             {"type", "VEC3"},
             {"normalized", true}});
        return read(glb).meshes[0]->colours;
    }();
    REQUIRE(colours.size() == 3);
    CHECK(colours[0].r == Approx(1));
    CHECK(colours[0].b == Approx(0.2));
    CHECK(colours[0].a == Approx(1)); // three numbers: opaque
}

TEST_CASE("quantised places are read where the file needs that extension") {
    GlbBuilder glb;
    glb.triangle();
    glb.json["extensionsRequired"] = {"KHR_mesh_quantization"};
    glb.json["extensionsUsed"] = {"KHR_mesh_quantization"};
    glb.primitive()["attributes"]["POSITION"] =
        glb.values(std::vector<std::int16_t>{0, 0, 0, 100, 0, 0, 0, 50, -7}, shortType, 3, "VEC3");
    glb.json["nodes"][0]["scale"] = {0.01, 0.01, 0.01};
    const auto size = geometry::worldBounds(read(glb)).size();
    CHECK(size.x == Approx(1));
    CHECK(size.y == Approx(0.5));
    CHECK(size.z == Approx(0.07));
    static_cast<void>(byteType);
}

TEST_CASE("interleaved data is read by its stride, accessors by their offset") {
    GlbBuilder glb;
    glb.triangle();
    // Place and normal in turn: 24 bytes an entry.
    const int view = glb.view(std::vector<float>{0, 0, 0, 0, 0, 1, 2, 0, 0, 0, 0, 1, 0, 3, 0, 0, 0, 1}, 24);
    const auto part = [&](int offset) {
        return glb.accessor({{"bufferView", view},
                             {"byteOffset", offset},
                             {"componentType", 5126},
                             {"count", 3},
                             {"type", "VEC3"}});
    };
    glb.primitive()["attributes"] = {{"POSITION", part(0)}, {"NORMAL", part(12)}};
    const Model model = read(glb);
    CHECK(geometry::worldBounds(model).size() == glm::dvec3(2, 3, 0));
    for (const glm::vec3& normal : model.meshes[0]->normals) CHECK(normal == glm::vec3(0, 0, 1));
}

TEST_CASE("sparse values replace those of the base, or of zeros where there is none") {
    GlbBuilder glb;
    glb.triangle();
    const int indices = glb.view(std::vector<std::uint16_t>{1, 2});
    const int places = glb.view(std::vector<float>{5, 0, 0, 0, 7, 0});
    glb.json["accessors"][0].erase("bufferView");
    glb.json["accessors"][0]["sparse"] = {
        {"count", 2},
        {"indices", {{"bufferView", indices}, {"componentType", ushortType}}},
        {"values", {{"bufferView", places}}}};
    CHECK(geometry::worldBounds(read(glb)).size() == glm::dvec3(5, 7, 0));
    glb.json["accessors"][0]["sparse"]["count"] = 3; // more than there is
    CHECK_FALSE(refusal(glb).empty());
}

TEST_CASE("nodes: matrices and parts, one mesh on two of them, children in place") {
    GlbBuilder glb;
    glb.triangle();
    glb.json["nodes"] = {
        {{"name", "arm"},
         {"children", {1, 2}},
         {"translation", {10, 0, 0}},
         {"rotation", {0, 0, std::sqrt(0.5), std::sqrt(0.5)}}, // a quarter turn about Z
         {"scale", {2, 2, 2}}},
        {{"name", "hand"}, {"mesh", 0}, {"matrix", {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 4, 1}}},
        {{"name", "hook"}, {"mesh", 0}}};
    const Model model = read(glb);
    REQUIRE(model.nodes.size() == 3);
    CHECK(model.nodes[1].parent == 0);
    CHECK(triangleCount(model) == 2);
    const auto bounds = geometry::worldBounds(model);
    // x and y change places and are doubled; y becomes -x. The hand is 4 · 2 in front of the hook.
    CHECK(bounds.min.x == Approx(8));
    CHECK(bounds.max.x == Approx(10));
    CHECK(bounds.size().y == Approx(2));
    CHECK(bounds.max.z == Approx(8));
}

TEST_CASE("nodes that are in no scene, in two places, or in a ring") {
    GlbBuilder glb;
    glb.triangle();
    glb.json["nodes"] = {{{"name", "a"}, {"mesh", 0}, {"children", {1}}}, {{"name", "b"}, {"children", {0}}}};
    std::string said;
    try {
        const Model model = read(glb);
        for (std::size_t n = 0; n < model.nodes.size(); ++n) CHECK(model.nodes[n].parent < int(n));
    } catch (const Error& error) {
        said = error.whole();
        CHECK(said.find("made.glb") != std::string::npos);
    }
    glb.json["nodes"] = {{{"name", "a"}, {"mesh", 0}, {"children", {7}}}};
    CHECK_FALSE(refusal(glb).empty());
    glb.json["nodes"] = {{{"name", "a"}, {"mesh", 3}}};
    CHECK_FALSE(refusal(glb).empty());
}

TEST_CASE("weights that morph targets have at rest are told as dropped, unless they are none") {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["targets"] = {{{"POSITION", glb.floats({0, 0, 1, 0, 0, 1, 0, 0, 1}, 3, "VEC3")}}};
    const std::vector<std::string> told{"how far morph targets are in at rest"};
    glb.json["meshes"][0]["weights"] = {0};
    CHECK(read(glb).dropped.empty());
    glb.json["meshes"][0]["weights"] = {0.25};
    CHECK(read(glb).dropped == told);
    glb.json["nodes"][0]["weights"] = {0}; // in place of the mesh's
    CHECK(read(glb).dropped.empty());
    glb.json["nodes"][0]["weights"] = {1};
    CHECK(read(glb).dropped == told);
}

TEST_CASE("skins: joints, given and missing bind matrices") {
    GlbBuilder glb;
    glb.triangle();
    glb.json["nodes"][0]["skin"] = 0;
    glb.json["nodes"].push_back({{"name", "hip"}, {"children", {2}}});
    glb.json["nodes"].push_back({{"name", "knee"}});
    glb.json["scenes"][0]["nodes"] = {0, 1};
    glb.primitive()["attributes"]["JOINTS_0"] =
        glb.values(std::vector<std::uint8_t>{0, 1, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0}, ubyteType, 3, "VEC4");
    glb.primitive()["attributes"]["WEIGHTS_0"] =
        glb.floats({0.5f, 0.5f, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0}, 3, "VEC4");
    glb.json["skins"] = {{{"joints", {1, 2}}}};
    Model model = read(glb);
    REQUIRE(model.skins.size() == 1);
    CHECK(model.skins[0].inverseBind == std::vector<glm::mat4>(2, glm::mat4(1)));
    CHECK(model.nodes[model.skins[0].joints[1]].name == "knee");
    CHECK(model.meshes[0]->weights[0].y == 0.5f);
    std::vector<float> binds(32, 0.0f);
    for (int k = 0; k < 4; ++k) binds[k * 5] = binds[16 + k * 5] = 1;
    binds[16 + 12] = 3; // the knee is bound 3 to the side
    glb.json["skins"][0]["inverseBindMatrices"] = glb.floats(binds, 2, "MAT4");
    model = read(glb);
    CHECK(model.skins[0].inverseBind[1][3].x == 3);
    glb.json["skins"][0]["joints"] = {1, 9};
    CHECK_FALSE(refusal(glb).empty());
}

TEST_CASE("weights to bones that the skin does not have do no harm") {
    GlbBuilder glb;
    glb.triangle();
    glb.json["nodes"][0]["skin"] = 0;
    glb.json["nodes"].push_back({{"name", "hip"}});
    glb.json["scenes"][0]["nodes"] = {0, 1};
    glb.primitive()["attributes"]["JOINTS_0"] =
        glb.values(std::vector<std::uint8_t>{0, 200, 0, 0, 77, 0, 0, 0, 0, 0, 0, 0}, ubyteType, 3, "VEC4");
    glb.primitive()["attributes"]["WEIGHTS_0"] =
        glb.floats({0.5f, 0.5f, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0}, 3, "VEC4");
    glb.json["skins"] = {{{"joints", {1}}}};
    if (const std::string said = refusal(glb); said.empty())
        for (const glm::u16vec4& joints : read(glb).meshes[0]->joints)
            for (int k = 0; k < 4; ++k) CHECK(joints[k] < 1);
}

TEST_CASE("clips: every path and curve, with times as they are") {
    GlbBuilder glb;
    glb.triangle();
    const int times = glb.floats({0, 0.5f, 2}, 3, "SCALAR");
    const int places = glb.floats({0, 0, 0, 1, 0, 0, 1, 2, 0}, 3, "VEC3");
    const int turns = glb.floats(std::vector<float>(36, 0.5f), 9, "VEC4");
    glb.json["animations"] = {{{"name", "sway"},
                               {"samplers",
                                {{{"input", times}, {"output", places}, {"interpolation", "STEP"}},
                                 {{"input", times}, {"output", turns}, {"interpolation", "CUBICSPLINE"}}}},
                               {"channels",
                                {{{"sampler", 0}, {"target", {{"node", 0}, {"path", "translation"}}}},
                                 {{"sampler", 1}, {"target", {{"node", 0}, {"path", "rotation"}}}}}}}};
    const Model model = read(glb);
    REQUIRE(model.clips.size() == 1);
    CHECK(model.clips[0]->name == "sway");
    REQUIRE(model.clips[0]->channels.size() == 2);
    CHECK(model.clips[0]->channels[0].curve == Channel::Curve::Step);
    CHECK(model.clips[0]->channels[0].times == std::vector<float>{0, 0.5f, 2});
    CHECK(model.clips[0]->channels[1].curve == Channel::Curve::CubicSpline);
    CHECK(model.clips[0]->channels[1].values.size() == 36);
    glb.json["animations"][0]["channels"][0]["sampler"] = 5;
    CHECK_FALSE(refusal(glb).empty());
}

TEST_CASE("promises that a file does not keep are refused, naming the file") {
    const auto spoil = GENERATE(
        as<std::function<void(GlbBuilder&)>>{}, [](GlbBuilder& g) { g.json["accessors"][0]["count"] = 4; },
        [](GlbBuilder& g) { g.json["accessors"][0]["count"] = 4'000'000'000u; },
        [](GlbBuilder& g) { g.json["accessors"][0]["bufferView"] = 9; },
        [](GlbBuilder& g) { g.json["accessors"][0]["type"] = "VEC2"; },
        [](GlbBuilder& g) { g.json["accessors"][0]["byteOffset"] = 1 << 30; },
        [](GlbBuilder& g) { g.json["bufferViews"][0]["byteLength"] = 1 << 30; },
        [](GlbBuilder& g) { g.json["bufferViews"][0]["byteOffset"] = 1 << 30; },
        [](GlbBuilder& g) { g.json["bufferViews"][0]["buffer"] = 2; },
        [](GlbBuilder& g) { g.primitive()["attributes"]["POSITION"] = 12; },
        [](GlbBuilder& g) { g.primitive()["indices"] = 12; },
        [](GlbBuilder& g) { g.json["extensionsRequired"] = {"ACME_secret"}; },
        [](GlbBuilder& g) { g.json["asset"]["version"] = "1.0"; });
    GlbBuilder glb;
    glb.triangle();
    REQUIRE(triangleCount(read(glb)) == 1);
    spoil(glb);
    INFO(glb.json.dump());
    CHECK_FALSE(refusal(glb).empty());
}

TEST_CASE("indices that lead outside are left out with a warning") {
    GlbBuilder glb;
    glb.triangle();
    glb.primitive()["indices"] =
        glb.values(std::vector<std::uint16_t>{0, 1, 2, 0, 1, 60000}, ushortType, 6, "SCALAR");
    const Model model = read(glb);
    CHECK(triangleCount(model) == 1);
    CHECK_FALSE(model.warnings.empty());
}

TEST_CASE("a glTF with its data beside it is read, and names what it was read from") {
    TemporaryFolder folder;
    GlbBuilder glb;
    glb.triangle();
    const std::string whole = glb.bytes();
    const std::size_t length = std::size_t(static_cast<unsigned char>(whole[12])) |
                               std::size_t(static_cast<unsigned char>(whole[13])) << 8;
    nlohmann::json json = nlohmann::json::parse(whole.substr(20, length));
    const std::string data = whole.substr(20 + length + 8);
    folder.write("plate.bin", data);
    json["buffers"][0]["uri"] = "plate.bin";
    const Model model = formats::readModel(folder.write("plate.gltf", json.dump()));
    CHECK(triangleCount(model) == 1);
    CHECK(model.files.size() >= 1);
    json["buffers"][0]["uri"] = "data:application/octet-stream;base64," + base64(data);
    CHECK(triangleCount(formats::readModel(folder.write("own.gltf", json.dump()))) == 1);
}

TEST_CASE("what is no glTF that can be read here says why, and what helps") {
    TemporaryFolder folder;
    GlbBuilder glb;
    glb.triangle();
    const auto refused = [&](const std::string& name, const std::string& bytes) -> std::string {
        try {
            formats::readModel(folder.write(name, bytes));
            return "read";
        } catch (const Error& error) {
            return std::string(error.what()) + ". " + error.mend();
        }
    };
    using Catch::Contains;
    nlohmann::json json = glb.json;
    json["buffers"][0] = {{"uri", "plates/gone%20one.bin"}, {"byteLength", 36}};
    CHECK_THAT(refused("gone.gltf", json.dump()),
               Contains("names the file \"plates/gone one.bin\", which is missing") &&
                   Contains("beside the model"));
    json["extensionsRequired"] = {"ACME_packed"};
    CHECK_THAT(refused("packed.gltf", json.dump()), Contains("needs the extension ACME_packed"));
    // Version 1.0 had lists by name, and did not have to say its version.
    CHECK_THAT(refused("old.gltf", R"({"meshes": {"plate": {}}})"), Contains("version 1.0 of glTF"));
    std::string old = glb.bytes();
    old[4] = 1, old[20] = '?'; // its head was laid out otherwise
    CHECK_THAT(refused("old.glb", old), Contains("version 1.0 of glTF"));
    CHECK_THAT(refused("torn.gltf", R"({"asset": {"version")"), Contains("is not readable as glTF"));
}
