// VRM: written and read back, version 0, what is not understood and goes along, and files that lie.
#include "core/avatar/roles.h"
#include "core/base/error.h"
#include "core/formats/format.h"
#include "core/model/promises.h"
#include "core/texture/picture_file.h"
#include "standins/mirror/figure.h"
#include "standins/mirror/mirror_arena.h"
#include "standins/world/arena.h"
#include "support/avatar_figure.h"
#include "support/glb_parts.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;
using nlohmann::json;

namespace {

std::string vrmOf(const Model& model, std::vector<std::string>* dropped = nullptr) {
    return formats::writeVrm(model, {"figure"}, dropped)[0].bytes;
}

Model readBack(const std::string& bytes, const char* name = "figure.vrm") {
    TemporaryFolder folder;
    return formats::readModel(folder.write(name, bytes));
}

std::string nameOf(const Model& model, NodeKey key) {
    const int node = avatar::nodeOf(model, key);
    return node < 0 ? "" : model.nodes[std::size_t(node)].name;
}

standins::TryReport tried(const std::string& bytes) {
    TemporaryFolder folder;
    folder.write("figure.vrm", bytes);
    return standins::mirror::tryFolder(folder.path());
}

std::string saidOf(const standins::TryReport& report) {
    std::string out;
    for (const auto& message : report.messages) out += message.text + " (" + message.detail + ")\n";
    return out;
}

} // namespace

TEST_CASE(
    "VRM keeps a whole set-up: roles, faces, eyes, springs, constraints, what the wearer sees, licence") {
    const Model model = avatarFigure();
    std::vector<std::string> dropped;
    const Model back = readBack(vrmOf(model, &dropped));
    CHECK(dropped.empty());
    CHECK(back.dropped.empty());
    CHECK(keepsPromises(back));
    REQUIRE(back.avatar);
    const Avatar &a = *model.avatar, &b = *back.avatar;
    CHECK(b.version == "1.0");
    CHECK(b.licence == a.licence);
    REQUIRE(b.bones.size() == a.bones.size());
    for (const auto& [role, key] : a.bones) CHECK(nameOf(model, key) == nameOf(back, b.bones.at(role)));
    REQUIRE(b.expressions.size() == a.expressions.size());
    for (const Expression& e : a.expressions) {
        INFO(e.name);
        const Expression* own = b.expression(e.name);
        REQUIRE(own);
        CHECK(own->custom == e.custom);
        CHECK(own->binary == e.binary);
        CHECK(own->blink == e.blink);
        CHECK(own->mouth == e.mouth);
        REQUIRE(own->morphs.size() == 1);
        CHECK(own->morphs[0].morph == e.morphs[0].morph);
        CHECK(own->morphs[0].weight == e.morphs[0].weight);
        REQUIRE(own->colours.size() == e.colours.size());
        for (std::size_t c = 0; c < e.colours.size(); ++c) CHECK(own->colours[c].to == e.colours[c].to);
    }
    REQUIRE(b.lookAt);
    CHECK(b.lookAt->by == a.lookAt->by);
    CHECK(b.lookAt->eyes == a.lookAt->eyes);
    CHECK(b.lookAt->up.most == 60);
    CHECK(b.lookAt->up.gives == 12);
    REQUIRE(b.springs.size() == 1);
    CHECK(b.springs[0].name == "cuff");
    CHECK(b.springs[0].joints[0].stiffness == 0.7);
    CHECK(nameOf(back, b.springs[0].joints[1].node) == "hand.left");
    CHECK(b.groups[0].colliders == std::vector<int>{0, 1});
    CHECK(b.colliders[1].to == a.colliders[1].to);
    REQUIRE(b.constraints.size() == 1);
    CHECK(b.constraints[0].axis == "X");
    CHECK(nameOf(back, b.constraints[0].source) == "forearm.left");
    REQUIRE(b.seen.size() == 1);
    CHECK(b.seen[0].whom == "thirdPersonOnly");
    // A second time it is the same.
    const GlbParts once(vrmOf(back)), twice(vrmOf(readBack(vrmOf(back))));
    CHECK(json::diff(once.json, twice.json) == json::array());
    CHECK(once.binary.size() == twice.binary.size());
}

TEST_CASE("What a set-up means and is gone is said, and numbers behind it move up") {
    Model model = avatarFigure();
    Avatar own = *model.avatar;
    own.colliders[0].node = 999, own.bones["jaw"] = 998;
    own.expressions[0].morphs[0].morph = "gone";
    model.avatar = std::make_shared<const Avatar>(own);
    std::vector<std::string> dropped;
    const Model back = readBack(vrmOf(model, &dropped));
    CHECK(dropped.size() == 3);
    CHECK(back.avatar->colliders.size() == 1);
    CHECK(back.avatar->groups[0].colliders == std::vector<int>{0});
    CHECK(back.avatar->bones.size() == own.bones.size() - 1);
    CHECK_THROWS_WITH(formats::writeVrm(figureWithFaces({}), {"x"}, nullptr), Catch::Contains("not set up"));
}

TEST_CASE("Extensions that are not understood go through as they are") {
    GlbParts parts(vrmOf(avatarFigure()));
    const json own{{"depth", 3}, {"words", {"a", "b"}}, {"on", true}, {"nested", {{"x", 0.5}}}};
    parts.json["extensions"]["QUAY_weather"] = own;
    parts.json["nodes"][3]["extensions"]["QUAY_ropes"] = own;
    parts.json["materials"] = {
        {{"name", "skin"},
         {"extensions", {{"VRMC_materials_mtoon", {{"specVersion", "1.0"}, {"shadingToonyFactor", 0.9}}}}}}};
    for (auto& mesh : parts.json["meshes"])
        for (auto& primitive : mesh["primitives"]) primitive["material"] = 0;
    parts.json["extensionsUsed"].push_back("QUAY_weather");
    parts.json["extensionsUsed"].push_back("QUAY_ropes");
    parts.json["extensionsUsed"].push_back("VRMC_materials_mtoon");
    const std::string name = parts.json["nodes"][3]["name"];
    const Model model = readBack(parts.bytes());
    CHECK(model.dropped.empty());
    for (const bool asVrm : {true, false}) {
        const GlbParts out(asVrm ? vrmOf(model) : formats::writeGlb(model, {"x"}, nullptr)[0].bytes);
        CHECK(out.json["extensions"]["QUAY_weather"] == own);
        for (const auto& node : out.json["nodes"])
            if (node.value("name", "") == name) CHECK(node["extensions"]["QUAY_ropes"] == own);
        CHECK(out.json["materials"][0]["extensions"]["VRMC_materials_mtoon"]["shadingToonyFactor"] == 0.9);
        for (const char* used : {"QUAY_weather", "QUAY_ropes", "VRMC_materials_mtoon"})
            CHECK(std::ranges::count(out.json["extensionsUsed"], used) == 1);
    }
}

TEST_CASE("Pictures that such an extension names are still its own behind other steps") {
    GlbParts parts(vrmOf(avatarFigure()));
    // Two pictures of one pixel each; the extension names the second.
    const auto pixel = [&](unsigned char grey) {
        const std::string png = texture::encodePng({1, 1, {grey, grey, grey, 255}}, false);
        parts.json["bufferViews"].push_back(
            {{"buffer", 0}, {"byteOffset", parts.binary.size()}, {"byteLength", png.size()}});
        parts.binary += png;
        parts.binary.resize((parts.binary.size() + 3) / 4 * 4, '\0');
        parts.json["images"].push_back(
            {{"bufferView", parts.json["bufferViews"].size() - 1}, {"mimeType", "image/png"}});
        parts.json["textures"].push_back({{"source", parts.json["images"].size() - 1}});
        return png;
    };
    pixel(10);
    const std::string second = pixel(200);
    parts.json["buffers"][0]["byteLength"] = parts.binary.size();
    parts.json["materials"] = {{{"name", "skin"},
                                {"extensions",
                                 {{"VRMC_materials_mtoon",
                                   {{"specVersion", "1.0"},
                                    {"matcapTexture", {{"index", 1}}},
                                    {"rimMultiplyTexture", {{"index", 77}}}}}}}}};
    for (auto& mesh : parts.json["meshes"])
        for (auto& primitive : mesh["primitives"]) primitive["material"] = 0;
    parts.json["extensionsUsed"].push_back("VRMC_materials_mtoon");
    Model model = readBack(parts.bytes());
    model.images.clear(); // as a step does that keeps only what materials wear
    const GlbParts out(vrmOf(model));
    const json& toon = out.json["materials"][0]["extensions"]["VRMC_materials_mtoon"];
    CHECK_FALSE(toon.contains("rimMultiplyTexture")); // named nothing
    const int image = out.json["textures"][toon["matcapTexture"]["index"].get<std::size_t>()]["source"];
    const json& view =
        out.json["bufferViews"][out.json["images"][std::size_t(image)]["bufferView"].get<std::size_t>()];
    CHECK(out.binary.substr(view.value("byteOffset", std::size_t(0)),
                            view["byteLength"].get<std::size_t>()) == second);
}

TEST_CASE("VRM 0 is read, turned to the front, and says what it cannot") {
    GlbParts parts(vrmOf(avatarFigure()));
    const json vrm1 = parts.json["extensions"]["VRMC_vrm"];
    json bones = json::array();
    for (const auto& [role, bone] : vrm1["humanoid"]["humanBones"].items())
        bones.push_back({{"bone", role}, {"node", bone["node"]}});
    bones.push_back({{"bone", "tail"}, {"node", 1}});
    bones.push_back({{"bone", "jaw"}, {"node", 4000}});
    int mesh = -1;
    for (const auto& node : parts.json["nodes"])
        if (node.contains("mesh")) mesh = node["mesh"];
    parts.json["extensions"] = {
        {"VRM",
         {{"meta",
           {{"title", "Quay hand"},
            {"author", "Mira Quill"},
            {"allowedUserName", "Everyone"},
            {"violentUssageName", "Disallow"},
            {"licenseName", "CC_BY"}}},
          {"humanoid", {{"humanBones", bones}}},
          {"blendShapeMaster",
           {{"blendShapeGroups",
             {{{"name", "A"},
               {"presetName", "a"},
               {"binds", {{{"mesh", mesh}, {"index", 0}, {"weight", 80}}}}},
              {{"name", "Joy"},
               {"presetName", "joy"},
               {"binds", {{{"mesh", mesh}, {"index", 2}, {"weight", 100}}}}},
              {{"name", "Wiggle"},
               {"presetName", "unknown"},
               {"isBinary", true},
               {"binds", {{{"mesh", mesh}, {"index", 99}, {"weight", 100}}}}}}}}},
          {"firstPerson",
           {{"firstPersonBoneOffset", {{"x", 0}, {"y", 0.06}, {"z", -0.09}}},
            {"lookAtTypeName", "BlendShape"}}},
          {"secondaryAnimation",
           {{"boneGroups",
             {{{"comment", "arm"},
               {"stiffiness", 0.4},
               {"bones", {vrm1["humanoid"]["humanBones"]["leftLowerArm"]["node"]}},
               {"colliderGroups", {0, 7}}}}},
            {"colliderGroups",
             {{{"node", 2},
               {"colliders",
                {{{"offset", {{"x", 0.01}, {"y", 0.02}, {"z", 0.03}}}, {"radius", 0.1}}}}}}}}}}}};
    parts.json["extensionsUsed"] = {"VRM"};
    const Model model = readBack(parts.bytes());
    REQUIRE(model.avatar);
    const Avatar& own = *model.avatar;
    CHECK(own.version == "0");
    CHECK(own.bones.size() == vrm1["humanoid"]["humanBones"].size());
    CHECK(own.licence["name"] == "Quay hand");
    CHECK(own.licence["avatarPermission"] == "everyone");
    CHECK(own.expression("aa")->morphs[0].weight == Approx(0.8));
    CHECK(own.expression("happy")->morphs[0].morph == "happy");
    CHECK(own.expression("Wiggle")->custom);
    CHECK(own.expression("Wiggle")->morphs.empty());
    CHECK(own.lookAt->by == LookAt::By::Expressions);
    CHECK(own.lookAt->eyes == glm::dvec3(0, 0.06, 0.09));
    REQUIRE(own.springs.size() == 1);
    CHECK(nameOf(model, own.springs[0].joints[1].node) == "hand.left"); // the chain goes on
    CHECK(own.springs[0].joints[0].stiffness == 0.4);
    CHECK(own.springs[0].groups == std::vector<int>{0});
    CHECK(own.colliders[0].from == glm::dvec3(0.01, 0.02, -0.03));
    const std::string told = fmt::format("{}", fmt::join(model.dropped, "\n"));
    for (const char* what : {"bone \"tail\"", "bone \"jaw\"", "morph target of \"Wiggle\"", "licence"}) {
        CAPTURE(what, told);
        CHECK(told.find(what) != std::string::npos);
    }
    CHECK(fmt::format("{}", fmt::join(model.warnings, "\n")).find("version 0") != std::string::npos);
    // Its left hand, at +X in the file, is on the other side now.
    const Model before = avatarFigure();
    const auto at = [](const Model& m) {
        return glm::dvec3(worldMatrices(m)[std::size_t(avatar::boneOf(m, "leftHand"))][3]);
    };
    CHECK(glm::distance(at(model), glm::dvec3(-1, 1, -1) * at(before)) < 1e-6);
    CHECK(readBack(vrmOf(model)).avatar->version == "1.0");
}

TEST_CASE("Hostile set-ups are read as far as they make sense, or refused in words") {
    const GlbParts whole(vrmOf(avatarFigure()));
    std::mt19937 random(7);
    const json values[] = {nullptr,
                           -1,
                           4000000000u,
                           1e308,
                           "x",
                           json::array(),
                           json::object(),
                           true,
                           json::array({json::object({{"node", -3}})}),
                           std::string(5000, 'a'),
                           0,
                           1.5,
                           json::parse("[[[[[[[[]]]]]]]]"),
                           "\xff\xfe"};
    for (int round = 0; round < 400; ++round) {
        GlbParts parts = whole;
        // Somewhere below the extensions something else stands.
        for (int hit = 0; hit < 3; ++hit) {
            json* at = &parts.json["extensions"];
            for (int deep = 0; deep < 12 && at->is_structured() && !at->empty(); ++deep) {
                auto entry = at->begin();
                std::advance(entry, long(random() % at->size()));
                at = &*entry;
                if (deep > 0 && random() % 4 == 0) break;
            }
            *at = values[random() % std::size(values)];
        }
        CAPTURE(round);
        std::string bytes = parts.bytes();
        if (round % 10 == 0) bytes.resize(bytes.size() * (round % 7) / 7); // cut off, too
        try {
            const Model model = readBack(bytes);
            CHECK(keepsPromises(model));
            if (model.avatar) CHECK_NOTHROW(readBack(vrmOf(model)));
        } catch (const Error& error) {
            CHECK(std::string(error.what()) != "");
        }
        CHECK_NOTHROW(tried(bytes));
    }
    // Nested beyond all reason.
    const std::string deep = std::string(100000, '[') + std::string(100000, ']');
    std::string text = whole.json.dump();
    text.insert(1, "\"extras\":" + deep + ",");
    CHECK_THROWS_WITH(readBack(whole.glb(text)), Catch::Contains("more than 200 deep"));
}

TEST_CASE("The mirror reads what is delivered by itself and names what is missing as the standard does") {
    const Model model = avatarFigure();
    const auto fine = tried(vrmOf(model));
    INFO(saidOf(fine));
    CHECK(fine.accepted);
    CHECK(fine.tests["triangles"] == triangleCount(model));
    CHECK(fine.tests["bones"] == model.avatar->bones.size());
    CHECK(fine.tests["swings"].get<double>() > 0.001);
    for (const auto& face : fine.tests["faces"]) CHECK(face["farthest"].get<double>() > 0.005);
    GlbParts parts(vrmOf(model));
    parts.json["extensions"]["VRMC_vrm"]["humanoid"]["humanBones"].erase("leftHand");
    parts.json["extensions"]["VRMC_vrm"]["expressions"]["preset"].erase("blink");
    parts.json["extensions"]["VRMC_vrm"]["meta"].erase("authors");
    const auto report = tried(parts.bytes());
    CHECK_FALSE(report.accepted);
    for (const char* said : {"humanoid.humanBones.leftHand is missing", "expressions.preset.blink is missing",
                             "meta.authors is missing"})
        CHECK(saidOf(report).find(said) != std::string::npos);
    parts.json["extensions"]["VRMC_vrm"]["specVersion"] = "0.0";
    CHECK(saidOf(tried(parts.bytes())).find("no VRM 1.0") != std::string::npos);
    parts.json["extensions"].erase("VRMC_vrm");
    CHECK(saidOf(tried(parts.bytes())).find("VRMC_vrm") != std::string::npos);
    TemporaryFolder none;
    CHECK(saidOf(standins::mirror::tryFolder(none.path())).find("no avatar") != std::string::npos);
}

TEST_CASE("The mirror's figure follows sliders and the pointer, blinks, talks and swings") {
    TemporaryFolder folder;
    folder.write("figure.vrm", vrmOf(avatarFigure()));
    standins::TryReport report;
    const auto arena = standins::mirror::open(folder.path(), report);
    REQUIRE(arena);
    const auto corners = [&] { return arena->bent(0)->positions; };
    const auto far = [](const std::vector<glm::vec3>& a, const std::vector<glm::vec3>& b) {
        float out = 0;
        for (std::size_t v = 0; v < a.size(); ++v) out = std::max(out, glm::distance(a[v], b[v]));
        return out;
    };
    arena->act("blinks");                              // it blinks from the beginning
    for (int k = 0; k < 100; ++k) arena->advance(0.2); // and what swings comes to rest
    const auto plain = corners();
    CHECK(arena->sliders().size() == 7);
    arena->slide("happy", 1);
    arena->advance(0.1);
    CHECK(far(corners(), plain) > 0.01f);
    arena->act("rest");
    arena->advance(0.1);
    CHECK(far(corners(), plain) < 0.001f);
    // Its eyes follow by expressions, which it has not; the table tells where it looks all the same.
    const glm::vec3 eye(1, 1.6f, 3);
    arena->pointAt(eye, glm::normalize(glm::vec3(0.4f, 1.7f, 0.5f) - eye));
    arena->advance(1);
    CHECK(arena->tables()[0].rows[4].values[0] != "0°");
    float most = 0;
    arena->act("talks");
    for (int k = 0; k < 60; ++k) arena->advance(0.05), most = std::max(most, far(corners(), plain));
    CHECK(most > 0.01f);
    arena->act("talks"), arena->act("sways");
    arena->advance(0.3);
    CHECK(far(corners(), plain) > 0.02f);
}

TEST_CASE("Formats that cannot hold a set-up say so, and VRM does not") {
    const Model model = avatarFigure();
    for (const formats::Format& format : formats::allFormats()) {
        if (!format.write) continue;
        std::vector<std::string> dropped;
        formats::writeModel(format, model, {"pip"}, &dropped);
        INFO(format.id);
        CHECK((std::ranges::count(dropped, "the avatar's set-up (VRM files keep it)") == 1) ==
              (format.id != "vrm"));
    }
}
