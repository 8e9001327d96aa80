// Wheels of one cart on the other, round the circuit, into the game and out again.
#include "core/base/file_set.h"
#include "endtoend/command_line.h"

#include <assimp/Importer.hpp>
#include <assimp/postprocess.h>
#include <assimp/scene.h>

#include <functional>
#include <map>
#include <set>

using namespace zl;

namespace {

std::map<std::string, std::string> filesBelow(const std::filesystem::path& folder) {
    std::map<std::string, std::string> out;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder))
        if (entry.is_regular_file())
            out[entry.path().lexically_relative(folder).generic_string()] = readText(entry.path());
    return out;
}

/// Nodes by name as another reader sees them: where they are, and the middle of what they show.
struct Seen {
    aiVector3D place, centre;
    bool shows = false;
};
std::map<std::string, Seen> nodesOf(const aiScene& scene) {
    std::map<std::string, Seen> out;
    const std::function<void(const aiNode&, const aiMatrix4x4&)> visit = [&](const aiNode& node,
                                                                             const aiMatrix4x4& above) {
        const aiMatrix4x4 world = above * node.mTransformation;
        Seen seen{{world.a4, world.b4, world.c4}, {}, node.mNumMeshes > 0};
        aiVector3D low(1e9f), high(-1e9f);
        for (unsigned m = 0; m < node.mNumMeshes; ++m) {
            const aiMesh& mesh = *scene.mMeshes[node.mMeshes[m]];
            for (unsigned v = 0; v < mesh.mNumVertices; ++v) {
                const aiVector3D p = world * mesh.mVertices[v];
                for (unsigned k = 0; k < 3; ++k)
                    low[k] = std::min(low[k], p[k]), high[k] = std::max(high[k], p[k]);
            }
        }
        seen.centre = (low + high) * 0.5f;
        out[node.mName.C_Str()] = seen;
        for (unsigned c = 0; c < node.mNumChildren; ++c) visit(*node.mChildren[c], world);
    };
    visit(*scene.mRootNode, {});
    return out;
}

} // namespace

TEST_CASE("swapped wheels sit on their hubs, every node is there, and both carts' pictures are whole") {
    const TemporaryFolder out;
    const auto sources = filesBelow(demo() / "derby-cart");
    const auto built = cli("build " + quoted(demo() / "bergamot-quay.zestloom") +
                           " --piece 'Derby cart' --platform oxbow --out " + quoted(out / "car") + " --json");
    REQUIRE(built.code == 0);
    CHECK(filesBelow(demo() / "derby-cart") == sources); // the original is untouched
    CHECK(built.json()["credits"].get<std::string>().find("Odd Fennel") != std::string::npos);
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile((out / "car/derby-cart.glb").string(), 0);
    REQUIRE(scene);
    auto nodes = nodesOf(*scene);
    for (const char* kind : {"hub", "wheel", "brake"})
        for (const char* end : {"front.left", "front.right", "rear.left", "rear.right"})
            CHECK(nodes.contains(std::string(kind) + "." + end));
    for (const char* end : {"front.left", "front.right", "rear.left", "rear.right"}) {
        const Seen &wheel = nodes[std::string("wheel.") + end], &hub = nodes[std::string("hub.") + end];
        CHECK(wheel.shows);
        CHECK((wheel.centre - hub.place).Length() < 1e-4f);
    }
    // Of both carts' pictures those that are worn, byte for byte; the twice-named one has a name of its own.
    std::set<std::string> theirs, delivered;
    for (const char* cart : {"derby-cart", "dandy-cart"})
        for (const auto& [name, bytes] : filesBelow(demo() / cart / "skins")) theirs.insert(bytes);
    for (const auto& [name, bytes] : filesBelow(out / "car/skins")) {
        CHECK(theirs.contains(bytes));
        delivered.insert(bytes);
    }
    CHECK(delivered.contains(readText(demo() / "dandy-cart/skins/wheel.png")));
    CHECK(delivered.contains(readText(demo() / "derby-cart/skins/planks.png")));
    const auto tried = cli("try " + quoted(out / "car") + " --platform oxbow --json");
    CHECK(tried.code == 0);
    CHECK(tried.json()["tests"]["wheels"][0]["radius"].get<double>() == Approx(0.38));
    // The pose for the picture leaves every other file as it is.
    const auto posed = cli("build " + quoted(demo() / "bergamot-quay.zestloom") +
                           " --piece 'Derby cart' --platform oxbow --steering -30 --wheel-offset 0.1 --out " +
                           quoted(out / "posed"));
    REQUIRE(posed.code == 0);
    auto plain = filesBelow(out / "car"), other = filesBelow(out / "posed");
    CHECK(plain["preview.png"] != other["preview.png"]);
    plain.erase("preview.png"), other.erase("preview.png");
    CHECK(plain == other);
}

TEST_CASE("a car goes into the game's folder with a plan first, and comes out to the byte") {
    const TemporaryFolder out;
    std::filesystem::copy(demo() / "games/oxbow-circuit", out / "game",
                          std::filesystem::copy_options::recursive);
    const auto before = filesBelow(out / "game");
    REQUIRE(cli("build " + quoted(demo() / "bergamot-quay.zestloom") +
                " --piece 'Derby cart' --platform oxbow --out " + quoted(out / "car"))
                .code == 0);
    const std::string into = " --into " + quoted(out / "game");
    const auto plan = cli("install " + quoted(out / "car") + into + " --dry-run --json");
    CHECK(plan.code == 0);
    CHECK(plan.json()["done"] == false);
    CHECK(plan.json()["keptAs"] == "derby-cart-original");
    CHECK(filesBelow(out / "game") == before);
    const auto done = cli("install " + quoted(out / "car") + into + " --keep-as quay-derby --json");
    REQUIRE(done.code == 0);
    CHECK(done.json()["done"] == true);
    for (const auto& [name, bytes] : filesBelow(out / "car"))
        CHECK(readText(out / "game/cars/derby-cart" / name) == bytes);
    CHECK(readText(out / "game/cars/quay-derby/derby-cart.glb") ==
          before.at("cars/derby-cart/derby-cart.glb"));
    // The game takes both: the new one, and the original under its other name.
    CHECK(cli("try " + quoted(out / "game/cars/derby-cart") + " --platform oxbow").code == 0);
    CHECK(cli("try " + quoted(out / "game/cars/quay-derby") + " --platform oxbow").code == 0);
    CHECK(cli("uninstall " + quoted(out / "game") + " nothing --json").code == 2);
    CHECK(cli("uninstall " + quoted(out / "game") + " derby-cart --json").code == 0);
    CHECK(filesBelow(out / "game") == before);
    // One file of the dandy cart is locked in the game.
    REQUIRE(cli("build " + quoted(demo() / "bergamot-quay.zestloom") +
                " --piece 'Dandy cart' --platform oxbow --out " + quoted(out / "dandy"))
                .code == 0);
    const auto locked = cli("install " + quoted(out / "dandy") + into + " --json");
    CHECK(locked.code == 1);
    CHECK(locked.json()["problems"][0] == "cars/dandy-cart/dandy-cart.glb is read-only");
    CHECK(filesBelow(out / "game") == before);
}
