// Geometry against slow and simple ways of finding the same, on many random shapes.
#include "core/geometry/clean.h"
#include "core/geometry/deviation.h"
#include "core/geometry/enclosure.h"
#include "core/geometry/extract.h"
#include "core/geometry/flat_outline.h"
#include "core/geometry/foot.h"
#include "core/geometry/heading.h"
#include "core/geometry/light_mesh.h"
#include "core/geometry/normals.h"
#include "core/geometry/parts.h"
#include "core/geometry/polygon.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/reduce.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"
#include "support/random_tree.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <map>
#include <random>
#include <set>

using namespace zl;

namespace {

using Random = std::mt19937;

double uniform(Random& random, double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
}
glm::vec3 point(Random& random, double size = 1) {
    return {uniform(random, -size, size), uniform(random, -size, size), uniform(random, -size, size)};
}

/// Triangles between corners of a small grid, many of them equal, some without area.
Mesh soup(Random& random, int triangles, int grid = 3) {
    Mesh mesh;
    for (int t = 0; t < triangles; ++t)
        for (int k = 0; k < 3; ++k) {
            mesh.indices.push_back(std::uint32_t(mesh.positions.size()));
            mesh.positions.emplace_back(random() % grid, random() % grid, random() % grid);
        }
    mesh.runs = {{0, std::uint32_t(triangles), -1}};
    return mesh;
}

/// The places of a mesh's triangles, corner by corner.
std::vector<glm::vec3> placesOf(const Mesh& mesh) {
    std::vector<glm::vec3> places;
    for (const std::uint32_t i : mesh.indices) places.push_back(mesh.positions[i]);
    return places;
}

/// Distance from a point to a triangle, by its seven regions (Ericson, "Real-Time Collision
/// Detection", 5.1.5).
double distanceTo(const glm::dvec3& p, const glm::dvec3& a, const glm::dvec3& b, const glm::dvec3& c) {
    const glm::dvec3 ab = b - a, ac = c - a, ap = p - a;
    const double d1 = glm::dot(ab, ap), d2 = glm::dot(ac, ap);
    if (d1 <= 0 && d2 <= 0) return glm::length(ap);
    const glm::dvec3 bp = p - b;
    const double d3 = glm::dot(ab, bp), d4 = glm::dot(ac, bp);
    if (d3 >= 0 && d4 <= d3) return glm::length(bp);
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) return glm::length(ap - ab * (d1 / (d1 - d3)));
    const glm::dvec3 cp = p - c;
    const double d5 = glm::dot(ab, cp), d6 = glm::dot(ac, cp);
    if (d6 >= 0 && d5 <= d6) return glm::length(cp);
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) return glm::length(ap - ac * (d2 / (d2 - d6)));
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        const double w = (d4 - d3) / ((d4 - d3) + (d5 - d6));
        return glm::length(bp - (c - b) * w);
    }
    const double v = vb / (va + vb + vc), w = vc / (va + vb + vc);
    return glm::length(ap - ab * v - ac * w);
}

/// Boxes in a row, a metre apart, as one mesh.
Model boxes(int count) {
    Mesh all;
    for (int i = 0; i < count; ++i) {
        const Mesh box = geometry::boxMesh({2.0 * i, 0, 0}, {2.0 * i + 1, 1, 1});
        const auto base = std::uint32_t(all.positions.size());
        all.positions.insert(all.positions.end(), box.positions.begin(), box.positions.end());
        for (const std::uint32_t k : box.indices) all.indices.push_back(base + k);
    }
    return shapes::modelOf(all, "row");
}

} // namespace

TEST_CASE("welding finds what comparing every corner with every other finds") {
    Random random(1);
    for (int round = 0; round < 40; ++round) {
        const Mesh mesh = soup(random, 1 + int(random() % 60));
        const auto result = geometry::weld(mesh, 0);
        std::set<std::array<float, 3>> places;
        for (const glm::vec3& p : mesh.positions) places.insert({p.x, p.y, p.z});
        CHECK(result.mesh.vertexCount() == places.size());
        CHECK(result.cornersJoined == mesh.vertexCount() - places.size());
        CHECK(placesOf(result.mesh) == placesOf(mesh)); // nothing moved, nothing lost its turn
    }
}

TEST_CASE("welding keeps corners apart whose UVs differ, and joins those that agree in all") {
    Random random(2);
    for (int round = 0; round < 40; ++round) {
        Mesh mesh = soup(random, 1 + int(random() % 60));
        mesh.uvSets.emplace_back();
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) mesh.uvSets[0].emplace_back(random() % 2, 0);
        std::set<std::array<float, 4>> different;
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
            const glm::vec3& p = mesh.positions[v];
            different.insert({p.x, p.y, p.z, mesh.uvSets[0][v].x});
        }
        CHECK(geometry::weld(mesh, 0).mesh.vertexCount() == different.size());
    }
}

TEST_CASE("welding within a tolerance moves no corner further than that") {
    Random random(3);
    for (int round = 0; round < 20; ++round) {
        Mesh mesh = soup(random, 50);
        for (glm::vec3& p : mesh.positions) p += point(random, 0.004);
        const auto result = geometry::weld(mesh, 0.02f);
        const auto before = placesOf(mesh), after = placesOf(result.mesh);
        REQUIRE(before.size() == after.size());
        for (std::size_t i = 0; i < before.size(); ++i)
            CHECK(glm::distance(before[i], after[i]) <= 0.02f * 1.0001f);
        CHECK(result.mesh.vertexCount() <= 27); // the grid's corners
    }
}

TEST_CASE("edges are counted as a map of them counts them") {
    Random random(4);
    for (int round = 0; round < 60; ++round) {
        const Mesh mesh = soup(random, 1 + int(random() % 30), 2 + round % 3);
        std::map<std::pair<std::array<float, 3>, std::array<float, 3>>, int> edges;
        const auto at = [&](std::uint32_t corner) {
            const glm::vec3& p = mesh.positions[corner];
            return std::array<float, 3>{p.x, p.y, p.z};
        };
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
            const std::uint32_t* c = &mesh.indices[3 * t];
            if (at(c[0]) == at(c[1]) || at(c[1]) == at(c[2]) || at(c[2]) == at(c[0])) continue;
            for (int k = 0; k < 3; ++k) {
                auto a = at(c[k]), b = at(c[(k + 1) % 3]);
                if (b < a) std::swap(a, b);
                ++edges[{a, b}];
            }
        }
        std::size_t open = 0, many = 0;
        for (const auto& [edge, count] : edges) open += count == 1, many += count > 2;
        const auto topology = geometry::topologyOf(mesh);
        CHECK(topology.openEdges == open);
        CHECK(topology.nonManifoldEdges == many);
        CHECK(topology.watertight == (!edges.empty() && open == 0 && many == 0));
    }
}

TEST_CASE("loose parts are as many as flooding from corner to corner finds") {
    const int count = GENERATE(1, 2, 5, 17);
    const Model model = boxes(count);
    const auto all = [](const Node&) { return true; };
    CHECK(geometry::topologyOf(*model.meshes[0]).pieces == std::size_t(count));
    const Model split = geometry::splitObjects(model, geometry::SplitBy::LoosePart, all);
    CHECK(objectCount(split) == std::size_t(count));
    CHECK(triangleCount(split) == std::size_t(12 * count));
    const Model joined = geometry::joinedObjects(split, all, "row");
    CHECK(objectCount(joined) == 1);
    CHECK(geometry::worldBounds(joined).size() == geometry::worldBounds(model).size());
    CHECK(std::abs(geometry::signedVolume(geometry::flattened(joined))) == Approx(count));
}

TEST_CASE("the nearest triangle is the one that trying all of them gives") {
    Random random(6);
    Mesh mesh;
    for (int t = 0; t < 120; ++t) {
        const glm::vec3 at = point(random, 2);
        for (int k = 0; k < 3; ++k) {
            mesh.indices.push_back(std::uint32_t(mesh.positions.size()));
            mesh.positions.push_back(at + point(random, 0.4));
        }
    }
    mesh.runs = {{0, 120, -1}};
    const geometry::RayScene scene(mesh);
    for (int i = 0; i < 300; ++i) {
        const glm::vec3 p = point(random, 3);
        double least = 1e9;
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
            least = std::min(least, distanceTo(p, mesh.positions[3 * t], mesh.positions[3 * t + 1],
                                               mesh.positions[3 * t + 2]));
        CHECK(scene.distanceTo(p) == Approx(least).epsilon(1e-4).margin(1e-5));
    }
    Mesh nothing;
    CHECK(std::isinf(geometry::RayScene(nothing).distanceTo({0, 0, 0})));
}

TEST_CASE("the nearest place on long slivers is as exact as on any triangle") {
    // The sides of a thin pole: 5 mm wide, 1.4 m long, standing askew.
    Mesh mesh;
    Random random(8);
    const glm::dmat4 turn = glm::rotate(glm::dmat4(1), 0.7, glm::normalize(glm::dvec3(1, 2, 3)));
    const auto at = [&](int k, double y) {
        const double angle = 0.19635 * k;
        return glm::vec3(turn * glm::dvec4(0.0275 * std::sin(angle), y, 0.0275 * std::cos(angle), 1));
    };
    for (int k = 0; k < 32; ++k)
        for (const glm::vec3& p :
             {at(k, -0.7), at(k + 1, -0.7), at(k + 1, 0.7), at(k, -0.7), at(k + 1, 0.7), at(k, 0.7)}) {
            mesh.indices.push_back(std::uint32_t(mesh.positions.size()));
            mesh.positions.push_back(p);
        }
    mesh.runs = {{0, 64, -1}};
    const geometry::RayScene scene(mesh);
    for (int i = 0; i < 1000; ++i) {
        const glm::vec3 p = glm::vec3(
            turn * glm::dvec4(point(random, 0.03).x, point(random, 0.7).y, point(random, 0.03).z, 1));
        double least = 1e9;
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
            least = std::min(least, distanceTo(p, mesh.positions[3 * t], mesh.positions[3 * t + 1],
                                               mesh.positions[3 * t + 2]));
        CHECK(scene.distanceTo(p) == Approx(least).epsilon(1e-4).margin(1e-6));
    }
}

TEST_CASE("rays meet a sphere where the quadratic says") {
    const geometry::RayScene scene(shapes::sphere(160, 80));
    Random random(7);
    int met = 0;
    for (int i = 0; i < 300; ++i) {
        const glm::vec3 from = glm::normalize(point(random)) * 3.0f, to = point(random, 1.2);
        const glm::vec3 way = glm::normalize(to - from);
        const float b = glm::dot(from, way), c = glm::dot(from, from) - 1, d = b * b - c;
        const auto hit = scene.hit(from, way);
        if (std::abs(d) < 0.02f) continue; // it grazes the facets
        CHECK(hit.has_value() == (d > 0));
        if (hit) CHECK(hit->distance == Approx(-b - std::sqrt(d)).margin(0.01));
        met += hit.has_value();
    }
    CHECK(met > 50);
    CHECK(scene.blocked({0, 0, 3}, {0, 0, -1}, 0, 10));
    CHECK_FALSE(scene.blocked({0, 0, 3}, {0, 0, -1}, 0, 1.5f));
}

TEST_CASE("polygons are cut into triangles of the same area, all facing alike") {
    Random random(8);
    for (int round = 0; round < 200; ++round) {
        // A star around its middle: no two edges cross, many corners are concave.
        const int corners = 3 + int(random() % 12);
        std::vector<glm::vec3> outline;
        glm::dvec3 area(0);
        for (int i = 0; i < corners; ++i) {
            const double turn = 2 * shapes::pi * i / corners, r = uniform(random, 0.3, 1.5);
            outline.emplace_back(r * std::cos(turn), r * std::sin(turn), 0);
        }
        const glm::mat4 tilt = glm::rotate(glm::mat4(1), float(round), glm::normalize(point(random) + 0.01f));
        for (glm::vec3& p : outline) p = glm::vec3(tilt * glm::vec4(p, 1));
        for (int i = 0; i < corners; ++i)
            area += glm::cross(glm::dvec3(outline[i]), glm::dvec3(outline[(i + 1) % corners])) / 2.0;
        std::vector<std::uint32_t> cut;
        geometry::triangulate(outline, cut);
        REQUIRE(cut.size() == 3 * std::size_t(corners - 2));
        double sum = 0;
        for (std::size_t t = 0; t < cut.size(); t += 3) {
            const glm::dvec3 a(outline[cut[t]]), b(outline[cut[t + 1]]), c(outline[cut[t + 2]]);
            const double own = glm::dot(glm::cross(b - a, c - a), glm::normalize(area)) / 2;
            CHECK(own > -1e-6);
            sum += own;
        }
        CHECK(sum == Approx(glm::length(area)).epsilon(1e-4));
    }
}

TEST_CASE("outlines hold every point, and their corners are all needed") {
    Random random(9);
    for (int round = 0; round < 60; ++round) {
        std::vector<glm::dvec2> points;
        for (int i = 3 + int(random() % 40); i > 0; --i)
            points.emplace_back(uniform(random, -1, 1), uniform(random, -1, 1));
        const auto outline = geometry::convexOutline(points);
        REQUIRE(outline.size() >= 3);
        const auto side = [](glm::dvec2 a, glm::dvec2 b, glm::dvec2 p) {
            return (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);
        };
        for (std::size_t i = 0; i < outline.size(); ++i) {
            const glm::dvec2 a = outline[i], b = outline[(i + 1) % outline.size()];
            for (const glm::dvec2& p : points) CHECK(side(a, b, p) >= -1e-12);
            CHECK(side(a, b, outline[(i + 2) % outline.size()]) > 0);
        }
        const auto circle = geometry::smallestCircle(points);
        int onIt = 0;
        for (const glm::dvec2& p : points) {
            const double away = glm::length(p - circle.centre);
            CHECK(away <= circle.radius * (1 + 1e-9));
            onIt += away > circle.radius * (1 - 1e-6);
        }
        CHECK(onIt >= 2); // otherwise a smaller one would do
    }
}

TEST_CASE("deviation between a sphere and one of another radius is the difference of the radii") {
    const double grow = GENERATE(0.001, 0.01, 0.1);
    const auto found =
        geometry::deviationBetween(shapes::sphere(200, 100), shapes::sphere(200, 100, 1 + grow));
    CHECK(found.largest == Approx(grow).epsilon(0.05).margin(3e-4)); // the facets' sag is 2.5e-4
    CHECK(found.mean == Approx(grow).epsilon(0.05).margin(3e-4));
    CHECK(found.mean <= found.largest);
    CHECK(geometry::deviationBetween(Mesh{}, shapes::sphere(8, 4)).samples == 0);
}

TEST_CASE("what reducing gives is always valid, within the old bounds and not more than was there") {
    Random random(10);
    for (int round = 0; round < 12; ++round) {
        const Mesh mesh = shapes::sphere(12 + int(random() % 60), 8 + int(random() % 30));
        const std::size_t wanted = 8 + random() % mesh.triangleCount();
        const Mesh out = geometry::reduce(mesh, {wanted, 0, false});
        CHECK(out.triangleCount() <= std::max(wanted, std::size_t(8)));
        for (const std::uint32_t i : out.indices) CHECK(i < out.vertexCount());
        for (const glm::vec3& p : out.positions) CHECK(glm::length(p) <= 1.0001f);
        std::uint32_t covered = 0;
        for (const MaterialRun& run : out.runs) covered += run.triangleCount;
        CHECK(covered == out.triangleCount());
    }
}

TEST_CASE("a light stand-in is made of any soup without harm") {
    Random random(11);
    for (int round = 0; round < 20; ++round) {
        const Mesh light = geometry::lightMesh(soup(random, 200, 8), 50);
        for (const std::uint32_t i : light.indices) CHECK(i < light.vertexCount());
    }
}

TEST_CASE("extracting and putting together again loses no triangle") {
    Random random(12);
    Mesh mesh = soup(random, 90);
    std::vector<int> materials;
    for (int t = 0; t < 90; ++t) materials.push_back(t / 30);
    mesh.runs = {{0, 30, 0}, {30, 30, 1}, {60, 30, 2}};
    std::size_t together = 0;
    for (int m = 0; m < 3; ++m) {
        const Mesh part =
            geometry::extracted(mesh, wearOf(materials), [&](std::size_t t) { return materials[t] == m; });
        CHECK(part.triangleCount() == 30);
        const auto whole = placesOf(mesh);
        CHECK(placesOf(part) == std::vector<glm::vec3>(whole.begin() + 90 * m, whole.begin() + 90 * (m + 1)));
        together += part.triangleCount();
        std::set<std::uint32_t> used(part.indices.begin(), part.indices.end());
        CHECK(used.size() == part.vertexCount()); // only the corners they use
    }
    CHECK(together == 90);
}

TEST_CASE("volumes: boxes, cylinders and spheres by their formulas, negative when turned inside out") {
    Random random(13);
    for (int round = 0; round < 20; ++round) {
        const glm::dvec3 low(point(random, 5)), size(glm::abs(point(random, 3)) + 0.1f);
        CHECK(geometry::signedVolume(geometry::boxMesh(low, low + size)) ==
              Approx(size.x * size.y * size.z).epsilon(1e-4));
    }
    const int sides = GENERATE(3, 8, 64);
    const double area = 0.5 * sides * std::sin(2 * shapes::pi / sides); // a regular polygon in a unit circle
    Mesh prism = geometry::cylinderMesh({1, 2, 3}, 1, 4, sides);
    CHECK(geometry::signedVolume(prism) == Approx(4 * area).epsilon(1e-4));
    CHECK(prism.triangleCount() == std::size_t(4 * sides - 4));
    for (std::size_t t = 0; t < prism.triangleCount(); ++t)
        std::swap(prism.indices[3 * t], prism.indices[3 * t + 1]);
    CHECK(geometry::signedVolume(prism) == Approx(-4 * area).epsilon(1e-4));
    const auto turned = geometry::faceOutward(prism);
    CHECK(geometry::signedVolume(turned.mesh) == Approx(4 * area).epsilon(1e-4));
    CHECK(turned.turnedOutward == prism.triangleCount());
}

TEST_CASE("any number of wrongly turned faces of a closed body is turned back") {
    Random random(14);
    for (int round = 0; round < 20; ++round) {
        Mesh mesh = shapes::sphere(14, 9);
        const double whole = geometry::signedVolume(mesh);
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
            if (random() % 3 == 0) std::swap(mesh.indices[3 * t], mesh.indices[3 * t + 2]);
        const auto fixed = geometry::faceOutward(mesh);
        CHECK(geometry::signedVolume(fixed.mesh) == Approx(whole));
        CHECK(geometry::topologyOf(fixed.mesh).disagreeingEdges == 0);
    }
}

TEST_CASE("cleaning leaves no sliver and no double, and closed bodies closed") {
    Random random(15);
    for (int round = 0; round < 20; ++round) {
        Mesh mesh = shapes::sphere(12, 8);
        const std::size_t good = mesh.triangleCount();
        const auto again = random() % 5;
        for (unsigned i = 0; i < again; ++i) { // some triangles twice, turned about their corners
            const std::size_t t = random() % good;
            const auto a = mesh.indices[3 * t], b = mesh.indices[3 * t + 1], c = mesh.indices[3 * t + 2];
            mesh.indices.insert(mesh.indices.end(), {b, c, a});
        }
        mesh.indices.insert(mesh.indices.end(), {5, 5, 9}); // two equal corners
        mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
        const auto cleaned = geometry::clean(mesh, 0);
        CHECK(cleaned.mesh.triangleCount() == good);
        CHECK(cleaned.doublesRemoved == again);
        CHECK(cleaned.sliversRemoved == 1);
        CHECK(geometry::topologyOf(cleaned.mesh).watertight);
    }
}

TEST_CASE("normals made anew are of length one and face as their faces do") {
    Random random(16);
    const Mesh mesh = shapes::exploded(shapes::sphere(24, 12));
    const Mesh out = geometry::withNormals(mesh);
    REQUIRE(out.normals.size() == out.vertexCount());
    for (std::size_t t = 0; t < out.triangleCount(); ++t)
        for (int k = 0; k < 3; ++k) {
            const glm::vec3& n = out.normals[out.indices[3 * t + k]];
            CHECK(glm::length(n) == Approx(1).epsilon(1e-4));
            CHECK(glm::dot(n, geometry::faceNormal(out, t)) > 0);
        }
}

TEST_CASE("the foot of a prism on its base is that base, wherever it stands and however it is turned") {
    Random random(17);
    for (int round = 0; round < 20; ++round) {
        const double r = uniform(random, 0.1, 3), turn = uniform(random, 0, 6);
        const glm::dvec3 at(point(random, 20));
        Model model = shapes::modelOf(geometry::cylinderMesh({0, 0, 0}, r, 2 * r, 24));
        model = moved(model, glm::rotate(glm::translate(glm::dmat4(1.0), at), turn, {0.0, 1.0, 0.0}));
        const auto foot = geometry::footOf(model);
        CHECK(foot.outline.size() >= 24);
        CHECK(foot.outline.size() <= 26); // rounding may leave a corner on a straight edge
        CHECK(glm::length(foot.middle - glm::dvec2(at.x, at.z)) < 1e-4 * r + 1e-5);
        CHECK(foot.bottom == Approx(at.y).margin(1e-5));
        CHECK(foot.width() <= 2 * r * 1.0001);
        CHECK(foot.width() >= 2 * r * std::cos(shapes::pi / 24) * 0.999);
    }
}

TEST_CASE("a guessed front turns with the model") {
    const Model cart = shapes::cart();
    for (int step = 0; step < 16; ++step) {
        const double turn = step * shapes::pi / 8;
        Model turned = moved(cart, glm::rotate(glm::dmat4(1.0), turn, {0.0, 1.0, 0.0}));
        turned = moved(turned, glm::translate(glm::dmat4(1.0), {7.0, 0.5 * step, -3.0}));
        const auto found = geometry::guessHeading(turned);
        REQUIRE(found);
        INFO(turn << " gives " << found->angle);
        CHECK(std::abs(std::remainder(found->angle - (turn - shapes::pi / 2), 2 * shapes::pi)) <
              (step % 4 ? 1e-4 : 1e-6));
    }
}

TEST_CASE("flattening keeps every corner where its node puts it") {
    for (unsigned seed = 1; seed < 6; ++seed) {
        const Model tree = shapes::randomTree(30, seed);
        std::vector<int> nodes;
        const Mesh flat = geometry::flattened(tree, &nodes);
        CHECK(flat.triangleCount() == triangleCount(tree));
        REQUIRE(nodes.size() == flat.triangleCount());
        const auto world = worldMatrices(tree);
        geometry::Bounds slow;
        for (const Node& node : tree.nodes)
            if (node.mesh >= 0)
                for (const glm::vec3& p : tree.meshes[node.mesh]->positions)
                    slow.add(glm::dvec3(world[&node - tree.nodes.data()] * glm::dvec4(p, 1)));
        const auto fast = geometry::worldBounds(tree);
        CHECK(glm::length(fast.min - slow.min) < 1e-9 * glm::length(slow.size()));
        CHECK(glm::length(geometry::meshBounds(flat).max - slow.max) < 1e-5 * glm::length(slow.size()));
    }
}
