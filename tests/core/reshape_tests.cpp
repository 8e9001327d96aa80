// Corners moved and scaled by numbers, between heights and with a falloff.
#include "core/geometry/reshape.h"
#include "core/geometry/world.h"
#include "support/finds.h"
#include "support/shapes.h"

using namespace zl;
using json = nlohmann::json;

namespace {

json row(double low, double high, double falloff, std::array<double, 3> move,
         std::array<double, 3> scale = {1, 1, 1}) {
    return {{"low", low}, {"high", high}, {"falloff", falloff}, {"move", move}, {"scale", scale}};
}

/// A post of 2 m with rings of corners at every quarter metre.
Model post() {
    Mesh mesh;
    for (int ring = 0; ring <= 8; ++ring)
        for (int k = 0; k < 4; ++k)
            mesh.positions.emplace_back(k == 0 || k == 3 ? -0.1f : 0.1f, 0.25f * float(ring),
                                        k < 2 ? -0.1f : 0.1f);
    for (std::uint32_t ring = 0; ring < 8; ++ring)
        for (std::uint32_t k = 0; k < 4; ++k) {
            const std::uint32_t a = 4 * ring + k, b = 4 * ring + (k + 1) % 4;
            mesh.indices.insert(mesh.indices.end(), {a, a + 4, b, b, a + 4, b + 4});
        }
    return shapes::modelOf(mesh, "post");
}

} // namespace

TEST_CASE("The weight of a height is one within, half at half the falloff, none beyond") {
    CHECK(geometry::rangeWeight(0.5, 0, 1, 0.2) == 1);
    CHECK(geometry::rangeWeight(1, 0, 1, 0) == 1);
    CHECK(geometry::rangeWeight(1.1, 0, 1, 0.2) == Approx(0.5));
    CHECK(geometry::rangeWeight(-0.05, 0, 1, 0.2) == Approx(0.84375)); // t = 3/4: 3·9/16 - 2·27/64
    CHECK(geometry::rangeWeight(1.2, 0, 1, 0.2) == Approx(0).margin(1e-12));
    CHECK(geometry::rangeWeight(1.3, 0, 1, 0.2) == 0);
    CHECK(geometry::rangeWeight(1.0001, 0, 1, 0) == 0);
}

TEST_CASE("Only what lies between the heights moves, and less of what is near") {
    const Model out = ran(post(), "reshape", {{"rows", {row(1.5, 2, 0.5, {0.3, 0, 0})}}});
    const auto& p = out.meshes.back()->positions;
    CHECK(p[0].x == Approx(-0.1));     // at the foot
    CHECK(p[4 * 4].x == Approx(-0.1)); // 1 m: a whole falloff away
    CHECK(p[4 * 5].x == Approx(0.05)); // 1.25 m: half
    CHECK(p[4 * 6].x == Approx(0.2));  // 1.5 m
    CHECK(p[4 * 8].x == Approx(0.2));
}

TEST_CASE("Scaling is about the middle of what is between, and rows follow one another") {
    Model model = moved(post(), glm::translate(glm::dmat4(1.0), {5, 0, 0}));
    std::vector<std::string> notes;
    const Model out =
        ran(model, "reshape", {{"rows", {row(0, 2, 0, {0, 0, 0}, {2, 1.5, 1}), row(2.9, 3, 0, {0, 1, 0})}}},
            &notes);
    const auto bounds = geometry::worldBounds(out);
    CHECK(bounds.min.x == Approx(4.8));
    CHECK(bounds.max.x == Approx(5.2));
    CHECK(bounds.min.y == Approx(0).margin(1e-6));
    CHECK(bounds.max.y == Approx(4)); // 3 m after the first row, its top ring a metre higher after the second
    CHECK(notes.back() == "40 corners changed; X, Y, Z here are X, Y, Z in the file");
}

TEST_CASE("Normals turn with their faces, and hard edges stay hard") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    const Mesh shared = *model.meshes[0];
    Mesh mesh; // each triangle with corners and a normal of its own
    for (const std::uint32_t corner : shared.indices) {
        mesh.indices.push_back(std::uint32_t(mesh.positions.size()));
        mesh.positions.push_back(shared.positions[corner]);
    }
    for (std::size_t c = 0; c < mesh.positions.size(); ++c) {
        const glm::vec3* p = &mesh.positions[c / 3 * 3];
        mesh.normals.push_back(glm::normalize(glm::cross(p[1] - p[0], p[2] - p[0])));
    }
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    // The top shifted by its own height: sides that faced X lean by 45°, the top still looks up.
    const Model out = ran(model, "reshape", {{"rows", {row(1, 1, 0, {1, 0, 0})}}});
    const Mesh& changed = *out.meshes.back();
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        if (mesh.normals[v].x > 0.9f)
            CHECK(glm::distance(changed.normals[v], glm::normalize(glm::vec3(1, -1, 0))) < 1e-5f);
        if (mesh.normals[v].y > 0.9f) CHECK(glm::distance(changed.normals[v], glm::vec3(0, 1, 0)) < 1e-5f);
        if (mesh.normals[v].z > 0.9f) CHECK(glm::distance(changed.normals[v], glm::vec3(0, 0, 1)) < 1e-5f);
    }
}

TEST_CASE("Chosen faces alone are reshaped, the file's axes are named, and nothing between is said") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.nodes.push_back({"lid", -1, glm::translate(glm::dmat4(1.0), {0, 1, 0}), 0});
    model = withFrame(model, {unitNamed("m"), Up::Z, false, false});
    std::vector<std::string> notes;
    const auto params = [&](const json& rows) { return json{{"rows", rows}}; };
    ran(model, "reshape", params(json::array({row(0, 1, 0, {0, 0, 0})})), &notes);
    CHECK(notes.back().find("X, Y, Z here are X, Z, -Y in the file") != std::string::npos);
    ran(model, "reshape", params(json::array({row(50, 60, 0, {0, 0, 0})})), &notes);
    CHECK(notes.front() == "nothing lies between 50 m and 60 m");
    CHECK_NOTHROW(ran(model, "reshape",
                      params(json::array({row(0, 1, 0, {0, 0, 0}, {0, 0, 0})})))); // flattened to nothing
}

TEST_CASE("Corners that would go farther than numbers do are refused") {
    const Model huge = shapes::box({-3e38, 0, -1}, {3e38, 1, 1});
    auto step = steps::makeStep("reshape", {{"rows", {{{"scale", {4, 1, 1}}}}}});
    steps::StepContext context{{}};
    CHECK_THROWS_WITH(step->apply(huge, context), Catch::Contains("farther away than numbers go"));
}
