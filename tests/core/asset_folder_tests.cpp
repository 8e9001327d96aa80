// Asset folders: what is in them, levels of detail as files and as nodes, and the shed that takes or refuses
// them.
#include "core/base/error.h"
#include "core/deliver/deliver.h"
#include "core/formats/format.h"
#include "core/geometry/levels.h"
#include "core/geometry/world.h"
#include "core/model/add_model.h"
#include "core/model/promises.h"
#include "standins/shed/asset.h"
#include "standins/shed/shed_arena.h"
#include "support/ball_in_pictures.h"
#include "support/ran_step.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <assimp/config.h>
#include <assimp/Importer.hpp>
#include <assimp/scene.h>
#include <toml++/toml.h>

#include <cstring>
#include <set>

using namespace zl;

TEST_CASE("an asset folder holds the mesh, three pictures a material and what is in them") {
    const auto sheet = ::sheet("saltbranch");
    Model model = ballInPictures(16, 40);
    model.images.push_back(texture::pictureFromPixels("clear.png", noise(4, 4, 1), true));
    model.materials[0].picture(PictureRole::Colour).image =
        int(model.images.size()) - 1; // has an alpha channel
    model.materials[0].picture(PictureRole::Emission) = {};
    model.materials[0].emission = glm::vec3(0);
    for (const PictureRole role : allPictureRoles)
        if (PictureUse& use = model.materials[0].picture(role); use)
            use.placement = {{0.1f, 0.2f}, {2, 3}, 0.5f};
    const auto files = deliver::deliverableFor(*sheet, {{"sort", "bollard"}, {"words", "rope quay"}})
                           ->make(model, *sheet, {.name = "Rope bollard", .credit = "Mira Quill"}, {});
    const OutFile *base = fileIn(files, "rope-base.png"), *relief = fileIn(files, "rope-relief.png"),
                  *props = fileIn(files, "rope-props.png");
    REQUIRE((base && relief && props));
    CHECK(int(base->bytes[25]) == 2); // PNG's kind of colour: three channels, and no alpha anywhere
    CHECK(int(relief->bytes[25]) == 6);
    CHECK(base->bytes.find("tRNS") == std::string::npos);
    const auto beside = toml::parse(fileIn(files, "rope-props.png.picture.toml")->bytes);
    CHECK(beside["material"].value_or(std::string()) == "rope@metal");
    CHECK(beside["alpha"].value_or(std::string()) == "metalness");
    CHECK(beside["assumed"][0].value_or(std::string()) == "emission is 0");
    CHECK(beside["flags"]["curve"].value_or(std::string()) == "linear");
    const auto about = toml::parse(fileIn(files, "rope-bollard.asset.toml")->bytes);
    CHECK(about["sort"].value_or(std::string()) == "bollard");
    CHECK(about["words"].as_array()->size() == 2);
    CHECK(about["material"][0]["pictures"].as_array()->size() == 3);
    CHECK(fileIn(files, "preview.png"));
    CHECK(model.materials[0].name == "rope"); // the project keeps the plain name
    const TemporaryFolder folder;
    writeAllOrNone(folder.path(), files);
    const Model back = formats::readModel(folder / "rope-bollard.glb");
    CHECK(back.images.empty());
    CHECK(back.materials[0].name == "rope@metal");
    // Corner by corner: those at the seam may be numbered otherwise.
    const Mesh &was = *model.meshes[0], &is = *back.meshes[0];
    const UvPlacement& lies = model.materials[0].picture(PictureRole::Normal).placement;
    REQUIRE(is.indices.size() == was.indices.size());
    for (std::size_t c = 0; c < is.indices.size(); ++c)
        REQUIRE(glm::distance(is.uvSets[0][is.indices[c]], lies.of(was.uvSets[0][was.indices[c]])) < 1e-5);
    auto plain = *::sheet("oxbow");
    plain.deliverable = "asset-folder";
    CHECK_THROWS_WITH(deliver::deliverableFor(plain)->make(model, plain, {}, {}),
                      Catch::Contains("names no pictures"));
}

TEST_CASE(
    "materials of one name are told apart in an asset folder, and the shed refuses those that are not") {
    const auto sheet = ::sheet("saltbranch");
    Model model = ballInPictures(16, 40);
    model.nodes[0].local = glm::translate(glm::dmat4(1.0), {0, -geometry::worldBounds(model).min.y, 0});
    addModel(model, Model(model), "second", -1, glm::translate(glm::dmat4(1), {3, 0, 0}));
    REQUIRE(model.materials.size() == 2);
    REQUIRE(model.materials[1].name == "rope");
    const auto files =
        deliver::deliverableFor(*sheet)->make(model, *sheet, {.name = "Rope", .credit = "own"}, {});
    const auto about = toml::parse(fileIn(files, "rope.asset.toml")->bytes);
    CHECK(about["material"][0]["name"].value_or(std::string()) == "rope@metal");
    CHECK(about["material"][1]["name"].value_or(std::string()) == "rope-2@metal");
    CHECK(about["material"][1]["pictures"][0].value_or(std::string()) == "rope-2-base.png");
    CHECK(model.materials[1].name == "rope");
    TemporaryFolder folder;
    writeAllOrNone(folder.path(), files);
    CHECK(formats::readModel(folder / "rope.glb").materials[1].name == "rope-2@metal");
    const auto taken = standins::shed::tryFolder(folder.path());
    CHECK(taken.accepted);
    std::string alike = fileIn(files, "rope.asset.toml")->bytes;
    alike.replace(alike.find("rope-2@metal"), 12, "rope@metal");
    writeFile(folder / "rope.asset.toml", alike);
    const auto refused = standins::shed::tryFolder(folder.path());
    CHECK_FALSE(refused.accepted);
    CHECK(std::ranges::any_of(refused.messages, [](const standins::Message& message) {
        return message.text.find("there twice") != std::string::npos;
    }));
}

TEST_CASE("the display shed refuses what the railway world refuses, and says what is harmless") {
    const auto salt = ::sheet("saltbranch");
    Model model = ballInPictures(16, 77);
    model.nodes[0].local = glm::translate(glm::dmat4(1.0), {0, -geometry::worldBounds(model).min.y, 0});
    model.materials[0].picture(PictureRole::Emission) = {};
    const auto files =
        deliver::deliverableFor(*salt, {{"sort", "bollard"}})->make(model, *salt, {.name = "ball"}, {});
    const auto tried = [&](const std::string& name, const std::function<void(std::string&)>& change) {
        const TemporaryFolder folder;
        std::vector<OutFile> other;
        for (OutFile file : files) {
            if (file.name == name && !change) continue;
            if (file.name == name) change(file.bytes);
            other.push_back(std::move(file));
        }
        writeAllOrNone(folder.path(), other);
        return standins::shed::tryFolder(folder.path());
    };
    const auto replaced = [](const char* from, const char* to) {
        return [=](std::string& bytes) {
            const std::size_t at = bytes.find(from);
            REQUIRE(at != std::string::npos);
            bytes.replace(at, std::strlen(from), to);
        };
    };
    const auto whole = tried("", {});
    CHECK(whole.accepted);
    const auto says = [](const standins::TryReport& report, standins::Message::Kind kind, const char* text) {
        return std::ranges::any_of(report.messages, [&](const standins::Message& message) {
            return message.kind == kind && message.text.find(text) != std::string::npos;
        });
    };
    using Kind = standins::Message::Kind;
    CHECK(says(whole, Kind::Odd, "emission is 1"));
    const auto refuses = [&](const standins::TryReport& report, const char* text) {
        INFO(text);
        CHECK_FALSE(report.accepted);
        CHECK(says(report, Kind::Refused, text));
    };
    const Pixels grey{16, 16, std::vector<std::uint8_t>(1024, 90)};
    refuses(tried("rope-base.png", [&](std::string& b) { b = texture::encodePng(grey, true); }),
            "has an alpha channel");
    refuses(tried("rope-relief.png", [&](std::string& b) { b = texture::encodePng(grey, false); }),
            "has no alpha channel");
    refuses(tried("rope-props.png", [&](std::string& b) { b = png(8, 16); }), "it says otherwise");
    refuses(tried("rope-props.png.picture.toml", replaced("rope-props.png", "rope-base.png")),
            "about another picture");
    refuses(tried("rope-props.png.picture.toml", replaced("width = ", "width = = ")), "cannot be read");
    refuses(tried("ball.asset.toml", replaced("rope@metal", "rope")), "does not end in @metal");
    refuses(tried("ball.asset.toml", replaced("rope-props.png", "rope-prop.png")), "has no props picture");
    refuses(tried("ball.asset.toml", replaced("version = 1", "version = 9")), "no description");
    refuses(tried("ball.asset.toml", replaced("rope-base.png", "../a-base.png")), "");
    refuses(tried("ball.asset.toml", {}), "There is no .asset.toml");
    CHECK(says(tried("ball.asset.toml", replaced("sort = \"bollard\"\n", "")), Kind::Odd,
               "what sort of thing"));
    // The same as COLLADA stands in the same place, in the same materials.
    standins::TryReport asGlb, asCollada;
    const TemporaryFolder glb, dae;
    writeAllOrNone(glb.path(), files);
    writeAllOrNone(dae.path(), deliver::deliverableFor(*salt, {{"format", "dae"}, {"sort", "bollard"}})
                                   ->make(model, *salt, {.name = "ball"}, {}));
    CHECK(std::filesystem::exists(dae / "ball.dae"));
    const auto one = standins::shed::loadAsset(glb.path(), asGlb),
               other = standins::shed::loadAsset(dae.path(), asCollada);
    REQUIRE(one);
    REQUIRE(other);
    CHECK(other->triangles == one->triangles);
    CHECK(glm::distance(other->low, one->low) < 1e-5f);
    CHECK(glm::distance(other->high, one->high) < 1e-5f);
    REQUIRE(other->items.size() == one->items.size());
    const auto cornersOf =
        [](const standins::world::Shape& shape) { // place and UV of each triangle's corners
            std::vector<std::array<float, 5>> out;
            for (const std::uint32_t i : shape.indices)
                out.push_back({shape.positions[i].x, shape.positions[i].y, shape.positions[i].z,
                               shape.uvs[i].x, shape.uvs[i].y});
            return out;
        };
    const auto a = cornersOf(one->items[0].shape), b = cornersOf(other->items[0].shape);
    REQUIRE(a.size() == b.size());
    float off = 0;
    for (std::size_t i = 0; i < a.size(); ++i)
        for (std::size_t k = 0; k < 5; ++k) off = std::max(off, std::abs(a[i][k] - b[i][k]));
    CHECK(off < 1e-5f);
    std::string spoilt;
    for (const OutFile& file :
         deliver::deliverableFor(*salt, {{"format", "dae"}})->make(model, *salt, {.name = "ball"}, {}))
        if (file.name == "ball.dae") spoilt = file.bytes;
    spoilt.replace(spoilt.find("Z_UP"), 4, "Y_UP");
    std::ofstream(dae / "ball.dae", std::ios::binary) << spoilt;
    refuses(standins::shed::tryFolder(dae.path()), "declares Y_UP");

    model.nodes[0].local = glm::dmat4(1.0);
    const TemporaryFolder sunk;
    writeAllOrNone(sunk.path(), deliver::deliverableFor(*salt)->make(model, *salt, {.name = "ball"}, {}));
    refuses(standins::shed::tryFolder(sunk.path()), "the ground");
}

namespace {

/// A ball and a post of many triangles that stand on the ground, with two coarser copies of each.
Model threeLevels() {
    Model model = ballInPictures(16, 5);
    model.meshes[0] = std::make_shared<const Mesh>([] {
        Mesh ball = shapes::sphere(40, 30);
        ball.uvSets.assign(1, {});
        for (const glm::vec3& p : ball.positions) ball.uvSets[0].push_back({p.x, p.z});
        ball.runs = {{0, std::uint32_t(ball.triangleCount()), 0}};
        return ball;
    }());
    model.nodes[0].local = glm::translate(glm::dmat4(1.0), {0, 1, 0});
    model.nodes.push_back({"post", -1, glm::translate(glm::dmat4(1.0), {3, 1, 0}), 0});
    return ranStep(model, "levels-of-detail",
                   {{"levels", {{{"by", "share"}, {"share", 0.4}}, {{"by", "share"}, {"share", 0.1}}}}})
        .model;
}

} // namespace

TEST_CASE("levels as nodes stand in one file, called as the platform wants, and the shed tells them apart") {
    auto salt = *::sheet("saltbranch");
    salt.levels.as = platform::SheetLevels::As::Nodes;
    salt.levels.name = "L{n} {name}";
    const Model model = threeLevels();
    const std::size_t whole = triangleCount(geometry::atLevel(model, 0)),
                      coarse = triangleCount(geometry::atLevel(model, 2));
    for (const char* format : {"glb", "dae"}) {
        INFO(format);
        const auto files =
            deliver::deliverableFor(salt, {{"format", format}})->make(model, salt, {.name = "ball"}, {});
        const std::string mesh = std::string("ball.") + format;
        CHECK(std::ranges::count_if(files,
                                    [&](const OutFile& file) { return file.name.ends_with(format); }) == 1);
        const auto about = toml::parse(fileIn(files, "ball.asset.toml")->bytes);
        REQUIRE(about["level-nodes"].as_array()->size() == 2);
        CHECK(about["level-nodes"][1][0].value_or(std::string()) == "L2 ball");
        CHECK(about["level-nodes"][1][1].value_or(std::string()) == "L2 post");
        CHECK_FALSE(about["levels"]);
        const TemporaryFolder folder;
        writeAllOrNone(folder.path(), files);
        // A reader that is not ours finds the nodes by name, none of them below another.
        Assimp::Importer importer;
        importer.SetPropertyBool(AI_CONFIG_IMPORT_COLLADA_USE_COLLADA_NAMES, true);
        const aiScene* scene = importer.ReadFile((folder / mesh).string(), 0);
        INFO(importer.GetErrorString());
        REQUIRE(scene);
        std::size_t all = 0;
        for (const char* name : {"L0 ball", "L1 ball", "L2 ball", "L0 post", "L1 post", "L2 post"}) {
            INFO(name);
            const aiNode* node = scene->mRootNode->FindNode(name);
            REQUIRE(node);
            REQUIRE(node->mNumMeshes == 1);
            CHECK(node->mNumChildren == 0);
            all += scene->mMeshes[node->mMeshes[0]]->mNumFaces;
        }
        CHECK(all == whole + triangleCount(geometry::atLevel(model, 1)) + coarse);
        standins::TryReport report;
        const auto asset = standins::shed::loadAsset(folder.path(), report);
        for (const auto& message : report.messages) INFO(message.text);
        REQUIRE(asset);
        CHECK(asset->triangles == whole);
        CHECK(asset->levels.size() == 2);
        CHECK(asset->levels[1] == coarse);
        CHECK(asset->items.size() == 2);
    }
}

TEST_CASE("the shed refuses levels among the nodes that are no coarser, or are not there") {
    auto salt = *::sheet("saltbranch");
    salt.levels.as = platform::SheetLevels::As::Nodes;
    auto files = deliver::deliverableFor(salt)->make(threeLevels(), salt, {.name = "ball"}, {});
    const auto triedWith = [&](const std::string& from, const std::string& to) {
        const TemporaryFolder folder;
        auto other = files;
        for (OutFile& file : other)
            if (file.name == "ball.asset.toml") {
                REQUIRE(file.bytes.find(from) != std::string::npos);
                file.bytes.replace(file.bytes.find(from), from.size(), to);
            }
        writeAllOrNone(folder.path(), other);
        return standins::shed::tryFolder(folder.path());
    };
    CHECK(triedWith("level-nodes", "level-nodes").accepted);
    CHECK_FALSE(triedWith("ball_lod2", "nothing_lod2").accepted); // the ball of level 2 then counts as whole
    CHECK_FALSE(triedWith("[[\"ball_lod1\", \"post_lod1\"], [\"ball_lod2\", \"post_lod2\"]]",
                          "[[\"ball_lod2\", \"post_lod2\"], [\"ball_lod1\", \"post_lod1\"]]")
                    .accepted);
    CHECK(triedWith("level-nodes = [", "level-nodes = 7 #").accepted == true);
    CHECK_FALSE(triedWith("[[\"ball_lod1\"", "[7, [], [\"ball_lod1\"").accepted);
}

TEST_CASE("copies that become nodes of their own are moved and morphed by clips as what they stand for") {
    Model model = richModel();
    const auto ran =
        ranStep(model, "levels-of-detail", {{"levels", {{{"by", "share"}, {"share", 0.5}}}}}).model;
    const auto nodes = geometry::levelsAsNodes(ran, [](const std::string& name, int) { return name; });
    REQUIRE(nodes.names.size() == 2);
    std::set<std::string> names;
    for (const Node& node : nodes.model.nodes) CHECK(names.insert(node.name).second);
    CHECK(geometry::levelCount(nodes.model) == 1);
    CHECK(brokenPromise(nodes.model) == "");
    for (std::size_t n = model.nodes.size(); n < ran.nodes.size(); ++n) {
        const int part = ran.nodes[n].parent;
        CHECK(nodes.model.nodes[n].parent == ran.nodes[std::size_t(part)].parent);
        for (std::size_t c = 0; c < model.clips.size(); ++c) {
            const auto count = [&](int node) {
                return std::ranges::count(nodes.model.clips[c]->channels, node, &Channel::node);
            };
            CHECK(count(int(n)) == count(part));
        }
    }
}
