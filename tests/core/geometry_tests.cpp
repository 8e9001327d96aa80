#include "core/geometry/clean.h"
#include "core/geometry/deviation.h"
#include "core/geometry/foot.h"
#include "core/geometry/lean.h"
#include "core/geometry/light_mesh.h"
#include "core/geometry/normals.h"
#include "core/geometry/polygon.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/reduce.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "support/panels.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <random>

using namespace zl;
using shapes::pi;

TEST_CASE("a box is closed and encloses its volume") {
    const Mesh box = geometry::boxMesh({-1, 0, 2}, {1, 3, 6});
    const auto topology = geometry::topologyOf(box);
    CHECK(topology.watertight);
    CHECK(topology.openEdges == 0);
    CHECK(topology.disagreeingEdges == 0);
    CHECK(topology.pieces == 1);
    CHECK(geometry::signedVolume(box) == Approx(2 * 3 * 4));
}

TEST_CASE("a cylinder has 4n-4 triangles and the volume of its prism") {
    const int sides = GENERATE(6, 32, 64);
    const Mesh cylinder = geometry::cylinderMesh({1, 2, 3}, 0.5, 2, sides);
    CHECK(cylinder.triangleCount() == std::size_t(4 * sides - 4));
    CHECK(geometry::topologyOf(cylinder).watertight);
    const double base =
        0.5 * sides * 0.25 * std::sin(2 * pi / sides); // area of a regular polygon in a circle of 0.5
    CHECK(geometry::signedVolume(cylinder, {1, 2, 3}) == Approx(base * 2).epsilon(1e-5));
    CHECK(geometry::meshBounds(cylinder).min.y == Approx(2));
}

TEST_CASE("welding joins equal corners and leaves seams") {
    const Mesh sphere = shapes::sphere(24, 12);
    const auto result = geometry::weld(shapes::exploded(sphere), 0);
    CHECK(result.mesh.vertexCount() == 24 * 11 + 2);
    CHECK(result.cornersJoined == sphere.indices.size() - (24 * 11 + 2));
    CHECK(geometry::topologyOf(result.mesh).watertight);

    Mesh seam = shapes::exploded(sphere);
    seam.uvSets.emplace_back();
    for (std::size_t i = 0; i < seam.positions.size(); ++i) seam.uvSets[0].emplace_back(float(i % 3), 0.0f);
    const auto kept = geometry::weld(seam, 0);
    CHECK(kept.mesh.vertexCount() > 24 * 11 + 2);      // corners with other UVs stay apart …
    CHECK(geometry::topologyOf(kept.mesh).watertight); // … at one place
}

TEST_CASE("welding within a tolerance moves near corners onto one place") {
    Mesh mesh = shapes::exploded(geometry::boxMesh({0, 0, 0}, {1, 1, 1}));
    for (std::size_t i = 0; i < mesh.positions.size(); ++i)
        mesh.positions[i] += glm::vec3(float(i % 5) * 1e-5f, float(i % 3) * 1e-5f, 0);
    CHECK(geometry::weld(mesh, 0).mesh.vertexCount() > 8);
    CHECK(geometry::weld(mesh, 1e-3f).mesh.vertexCount() == 8);
    // The reach is the tolerance: two corners farther apart stay two.
    Mesh pair;
    pair.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0.002f, 0, 0}, {1, 1, 0}, {0, 2, 0}};
    pair.indices = {0, 1, 2, 3, 4, 5};
    pair.runs = {{0, 2, -1}};
    CHECK(geometry::weld(pair, 0.001f).mesh.vertexCount() == 6);
    CHECK(geometry::weld(pair, 0.003f).mesh.vertexCount() == 5);
}

TEST_CASE("corners that are not numbers are left alone by welding") {
    Mesh mesh;
    const float nan = std::nanf("");
    mesh.positions = {{nan, 0, 0}, {nan, 0, 0}, {0, 0, 0}, {0, 0, 0}};
    const auto place = geometry::joinedPlaces(mesh.positions, 0.1f);
    CHECK(place[0] == 0);
    CHECK(place[1] == 1);
    CHECK(place[3] == 2);
}

TEST_CASE("cleaning drops doubles and slivers and opens no gap") {
    Mesh mesh = shapes::sphere(24, 12);
    const std::size_t good = mesh.triangleCount();
    mesh.indices.insert(mesh.indices.end(), {mesh.indices[0], mesh.indices[1], mesh.indices[2]}); // double
    mesh.indices.insert(mesh.indices.end(), {5, 5, 9});                                           // no area
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    const auto result = geometry::clean(mesh, 0);
    CHECK(result.doublesRemoved == 1);
    CHECK(result.sliversRemoved == 1);
    CHECK(result.mesh.triangleCount() == good);
    CHECK(geometry::topologyOf(result.mesh).watertight);
}

TEST_CASE("a corner on the opposite edge is taken out by turning the edge") {
    // A square of two triangles, one of them split at a point on the diagonal: (0 1 4) has no area.
    Mesh mesh;
    mesh.positions = {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0.5f, 0.5f, 0}};
    mesh.indices = {0, 1, 2, 0, 2, 4, 0, 4, 3, 4, 2, 3};
    mesh.runs = {{0, 4, -1}};
    const auto before = geometry::topologyOf(mesh);
    const auto result = geometry::clean(mesh, 0);
    CHECK(result.sliversRemoved == 1);
    const auto after = geometry::topologyOf(result.mesh);
    CHECK(after.degenerateTriangles == 0);
    CHECK(after.openEdges == before.openEdges); // the outline is as it was
    double area = 0;
    for (std::size_t t = 0; t < result.mesh.triangleCount(); ++t)
        area += 0.5 * geometry::faceNormal(result.mesh, t).z;
    CHECK(area == Approx(1));
}

TEST_CASE("faces are turned to agree and to look outward") {
    Mesh mesh = shapes::sphere(24, 12);
    for (const std::size_t t : {3u, 77u, 200u}) std::swap(mesh.indices[3 * t], mesh.indices[3 * t + 1]);
    const auto some = geometry::faceOutward(mesh);
    CHECK(some.turnedToAgree == 3);
    CHECK(geometry::signedVolume(some.mesh) > 0);
    CHECK(geometry::topologyOf(some.mesh).disagreeingEdges == 0);

    Mesh inside = shapes::sphere(24, 12);
    for (std::size_t t = 0; t < inside.triangleCount(); ++t)
        std::swap(inside.indices[3 * t], inside.indices[3 * t + 1]);
    const auto all = geometry::faceOutward(inside);
    CHECK(all.turnedOutward == inside.triangleCount());
    CHECK(geometry::signedVolume(all.mesh) > 0);
}

TEST_CASE("reducing lands at the wanted number and stays near the sphere") {
    const Mesh sphere = shapes::sphere(160, 80);
    const std::size_t wanted = GENERATE(as<std::size_t>(), 400, 2000, 10000);
    const Mesh reduced = geometry::reduce(sphere, {wanted, 0, false});
    CHECK(reduced.triangleCount() <= wanted);
    CHECK(double(reduced.triangleCount()) >= 0.97 * double(wanted));
    // n equal triangles on a unit sphere have an area of 4π/n, so a circumcircle of R² = 16π/(3√3 n), and dip
    // by R²/2 = 8π/(3√3 n) below it. The method's triangles are not equal; allow six times that.
    const auto deviation = geometry::deviationBetween(sphere, reduced);
    CHECK(deviation.largest < 6 * 8 * pi / (3 * std::sqrt(3.0) * double(wanted)));
    CHECK(deviation.mean < deviation.largest);
}

TEST_CASE("reducing keeps material borders, open borders and UV seams") {
    // A flat sheet of two materials: whatever goes, the border between them and the outline stay straight.
    Mesh sheet;
    sheet.uvSets.emplace_back();
    std::vector<int> materials;
    const int n = 40;
    for (int j = 0; j <= n; ++j)
        for (int i = 0; i <= n; ++i) {
            sheet.positions.emplace_back(i, 0, j);
            sheet.uvSets[0].emplace_back(float(i) / n, float(j) / n);
        }
    std::vector<std::uint32_t> indices;
    for (int j = 0; j < n; ++j)
        for (int i = 0; i < n; ++i) {
            const auto a = std::uint32_t(j * (n + 1) + i);
            indices.insert(indices.end(), {a, a + n + 1, a + 1, a + 1, a + n + 1, a + n + 2});
            materials.insert(materials.end(), 2, i < n / 2 ? 0 : 1);
        }
    std::vector<std::uint32_t> all(sheet.positions.size());
    for (std::uint32_t i = 0; i < all.size(); ++i) all[i] = i;
    sheet = withVertices(sheet, all, indices, wearOf(materials));
    const Mesh reduced = geometry::reduce(sheet, {200, 0, false});
    CHECK(reduced.triangleCount() <= 200);
    double area[2] = {0, 0};
    const auto kept = triangleMaterials(reduced);
    for (std::size_t t = 0; t < reduced.triangleCount(); ++t)
        area[kept[t]] += 0.5 * std::abs(geometry::faceNormal(reduced, t).y);
    CHECK(area[0] == Approx(n * n / 2.0));
    CHECK(area[1] == Approx(n * n / 2.0));
    for (std::size_t i = 0; i < reduced.positions.size(); ++i)
        CHECK(reduced.uvSets[0][i].x == Approx(reduced.positions[i].x / n).margin(1e-5));
}

TEST_CASE("a faceted surface is reduced as far as a smooth one") {
    // Corners of the same place that differ in their normals only hold nothing fast.
    Mesh faceted = shapes::exploded(shapes::sphere(160, 80));
    for (std::size_t t = 0; t < faceted.triangleCount(); ++t)
        faceted.normals.insert(faceted.normals.end(), 3, glm::normalize(geometry::faceNormal(faceted, t)));
    const Mesh reduced = geometry::reduce(faceted, {400, 0, true});
    CHECK(reduced.triangleCount() <= 400);
    CHECK(reduced.triangleCount() >= 388);
    CHECK(reduced.normals.size() == reduced.vertexCount());
    CHECK(geometry::topologyOf(geometry::weld(reduced, 0).mesh).openEdges == 0);
}

TEST_CASE("reducing a faceted box keeps its hard edges") {
    Mesh box = shapes::exploded(geometry::boxMesh({0, 0, 0}, {1, 1, 1}));
    box = geometry::withNormals(geometry::weld(box, 0).mesh, 0.5);
    CHECK(box.vertexCount() == 24);
    const Mesh same = geometry::reduce(box, {12, 0, false});
    CHECK(same.triangleCount() == 12);
}

TEST_CASE("deviation is the distance between shifted planes") {
    const Mesh a = geometry::boxMesh({0, 0, 0}, {1, 1, 1});
    const Mesh b = geometry::boxMesh({0, 0, 0}, {1, 1.25, 1});
    const auto deviation = geometry::deviationBetween(a, b);
    CHECK(deviation.largest == Approx(0.25));
    CHECK(geometry::deviationBetween(a, a).largest == Approx(0).margin(1e-6));
    CHECK(geometry::deviationBetween(a, Mesh{}).samples == 0);
    // Only the lid moved: triangles of the foot stay cold, those of the lid are as hot as it moved.
    const auto heat = geometry::triangleDeviation(a, b);
    float lid = 0, foot = 0;
    for (std::size_t t = 0; t < heat.size(); ++t) {
        const float n = geometry::faceNormal(a, t).y;
        if (n > 0.5f) lid = std::max(lid, heat[t]);
        if (n < -0.5f) foot = std::max(foot, heat[t]);
    }
    CHECK(lid == Approx(0.25));
    CHECK(foot == Approx(0).margin(1e-6));
}

TEST_CASE("every triangle has a nearest point, one without area too") {
    std::mt19937 random(31);
    std::uniform_real_distribution<float> place(-1, 1);
    const auto point = [&] { return glm::vec3(place(random), place(random), place(random)); };
    for (int round = 0; round < 400; ++round) {
        Mesh mesh;
        const glm::vec3 a = point(), b = point();
        switch (round % 5) {
        case 0:
            mesh.positions = {a, b, point()};
            break;
        case 1:
            mesh.positions = {a, a, b};
            break;
        case 2:
            mesh.positions = {a, b, a + (b - a) * (round % 3 == 0 ? 2.0f : 0.4f)};
            break;
        case 3:
            mesh.positions = {a, b, b + 1e-7f * point()};
            break;
        default:
            mesh.positions = {a, a, a};
        }
        mesh.indices = {0, 1, 2};
        mesh.runs = {{0, 1, -1}};
        const geometry::RayScene scene(mesh);
        const glm::vec3 from = 3.0f * point();
        double expected = 1e9; // of points spread over it
        for (int i = 0; i <= 200; ++i)
            for (int j = 0; j <= 200 - i; ++j) {
                const glm::dvec3 p =
                    (double(i) * glm::dvec3(mesh.positions[1]) + double(j) * glm::dvec3(mesh.positions[2]) +
                     double(200 - i - j) * glm::dvec3(mesh.positions[0])) /
                    200.0;
                expected = std::min(expected, glm::distance(p, glm::dvec3(from)));
            }
        INFO("round " << round);
        for (const std::uint32_t guess : {~0u, 0u}) {
            const auto nearest = scene.nearestTo(from, guess);
            CHECK(nearest.distance <= expected + 1e-5);
            CHECK(nearest.distance >= expected - 0.02);
        }
    }
}

TEST_CASE("the foot is the lowest slice, not the box of everything") {
    // A post with a wide arm on top.
    Model model = shapes::box({1, 0, 1}, {2, 5, 3});
    Model arm = shapes::box({-6, 5, 1}, {2, 6, 3});
    model.nodes.push_back({"arm", -1, glm::dmat4(1.0), 1});
    model.meshes.push_back(arm.meshes[0]);
    const auto foot = geometry::footOf(model);
    CHECK(foot.middle.x == Approx(1.5));
    CHECK(foot.middle.y == Approx(2));
    CHECK(foot.width() == Approx(1));
    CHECK(foot.depth() == Approx(2));
    CHECK(foot.bottom == Approx(0).margin(1e-9));
    CHECK(geometry::footOf(Model{}).empty());
}

TEST_CASE("the smallest circle and the outline of known points") {
    const auto circle = geometry::smallestCircle({{0, 0}, {4, 0}, {4, 3}, {0, 3}, {2, 1}});
    CHECK(circle.radius == Approx(2.5));
    CHECK(circle.centre.x == Approx(2));
    CHECK(circle.centre.y == Approx(1.5));
    CHECK(geometry::convexOutline({{0, 0}, {1, 0}, {2, 0}, {2, 2}, {1, 1}, {0, 2}}).size() == 4);
    CHECK(geometry::convexOutline({{0, 0}, {1, 1}, {2, 2}}).size() == 2);
    const auto middle = geometry::middleOf(geometry::convexOutline({{0, 0}, {6, 0}, {0, 3}}));
    CHECK(middle.x == Approx(2));
    CHECK(middle.y == Approx(1));
}

TEST_CASE("concave polygons are cut inside their outline") {
    const std::vector<glm::vec3> arrow{{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {2, 1, 0}, {0, 4, 0}};
    std::vector<std::uint32_t> cut;
    geometry::triangulate(arrow, cut);
    REQUIRE(cut.size() == 9);
    double area = 0;
    for (std::size_t i = 0; i < 9; i += 3) {
        const auto n = glm::cross(arrow[cut[i + 1]] - arrow[cut[i]], arrow[cut[i + 2]] - arrow[cut[i]]);
        CHECK(n.z > 0); // no triangle folded over
        area += 0.5 * n.z;
    }
    CHECK(area == Approx(10)); // 16 minus the notch of 6
    std::vector<std::uint32_t> many;
    geometry::triangulate(std::vector<glm::vec3>(50, glm::vec3(1)), many); // no area at all
    CHECK(many.size() == 48 * 3);
}

TEST_CASE("mirroring turns faces round and normals are carried by the inverse transpose") {
    Mesh box = geometry::withNormals(geometry::boxMesh({0, 0, 0}, {1, 1, 1}), 0.5);
    const auto mirror = glm::scale(glm::dmat4(1.0), {-2.0, 1.0, 1.0});
    const Mesh turned = geometry::transformed(box, mirror);
    CHECK(geometry::signedVolume(turned) == Approx(2));
    for (std::size_t t = 0; t < turned.triangleCount(); ++t)
        CHECK(glm::dot(glm::normalize(geometry::faceNormal(turned, t)),
                       turned.normals[turned.indices[3 * t]]) > 0.999f);
}

TEST_CASE("normals of a sphere point away from its middle, those of a box stay hard") {
    const Mesh sphere = geometry::withNormals(shapes::sphere(48, 24));
    for (std::size_t i = 0; i < sphere.positions.size(); ++i)
        CHECK(glm::dot(sphere.normals[i], glm::normalize(sphere.positions[i])) > 0.99f);
    CHECK(geometry::withNormals(geometry::boxMesh({0, 0, 0}, {1, 1, 1})).vertexCount() == 24);
}

TEST_CASE("a light stand-in is light and keeps materials") {
    const Mesh sphere = shapes::sphere(300, 150);
    const Mesh light = geometry::lightMesh(sphere, 5000);
    CHECK(light.triangleCount() < 8000);
    CHECK(light.triangleCount() > 500);
    CHECK(geometry::meshBounds(light).size().y == Approx(2).margin(0.1));
}

TEST_CASE("how far a body leans before it falls follows from its foot and its middle of mass") {
    const auto degrees = [](const Mesh& mesh, const glm::dmat4& placed = glm::dmat4(1.0)) {
        const auto lean = geometry::leanBeforeFall(mesh, placed);
        REQUIRE(lean);
        return glm::degrees(*lean);
    };
    CHECK(degrees(geometry::boxMesh({-0.5, 0, -0.5}, {0.5, 1, 0.5})) == Approx(45));
    CHECK(degrees(geometry::boxMesh({-1, 3, -1}, {1, 11, 1})) == Approx(glm::degrees(std::atan(0.25))));
    // A cone's middle of mass is at a quarter of its height: 3 wide and 4 tall leans atan(1.5 / 1).
    Mesh cone;
    const int around = 720;
    cone.positions = {{0, 0, 0}, {0, 4, 0}};
    for (int i = 0; i < around; ++i)
        cone.positions.emplace_back(1.5 * std::cos(2 * shapes::pi * i / around), 0,
                                    1.5 * std::sin(2 * shapes::pi * i / around));
    for (std::uint32_t i = 0; i < around; ++i) {
        const std::uint32_t a = 2 + i, b = 2 + (i + 1) % around;
        for (const std::uint32_t c : {0u, a, b, 1u, b, a}) cone.indices.push_back(c);
    }
    CHECK(degrees(cone) == Approx(glm::degrees(std::atan(1.5))).margin(0.01));
    // Upside down it stands on its tip, and leans nowhere.
    CHECK(degrees(cone, glm::rotate(glm::dmat4(1.0), shapes::pi, {1.0, 0.0, 0.0})) < 1);
    // A box that hangs over the side of what it stands on falls by itself: a wide top on a narrow foot at its
    // end.
    Mesh hanging = geometry::boxMesh({0, 0, 0}, {1, 1, 1});
    const Mesh top = geometry::boxMesh({0, 1, 0}, {10, 2, 1});
    const auto first = std::uint32_t(hanging.positions.size());
    hanging.positions.insert(hanging.positions.end(), top.positions.begin(), top.positions.end());
    for (const std::uint32_t c : top.indices) hanging.indices.push_back(c + first);
    CHECK(degrees(hanging) < 0);
    Mesh sheet;
    sheet.positions = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
    sheet.indices = {0, 1, 2};
    CHECK_FALSE(geometry::leanBeforeFall(sheet));
    CHECK_FALSE(geometry::leanBeforeFall(Mesh{}));
}

TEST_CASE("a sheet that sags keeps facing as it does; a bowl that faces inward is turned") {
    const auto bent = [](double sag, bool upward) {
        Mesh mesh = shapes::panel(
            12, 12,
            [&](double x, double y) { return glm::dvec3(2 * x, -sag * std::sin(shapes::pi * x), -3 * y); },
            [](double x, double y) { return glm::dvec2(x, y); });
        if (!upward)
            for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
                std::swap(mesh.indices[3 * t + 1], mesh.indices[3 * t + 2]);
        return mesh;
    };
    for (const double sag : {-0.2, 0.0, 0.1, 0.2})
        for (const bool upward : {true, false}) {
            CAPTURE(sag, upward);
            const Mesh mesh = bent(sag, upward);
            CHECK(geometry::faceOutward(mesh).mesh.indices == mesh.indices);
            Mesh mixed = mesh; // a few the other way round are turned to agree with the rest
            for (std::size_t t = 5; t < 30; ++t)
                std::swap(mixed.indices[3 * t + 1], mixed.indices[3 * t + 2]);
            const auto agreed = geometry::faceOutward(mixed);
            CHECK(agreed.mesh.indices == mesh.indices);
            CHECK(agreed.turnedToAgree == 25);
        }
    // A half pipe bends by 180°: what its hollow side is, nobody doubts.
    const auto pipe = [](bool outward) {
        return shapes::panel(
            24, 4,
            [&](double x, double y) {
                const double a = shapes::pi * (outward ? x : 1 - x);
                return glm::dvec3(-std::cos(a), std::sin(a), -y);
            },
            [](double x, double y) { return glm::dvec2(x, y); });
    };
    CHECK(geometry::faceOutward(pipe(true)).mesh.indices == pipe(true).indices);
    CHECK(geometry::faceOutward(pipe(false)).turnedOutward == pipe(false).triangleCount());
}
