// Selections brought to a size of other topology by nearest surface.
#include "core/base/error.h"
#include "core/selection/carried_over.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <random>

using namespace zl;

namespace {

Model ball(int around, int up, double wide, const std::string& name = "coat") {
    Model model = shapes::modelOf(shapes::sphere(around, up, 0.5), name);
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    for (auto& p : mesh->positions) p = glm::vec3(wide * p.x, p.y, wide * p.z);
    model.meshes[0] = mesh;
    return model;
}

double middleHeight(const Mesh& mesh, std::size_t t) {
    double y = 0;
    for (std::size_t k = 0; k < 3; ++k) y += double(mesh.positions[mesh.indices[3 * t + k]].y) / 3;
    return y;
}

/// All faces above a height, as stored faces.
selection::Selection above(const Model& model, double height) {
    selection::Chosen marks{{std::vector<char>(model.meshes[0]->triangleCount(), 0)}};
    for (std::size_t t = 0; t < marks.faces[0].size(); ++t)
        marks.faces[0][t] = middleHeight(*model.meshes[0], t) > height;
    return selection::stored(model, marks);
}

} // namespace

TEST_CASE("a selection is carried to another topology by nearest surface, and says how sure that is") {
    const Model slim = ball(64, 33, 1), broad = ball(50, 27, 1.4);
    const auto selection = above(slim, 0.2);
    CHECK_THROWS_AS(selection::chosen(broad, selection), Error);
    const auto guess = selection::carriedOver(selection, slim, broad);
    CHECK(guess.certain > 0.85);
    CHECK(guess.certain < 1);
    CHECK(guess.onFirst.count() == selection::chosen(slim, selection).count());
    // Every face is right that is not cut by the border.
    const Mesh& mesh = *broad.meshes[0];
    std::size_t wrong = 0, far = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        const double height = middleHeight(mesh, t);
        if (std::abs(height - 0.2) < 0.03) continue;
        ++far;
        wrong += guess.onSecond.has(0, t) != (height > 0.2);
    }
    CHECK(far > mesh.triangleCount() / 2);
    CHECK(wrong == 0);
    // Kept, it holds on both from now on, also read from its file; and nowhere else.
    const auto back = selection::fromJson(selection::toJson(guess.selection));
    CHECK(back == guess.selection);
    CHECK(selection::chosen(broad, back).count() == guess.onSecond.count());
    CHECK(selection::chosen(slim, back).count() == guess.onFirst.count());
    CHECK_THROWS_AS(selection::chosen(ball(20, 11, 1), back), Error);
    // Done again it takes the place of the last guess.
    CHECK(selection::carriedOver(back, slim, broad).selection == back);
}

TEST_CASE("where topologies are alike nothing is guessed") {
    const Model slim = ball(32, 17, 1), broad = ball(32, 17, 1.4);
    const auto selection = above(slim, 0.1);
    const auto guess = selection::carriedOver(selection, slim, broad);
    CHECK(guess.certain == 1);
    CHECK(guess.selection == selection);
    CHECK(guess.onSecond.count() == guess.onFirst.count());
}

TEST_CASE("of two layers that lie close the one that faces the same way is taken for sure") {
    // An outer shell and a lining inside it that faces inward; the outer one is chosen.
    const auto coat = [](int around) {
        Model model = ball(around, around / 2 + 1, 1);
        auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
        const auto corners = std::uint32_t(mesh->vertexCount());
        for (std::uint32_t v = 0; v < corners; ++v) {
            mesh->positions.push_back(0.99f * mesh->positions[v]);
            for (auto& uvs : mesh->uvSets) uvs.push_back(uvs[v]);
        }
        const std::size_t count = mesh->indices.size();
        for (std::size_t i = 0; i < count; i += 3)
            for (const std::size_t k : {i, i + 2, i + 1}) mesh->indices.push_back(mesh->indices[k] + corners);
        mesh->runs = {{0, std::uint32_t(mesh->triangleCount()), -1}};
        model.meshes[0] = mesh;
        return model;
    };
    const Model slim = coat(48), broad = coat(40);
    selection::Chosen marks{{std::vector<char>(slim.meshes[0]->triangleCount(), 0)}};
    for (std::size_t t = 0; t < marks.faces[0].size() / 2; ++t) marks.faces[0][t] = 1;
    const auto guess = selection::carriedOver(selection::stored(slim, marks), slim, broad);
    const std::size_t half = broad.meshes[0]->triangleCount() / 2;
    std::size_t outer = 0;
    for (std::size_t t = 0; t < half; ++t) outer += guess.onSecond.has(0, t);
    CHECK(outer > half * 95 / 100);
    CHECK(guess.onSecond.count() - outer < half / 20);
}

TEST_CASE("what has no pair, no faces or no size cannot be carried, or is without harm") {
    const Model slim = ball(32, 17, 1);
    const auto selection = above(slim, 0.1);
    CHECK_THROWS_AS(selection::carriedOver(selection, slim, {}), Error);
    Model two = ball(20, 11, 1, "hat");
    two.nodes.push_back({"scarf", -1, glm::dmat4(1.0), 0});
    CHECK_THROWS_WITH(selection::carriedOver(selection, slim, two), Catch::Contains("\"coat\""));
    CHECK_THROWS_AS(selection::carriedOver(selection, two, slim), Error); // it does not hold on the first
    for (const float bad : {0.0f, 1e30f, 1e-30f}) {
        Model odd = ball(20, 11, 1);
        auto mesh = std::make_shared<Mesh>(*odd.meshes[0]);
        for (auto& p : mesh->positions) p *= bad;
        odd.meshes[0] = mesh;
        const auto guess = selection::carriedOver(selection, slim, odd);
        CHECK(guess.certain >= 0);
        CHECK(guess.certain <= 1);
    }
}
