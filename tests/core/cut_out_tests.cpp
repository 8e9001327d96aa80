// Parts cut out and joined back, on both sizes of an outfit; what is kept aside; how marks grow and shrink.
#include "core/geometry/topology.h"
#include "core/geometry/world.h"
#include "core/model/model_bytes.h"
#include "core/model/promises.h"
#include "core/recipe/recipe.h"
#include "core/selection/cut_out.h"
#include "support/quickest.h"
#include "support/rich_model.h"

#include <catch2/catch.hpp>

#include <random>
#include <set>

using namespace zl;
using namespace zl::selection;

namespace {

/// A level grid of squares, each of two triangles, a metre apart; UVs are the places.
Mesh grid(int side) {
    Mesh mesh;
    mesh.uvSets.emplace_back();
    for (int z = 0; z <= side; ++z)
        for (int x = 0; x <= side; ++x)
            mesh.positions.emplace_back(x, 0, z), mesh.uvSets[0].emplace_back(x, z);
    const auto at = [&](int x, int z) { return std::uint32_t(z * (side + 1) + x); };
    for (int z = 0; z < side; ++z)
        for (int x = 0; x < side; ++x)
            mesh.indices.insert(mesh.indices.end(), {at(x, z), at(x, z + 1), at(x + 1, z), at(x + 1, z),
                                                     at(x, z + 1), at(x + 1, z + 1)});
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    return mesh;
}

std::vector<char> marked(const Mesh& mesh, const std::set<std::size_t>& triangles) {
    std::vector<char> out(mesh.triangleCount(), 0);
    for (const std::size_t t : triangles) out[t] = 1;
    return out;
}

std::size_t count(const std::vector<char>& marks) {
    return std::size_t(std::ranges::count(marks, 1));
}

Chosen onFirst(const Model& model, std::vector<char> marks) {
    Chosen out{std::vector<std::vector<char>>(model.nodes.size())};
    out.faces[0] = std::move(marks);
    return out;
}

std::vector<char> allNodes(const Model& model) {
    return std::vector<char>(model.nodes.size(), 1);
}

const Mesh& shown(const Model& model, std::size_t node) {
    return *model.meshes[std::size_t(model.nodes[node].mesh)];
}

/// The same corners and triangles, made broader.
Model broader(const Model& slim) {
    Model out = slim;
    auto mesh = std::make_shared<Mesh>(*slim.meshes[0]);
    for (auto& p : mesh->positions) p = p * glm::vec3(1.4f, 1, 1.2f) + glm::vec3(0.05f * p.y, 0, 0);
    out.meshes[0] = mesh;
    return out;
}

} // namespace

TEST_CASE("marks grow and shrink by a ring, and a border that juts is smoothed") {
    const Mesh mesh = grid(5); // 50 triangles; square (x, z) has 10 z + 2 x and the next
    const auto middle = marked(mesh, {24, 25});
    // Every triangle that touches one of the four corners (2..3, 2..3): by hand, all of the 3 by 3 squares
    // but the two triangles that only have its far corners.
    CHECK(count(grown(mesh, middle)) == 16);
    CHECK(shrunk(mesh, grown(mesh, middle)) == middle);
    CHECK(count(shrunk(mesh, middle)) == 0);
    CHECK(count(shrunk(mesh, std::vector<char>(50, 1))) == 50); // an open edge is no border
    auto jutting = marked(mesh, {});
    for (std::size_t t = 0; t < 20; ++t) jutting[t] = 1; // two rows
    const auto straight = jutting;
    jutting[13] = 0; // a bite between three marked ones
    CHECK(smoothed(mesh, jutting) == straight);
    CHECK(grown(mesh, marked(mesh, {})) == marked(mesh, {}));
}

TEST_CASE("a UV island ends where the same edge lies at other UVs") {
    Mesh mesh = grid(4);
    // The right half gets corners of its own at x = 2, whose UVs are elsewhere.
    const auto first = std::uint32_t(mesh.vertexCount());
    for (std::uint32_t z = 0; z <= 4; ++z) {
        mesh.positions.push_back(mesh.positions[z * 5 + 2]);
        mesh.uvSets[0].emplace_back(100, z);
    }
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
        if (t % 8 >= 4)
            for (std::size_t k = 0; k < 3; ++k)
                if (auto& i = mesh.indices[3 * t + k]; i % 5 == 2 && i < 25) i = first + i / 5;
    CHECK(count(grownToLooseParts(mesh, marked(mesh, {0}))) == 32);
    const auto island = grownToIslands(mesh, marked(mesh, {0}));
    CHECK(count(island) == 16);
    for (std::size_t t = 0; t < 32; ++t) CHECK(bool(island[t]) == (t % 8 < 4));
    mesh.uvSets.clear();
    CHECK(count(grownToIslands(mesh, marked(mesh, {0}))) == 32);
}

TEST_CASE("who keeps a triangle whose corners all lie on the border is a choice") {
    const Mesh mesh = grid(5);
    // All around the triangle 24 is chosen, itself not: its three corners are both sides'.
    auto marks = grown(mesh, marked(mesh, {24}));
    marks[24] = 0;
    CHECK(withBorder(mesh, marks, Border::AsChosen)[24] == 0);
    CHECK(withBorder(mesh, marks, Border::Inside)[24] == 1);
    CHECK(withBorder(mesh, marks, Border::Outside)[24] == 0);
    const auto alone = marked(mesh, {24});
    CHECK(count(withBorder(mesh, alone, Border::Outside)) == 0);
    CHECK(withBorder(mesh, alone, Border::Inside) == alone);
}

TEST_CASE("random parts cut out of both sizes are equal in counts, order and numbers, and go back as bytes") {
    const Model slim = richModel(), broad = broader(slim);
    const std::string slimBytes = toBytes(slim), broadBytes = toBytes(broad);
    std::mt19937 random(12);
    for (int round = 0; round < 200; ++round) {
        std::vector<char> marks(slim.meshes[0]->triangleCount(), 0);
        const unsigned share = 1 + random() % 9;
        for (char& mark : marks) mark = random() % 10 < share;
        if (count(marks) == 0 || count(marks) == marks.size()) continue;
        const CutOut how{"part", false, Border(random() % 3)};
        const auto made = [&](const Model& of) { return cutOut(of, onFirst(of, marks), how); };
        const Model a = made(slim), b = made(broad);
        REQUIRE(brokenPromise(a).empty());
        REQUIRE(a.nodes.size() == b.nodes.size());
        for (std::size_t n = 0; n < a.nodes.size(); ++n) {
            if (a.nodes[n].mesh < 0) continue;
            CHECK(shown(a, n).indices == shown(b, n).indices);
            CHECK(shown(a, n).vertexCount() == shown(b, n).vertexCount());
        }
        if (a.nodes.size() == slim.nodes.size()) continue; // the border left one side nothing
        // No corner moves or gets another normal.
        const auto edge = [](const Mesh& mesh) {
            std::set<std::array<float, 6>> out;
            for (std::size_t i = 0; i < mesh.vertexCount(); ++i)
                out.insert({mesh.positions[i].x, mesh.positions[i].y, mesh.positions[i].z, mesh.normals[i].x,
                            mesh.normals[i].y, mesh.normals[i].z});
            return out;
        };
        auto both = edge(shown(a, 0));
        both.merge(edge(shown(a, a.nodes.size() - 1)));
        CHECK(both == edge(*slim.meshes[0]));
        CHECK(toBytes(joinedBack(a, allNodes(a), Weld::Part)) == slimBytes);
        CHECK(toBytes(joinedBack(b, allNodes(b), Weld(round % 3))) == broadBytes);
    }
}

TEST_CASE("a closed solid is closed again after its parts were joined back, be they changed in between") {
    const Model ball = shapes::modelOf(shapes::sphere(24, 12), "ball");
    REQUIRE(geometry::topologyOf(*ball.meshes[0]).watertight);
    std::vector<char> marks(ball.meshes[0]->triangleCount(), 0);
    for (std::size_t t = 0; t < marks.size() / 3; ++t) marks[t] = 1;
    Model cut = cutOut(ball, onFirst(ball, marks), {"cap", false, Border::AsChosen});
    REQUIRE(cut.nodes.size() == 2);
    CHECK(shown(cut, 1).normals.size() == shown(cut, 1).vertexCount()); // of the whole: no seam shows
    auto higher = std::make_shared<Mesh>(shown(cut, 1));
    for (auto& p : higher->positions) p.y -= 0.5f;
    cut.meshes[std::size_t(cut.nodes[1].mesh)] = higher;
    std::vector<std::string> notes;
    const Model back = joinedBack(cut, allNodes(cut), Weld::Part, &notes);
    CHECK(notes.empty());
    REQUIRE(back.nodes.size() == 1);
    CHECK(shown(back, 0).indices == ball.meshes[0]->indices);
    CHECK(geometry::topologyOf(shown(back, 0)).watertight);
    CHECK(geometry::worldBounds(back).min.y == Approx(-1.5));
    // The border is the part's, the rest's, or halfway.
    const auto lowestMoved = [&](Weld weld) {
        const Model joined = joinedBack(cut, allNodes(cut), weld);
        std::set<int> moved; // in quarters of a metre
        for (std::size_t i = 0; i < shown(joined, 0).vertexCount(); ++i)
            moved.insert(
                int(std::lround(4 * (ball.meshes[0]->positions[i].y - shown(joined, 0).positions[i].y))));
        return moved;
    };
    CHECK(lowestMoved(Weld::Part) == std::set<int>{0, 2});
    CHECK(lowestMoved(Weld::Rest) == std::set<int>{0, 2});
    CHECK(lowestMoved(Weld::Middle) == std::set<int>{0, 1, 2});
    // With other triangles it comes behind, and says so.
    auto fewer = std::make_shared<Mesh>(shown(cut, 1));
    for (auto& p : fewer->positions) p.y += 0.5f;
    fewer->indices.resize(fewer->indices.size() - 3);
    fewer->runs.back().triangleCount -= 1;
    cut.meshes[std::size_t(cut.nodes[1].mesh)] = fewer;
    const Model rough = joinedBack(cut, allNodes(cut), Weld::Part, &notes);
    REQUIRE(notes.size() == 1);
    CHECK(rough.nodes.size() == 1);
    CHECK(geometry::topologyOf(shown(rough, 0)).openEdges == 3); // the triangle that was left out
}

TEST_CASE("a copy leaves the original whole, and what is chosen wholly is an object already") {
    const Model slim = richModel();
    std::vector<int> made;
    std::vector<char> some(slim.meshes[0]->triangleCount(), 0);
    some[3] = some[4] = 1;
    const Model copied = cutOut(slim, onFirst(slim, some), {"", true, Border::AsChosen}, &made);
    REQUIRE(made.size() == 1);
    CHECK(copied.meshes[0] == slim.meshes[0]);
    CHECK(copied.nodes[std::size_t(made[0])].name == "bell part");
    CHECK(shown(copied, std::size_t(made[0])).triangleCount() == 2);
    CHECK(toBytes(joinedBack(copied, allNodes(copied), Weld::Part)) == toBytes(copied)); // nothing was cut
    made.clear();
    const Model whole = cutOut(slim, onFirst(slim, std::vector<char>(some.size(), 1)),
                               {"gong", false, Border::AsChosen}, &made);
    CHECK(made == std::vector<int>{0});
    CHECK(whole.nodes[0].name == "gong");
    CHECK(whole.nodes.size() == slim.nodes.size());
}

namespace {

recipe::Entry step(const char* id, nlohmann::json params) {
    return {id, true, steps::makeStep(id, params)->params()};
}

nlohmann::json stored(const Model& model, const std::vector<char>& marks) {
    return toJson(selection::stored(model, onFirst(model, marks)));
}

} // namespace

TEST_CASE("what is kept aside keeps its shape while the rest is stretched, and the seam stays closed") {
    const Model ball = shapes::modelOf(shapes::sphere(24, 12), "ball");
    std::vector<char> cap(ball.meshes[0]->triangleCount(), 0);
    for (std::size_t t = 0; t < 24 * 5; ++t) cap[t] = 1; // three rings from the lower pole
    const recipe::Recipe recipe{
        step("keep-aside", {{"faces", stored(ball, cap)}, {"steps", 1}}),
        step("reshape", {{"rows", {{{"low", -5}, {"high", 5}, {"scale", {2, 1, 1}}}}}}),
        step("reshape", {{"rows", {{{"low", -5}, {"high", 5}, {"move", {0, 1, 0}}}}}})};
    const auto done = recipe::evaluate(ball, 1, recipe, {}, nullptr);
    REQUIRE(done.model.nodes.size() == 1);
    const Mesh& mesh = shown(done.model, 0);
    CHECK(mesh.indices == ball.meshes[0]->indices);
    CHECK(geometry::topologyOf(mesh).watertight);
    std::set<std::uint32_t> kept;
    for (std::size_t i = 0; i < 3 * 24 * 5; ++i) kept.insert(mesh.indices[i]);
    for (std::uint32_t v = 0; v < mesh.vertexCount(); ++v) {
        const glm::vec3 was = ball.meshes[0]->positions[v], is = mesh.positions[v];
        CHECK(is.y == Approx(was.y + 1)); // the second reshape is behind the bracket
        CHECK(is.x == Approx((kept.contains(v) ? 1 : 2) * was.x).margin(1e-6));
    }
    CHECK(triangleCount(done.after[0]) == ball.meshes[0]->triangleCount() - 24 * 5);
    CHECK(triangleCount(done.after[1]) == ball.meshes[0]->triangleCount());
    // Nothing within changes it: byte for byte as it was, also from the cache, also when the recipe ends
    // first.
    recipe::EvaluationCache cache;
    const recipe::Recipe idle{step("keep-aside", {{"faces", stored(ball, cap)}, {"steps", 9}})};
    CHECK(toBytes(recipe::evaluate(ball, 1, idle, {}, &cache).model) == toBytes(ball));
    const auto again = recipe::evaluate(ball, 1, idle, {}, &cache);
    CHECK(toBytes(again.model) == toBytes(ball));
    CHECK(again.outcomes[0].fromCache);
}

TEST_CASE("what is kept aside goes along where the whole is moved, turned or sized") {
    const Model ball = shapes::modelOf(shapes::sphere(24, 12), "ball");
    std::vector<char> cap(ball.meshes[0]->triangleCount(), 0);
    for (std::size_t t = 0; t < 24 * 5; ++t) cap[t] = 1;
    const auto keep = step("keep-aside", {{"faces", stored(ball, cap)}, {"steps", 2}});
    const auto turn = step("turn", {{"y", 90}});
    const auto floor = step("stand-on-floor", nlohmann::json::object());
    const Model with = recipe::evaluate(ball, 1, {keep, turn, floor}, {}, nullptr).model;
    const Model without = recipe::evaluate(ball, 1, {turn, floor}, {}, nullptr).model;
    CHECK(shown(with, 0).positions == shown(without, 0).positions);
    // The floor was looked for without the cap, which hangs below it then; it is still one piece.
    CHECK(geometry::topologyOf(shown(with, 0)).watertight);
}

TEST_CASE("of two materials with one name each comes back as it was") {
    Model bell = richModel();
    bell.materials[1].name = bell.materials[0].name;
    std::vector<char> some(bell.meshes[0]->triangleCount(), 0);
    for (std::size_t t = 8; t < 14; ++t) some[t] = 1; // of both
    const auto keep = step("keep-aside", {{"faces", stored(bell, some)}, {"steps", 1}});
    CHECK(toBytes(recipe::evaluate(bell, 1, {keep}, {}, nullptr).model) == toBytes(bell));
}

TEST_CASE("chosen faces get a material of their own with other settings, and the rest keeps its own") {
    const Model bell = richModel();
    std::vector<char> some(bell.meshes[0]->triangleCount(), 0);
    some[2] = some[3] = some[15] = 1; // two of bronze, one of rope
    const auto entry = step("part-material", {{"faces", stored(bell, some)},
                                              {"called", "badge"},
                                              {"settings",
                                               {{{"name", "shine"}, {"value", "0.8"}},
                                                {{"name", "glows"}, {"value", "true"}},
                                                {{"name", "kind"}, {"value", "nan"}}}}});
    const Model out = recipe::evaluate(bell, 1, {entry}, {}, nullptr).model;
    REQUIRE(brokenPromise(out).empty());
    REQUIRE(out.materials.size() == 4);
    CHECK(out.materials[2].name == "badge");
    CHECK(out.materials[3].name == "badge-2");
    CHECK(out.materials[2].settings ==
          MaterialSettings{{"shine", 0.8}, {"glows", true}, {"kind", std::string("nan")}});
    CHECK(out.materials[0].settings.empty());
    CHECK(out.materials[2].pictures == bell.materials[0].pictures);
    const auto worn = triangleMaterials(shown(out, 0));
    CHECK(std::ranges::count(worn, 2) == 2);
    CHECK(std::ranges::count(worn, 3) == 1);
    CHECK(shown(out, 0).positions == bell.meshes[0]->positions);
    CHECK(shown(out, 0).runs.size() == 5); // three that were there, two behind
}

TEST_CASE("half of 800 000 triangles is cut out in a moment") {
    const Model big = shapes::modelOf(shapes::sphere(1000, 401), "scan");
    Model shaded = big;
    auto mesh = std::make_shared<Mesh>(*big.meshes[0]);
    mesh->normals = mesh->positions;
    shaded.meshes[0] = mesh;
    std::vector<char> half(mesh->triangleCount(), 0);
    for (std::size_t t = 0; t < half.size(); t += 2) half[t] = 1;
    const auto timed = [&](const Model& of) {
        const WorkWatch watch;
        const Model cut = cutOut(of, onFirst(of, half), {"half", false, Border::AsChosen});
        CHECK(triangleCount(cut) == half.size());
        return watch.seconds();
    };
    const double withNormals = timed(shaded), without = timed(big);
    WARN("cut out of 0.8 M triangles: " << withNormals << " s, without normals " << without << " s");
    CHECK(withNormals < 1.5); // 0.3 s on a machine of its own
}
