// Selections: what each term chooses, what holds on a twin, and what is refused rather than taken for
// another.
#include "core/base/json_text.h"
#include "core/geometry/world.h"
#include "core/model/node_path.h"
#include "core/selection/chosen.h"
#include "core/selection/face_ranges.h"
#include "core/selection/left_out.h"
#include "support/finds.h"
#include "support/random_tree.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;
using namespace zl::selection;

namespace {

/// A box of 12 triangles called "crate" with one material, and two more of one mesh beside it.
Model crates() {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.materials = {{.name = "pine"}, {.name = "tin"}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, 10, 0}, {10, 2, 1}};
    model.meshes[0] = mesh;
    model.nodes[0].name = "crate";
    model.nodes.push_back({"lid", 0, glm::translate(glm::dmat4(1.0), {0.0, 2.0, 0.0}), 0});
    model.nodes.push_back({"lid", 0, glm::translate(glm::dmat4(1.0), {0.0, 4.0, 0.0}), 0});
    return model;
}

Selection of(What what) {
    return {{{std::move(what), false}}};
}

StoredFaces storedOn(const Model& model, const NodePath& path, std::vector<std::uint32_t> faces) {
    const int node = nodesByPath(model).at(path);
    return {path, topologyHash(*model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)]),
            std::move(faces)};
}

std::vector<std::size_t> counts(const Chosen& chosen) {
    std::vector<std::size_t> out;
    for (std::size_t n = 0; n < chosen.faces.size(); ++n) out.push_back(chosen.countOf(n));
    return out;
}

using Counts = std::vector<std::size_t>;

} // namespace

TEST_CASE("a node's path tells twins apart and keeps slashes of names apart from its own") {
    Model model;
    model.nodes = {{"hull", -1}, {"a/b", 0}, {"a", 0}, {"b", 2}, {"wheel", 0}, {"wheel", 0}, {"wheel#2", 0}};
    const auto paths = nodePaths(model);
    CHECK(paths == std::vector<NodePath>{"hull", "hull/a\\/b", "hull/a", "hull/a/b", "hull/wheel",
                                         "hull/wheel#2", "hull/wheel\\#2"});
    CHECK(nodesByPath(model).size() == model.nodes.size());
    const Model tree = shapes::randomTree(500, 3);
    CHECK(nodesByPath(tree).size() == 500); // each its own
}

TEST_CASE("faces are kept as ranges") {
    CHECK(rangesOf({0, 1, 2, 5, 7, 8}) == "0-2 5 7-8");
    CHECK(rangesOf({}) == "");
    CHECK(facesFrom("0-2 5 7-8") == std::vector<std::uint32_t>{0, 1, 2, 5, 7, 8});
    CHECK(facesFrom("").empty());
    CHECK(facesFrom("5 1-3 2") == std::vector<std::uint32_t>{1, 2, 3, 5});
    for (const char* wrong : {"x", "1-", "3-1", "-2", "1,2", "0-4000000000", "99999999999"})
        CHECK_THROWS_AS(facesFrom(wrong), Error);
}

TEST_CASE("terms choose parts, materials, what hangs together, regions, boxes and stored faces") {
    const Model model = crates();
    CHECK(counts(chosen(model, {})) == Counts{0, 0, 0});
    CHECK(counts(chosen(model, of(OfParts{{"lid"}, {}}))) == Counts{0, 12, 12});
    CHECK(counts(chosen(model, of(OfParts{{}, {"crate/lid#2"}}))) == Counts{0, 0, 12});
    CHECK(counts(chosen(model, of(OfParts{{"keel"}, {"mast"}}))) == Counts{0, 0, 0});
    CHECK(counts(chosen(model, of(OfMaterials{{"t*"}}))) == Counts{2, 2, 2});
    CHECK(counts(chosen(model, of(OfFaces{storedOn(model, "crate/lid", {0, 3})}))) == Counts{0, 2, 0});
    CHECK(counts(chosen(model, of(OfLooseParts{storedOn(model, "crate/lid", {0})}))) == Counts{0, 12, 0});
    // A side of a box is two triangles in a plane; at 91° all sides are one region.
    CHECK(counts(chosen(model, of(OfRegion{storedOn(model, "crate", {0}), 0.5}))) == Counts{2, 0, 0});
    CHECK(counts(chosen(model, of(OfRegion{storedOn(model, "crate", {0}), 1.59}))) == Counts{12, 0, 0});
    // The middle of a lid's faces: all of it above 1.5; of the second lid the lower half is below 4.5.
    CHECK(counts(chosen(model, of(InBox{{-9, 1.5, -9}, {9, 9, 9}}))) == Counts{0, 12, 12});
    CHECK(counts(chosen(model, of(InBox{{-9, 4.9, -9}, {9, 9, 9}}))) == Counts{0, 0, 2});
}

TEST_CASE("a term takes away what those before it chose, and no more") {
    const Model model = crates();
    Selection all = of(OfParts{{"*"}, {}});
    all.terms.push_back({OfMaterials{{"tin"}}, true});
    CHECK(counts(chosen(model, all)) == Counts{10, 10, 10});
    all.terms.push_back({OfFaces{storedOn(model, "crate", {10})}, false});
    CHECK(counts(chosen(model, all)) == Counts{11, 10, 10});
}

TEST_CASE("kept selections are used by name, and circles are refused") {
    const Model model = crates();
    const std::map<std::string, Selection, std::less<>> kept{
        {"lids", of(OfParts{{"lid"}, {}})},
        {"both", {{{OfNamed{"lids"}, false}, {OfNamed{"lids"}, false}}}},
        {"a", of(OfNamed{"b"})},
        {"b", of(OfNamed{"a"})}};
    const KeptSelections find = [&](std::string_view name) {
        const auto found = kept.find(name);
        return found == kept.end() ? nullptr : &found->second;
    };
    CHECK(counts(chosen(model, of(OfNamed{"both"}), find)) == Counts{0, 12, 12});
    CHECK_THROWS_WITH(chosen(model, of(OfNamed{"a"}), find), Catch::Contains("uses itself"));
    CHECK_THROWS_WITH(chosen(model, of(OfNamed{"none"}), find), Catch::Contains("no selection"));
    CHECK_THROWS_AS(chosen(model, of(OfNamed{"lids"})), Error);
}

TEST_CASE("a chain of kept selections that each use the next twice takes no longer than it is long") {
    std::map<std::string, Selection, std::less<>> kept;
    for (int i = 0; i < 60; ++i) {
        const OfNamed next{fmt::format("{}", i + 1)};
        kept[fmt::format("{}", i)] = {{{next, false}, {next, false}}};
    }
    kept["60"] = of(OfParts{{"lid"}, {}});
    CHECK(chosen(crates(), of(OfNamed{"0"}), [&](std::string_view name) {
              return &kept.find(name)->second;
          }).count() == 24);
}

TEST_CASE("stored faces hold on a twin of the same topology and are refused on another") {
    const Model slim = crates();
    const auto term = of(OfFaces{storedOn(slim, "crate", {1, 2})});
    Model broad = crates();
    auto wide = std::make_shared<Mesh>(*broad.meshes[0]);
    for (auto& p : wide->positions) p.x *= 1.4f;
    broad.meshes[0] = wide;
    CHECK(counts(chosen(broad, term)) == Counts{2, 0, 0});
    SECTION("the twin's object is called otherwise, and is the only one alike") {
        broad.nodes.resize(1);
        broad.nodes[0].name = "crate-broad";
        CHECK(counts(chosen(broad, term)) == Counts{2});
    }
    SECTION("several could be meant") {
        broad.nodes[0].name = "crate-broad";
        CHECK_THROWS_WITH(chosen(broad, term), Catch::Contains("not there"));
    }
    SECTION("its triangles are numbered otherwise") {
        auto other = std::make_shared<Mesh>(*wide);
        std::swap(other->indices[0], other->indices[1]);
        broad.meshes[0] = other;
        CHECK_THROWS_WITH(chosen(broad, term), Catch::Contains("numbered otherwise"));
    }
    SECTION("a face beyond the last") {
        CHECK_THROWS_WITH(chosen(slim, of(OfFaces{storedOn(slim, "crate", {12})})),
                          Catch::Contains("no triangle 12"));
    }
}

TEST_CASE("what was chosen can be stored and means the same again") {
    const Model model = crates();
    Selection mixed = of(OfParts{{}, {"crate/lid"}});
    mixed.terms.push_back({OfFaces{storedOn(model, "crate", {0, 1, 7})}, false});
    const auto first = chosen(model, mixed);
    const auto kept = stored(model, first);
    CHECK(kept.terms.size() == 2);
    CHECK(chosen(model, kept).faces == first.faces);
    CHECK(fromJson(nlohmann::json::parse(jsonText(toJson(kept)))) == kept);
}

TEST_CASE("every term survives JSON, and JSON that is none is refused") {
    const Model model = crates();
    const Selection all{{{OfParts{{"a*"}, {}}, false},
                         {OfParts{{}, {"x/y"}}, true},
                         {OfMaterials{{"tin"}}, false},
                         {OfLooseParts{storedOn(model, "crate", {1})}, false},
                         {OfRegion{storedOn(model, "crate", {1}), 0.5}, true},
                         {InBox{{-1, -2, -3}, {1, 2, 3}}, false},
                         {OnBone{"elbow", 0.25}, false},
                         {OfFaces{storedOn(model, "crate", {1, 2, 3})}, true},
                         {OfNamed{"kept"}, false}}};
    const Selection back = fromJson(toJson(all));
    REQUIRE(back.terms.size() == all.terms.size());
    CHECK(toJson(back) == toJson(all));
    CHECK(inWords(all).find("without") != std::string::npos);
    for (const char* wrong :
         {"{}", "[3]", "[{}]", R"([{"less": true}])", R"([{"parts": "x"}])", R"([{"less": 1, "parts": []}])",
          R"([{"parts": [], "materials": []}])", R"([{"faces": {"object": "x"}}])",
          R"([{"faces": {"object": "x", "topology": "12", "faces": "1"}}])",
          R"([{"region": {"object": "x", "topology": "0123456789abcdef", "faces": "1", "angle": 400}}])",
          R"([{"box": {"least": [0, 0], "most": [1, 1, 1]}}])",
          R"([{"bone": {"name": "x", "weight": 2}}])"}) {
        INFO(wrong);
        CHECK_THROWS_AS(fromJson(nlohmann::json::parse(wrong)), Error);
    }
}

TEST_CASE(
    "leaving out takes the chosen faces, and objects of which nothing is left unless others need them") {
    const Model model = crates();
    Selection some = of(OfParts{{}, {"crate/lid"}});
    some.terms.push_back({OfFaces{storedOn(model, "crate", {0, 1, 7})}, false});
    const Model out = ran(model, "leave-out", {{"faces", toJson(some)}});
    REQUIRE(out.nodes.size() == 2);
    CHECK(out.nodes[1].name == "lid");
    CHECK(triangleCount(out) == 9 + 12); // the other lid shows the whole mesh still
    CHECK(geometry::worldBounds(out).max.y == Approx(5));
    // The crate's node stays, for the lids hang on it.
    const Model lids = ran(model, "leave-out", {{"faces", toJson(of(OfParts{{"crate"}, {}}))}});
    CHECK(lids.nodes.size() == 3);
    CHECK(objectCount(lids) == 2);
    std::vector<std::string> notes;
    CHECK(triangleCount(ran(model, "leave-out", nlohmann::json::object(), &notes)) == 36);
    CHECK(notes == std::vector<std::string>{"nothing is chosen"});
    CHECK(triangleCount(ran(model, "leave-out", {{"faces", toJson(of(OfParts{{"*"}, {}}))}})) == 0);
}

TEST_CASE("hidden inner parts go, and what is seen through a gap stays") {
    Model model = shapes::box({0, 0, 0}, {10, 10, 10}); // closed
    model.nodes[0].name = "case";
    const Model inner = shapes::modelOf(shapes::sphere(12, 8, 2), "gear");
    model.meshes.push_back(inner.meshes[0]);
    model.nodes.push_back({"gear", -1, glm::translate(glm::dmat4(1.0), {5.0, 5.0, 5.0}), 1});
    model.nodes.push_back({"knob", -1, glm::translate(glm::dmat4(1.0), {15.0, 5.0, 5.0}), 1});
    std::vector<std::string> notes;
    const Model out = ran(model, "remove-hidden", nlohmann::json::object(), &notes);
    CHECK(objectCount(out) == 2);
    CHECK(std::ranges::none_of(out.nodes, [](const Node& node) { return node.name == "gear"; }));
    REQUIRE(notes.size() == 1);
    CHECK(notes[0].find("gear") != std::string::npos);
    // Without the top everything inside is seen; the gear from above only, which is enough for a part.
    auto open = std::make_shared<Mesh>(*model.meshes[0]);
    std::vector<std::uint32_t> indices;
    for (std::size_t t = 0; t < open->triangleCount(); ++t) {
        bool top = true;
        for (std::size_t k = 0; k < 3; ++k) top &= open->positions[open->indices[3 * t + k]].y > 9;
        if (!top)
            indices.insert(indices.end(), open->indices.begin() + long(3 * t),
                           open->indices.begin() + long(3 * t + 3));
    }
    open->indices = indices;
    open->runs = {{0, std::uint32_t(indices.size() / 3), -1}};
    Model opened = model;
    opened.meshes[0] = open;
    CHECK(objectCount(ran(opened, "remove-hidden")) == 3);
    CHECK(triangleCount(ran(opened, "remove-hidden")) == triangleCount(opened));
    CHECK(triangleCount(ran(Model{}, "remove-hidden")) == 0);
}
