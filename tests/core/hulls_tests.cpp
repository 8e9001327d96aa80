// Convex pieces: known bodies, the limits kept exactly, and what is measured of them.
#include "core/base/error.h"
#include "core/contact/changed_pieces.h"
#include "core/contact/convex_hull.h"
#include "core/contact/convex_pieces.h"
#include "core/contact/pieces_fit.h"
#include "core/contact/plain_shapes.h"
#include "core/contact/rough_hull.h"
#include "core/contact/support_points.h"
#include "core/geometry/clean.h"
#include "core/geometry/line_crossings.h"
#include "peers/vhacd_peer.h"
#include "support/bodies.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <atomic>
#include <random>
#include <set>

using namespace zl;

TEST_CASE("a hull has the corners that stand out, faces outward, and takes no more than it may") {
    std::mt19937 random(7);
    std::uniform_real_distribution<float> any(-1, 1);
    std::vector<glm::vec3> points;
    for (int i = 0; i < 400; ++i) points.emplace_back(any(random), 2 * any(random), 0.1f * any(random));
    for (int i = 0; i < 8; ++i) // the box around them all
        points.emplace_back(i & 1 ? 1 : -1, i & 2 ? 2 : -2, i & 4 ? 0.1 : -0.1);
    const auto box = contact::convexHull(points);
    REQUIRE(box);
    CHECK(box->vertexCount() == 8);
    CHECK(geometry::signedVolume(*box) == Approx(2 * 4 * 0.2));
    checkBody(*box, 8);

    const Mesh ball = shapes::sphere(48, 32, 1);
    const auto whole = contact::convexHull(ball.positions);
    REQUIRE(whole);
    CHECK(geometry::signedVolume(*whole) == Approx(geometry::signedVolume(ball)));
    double before = 0;
    for (const std::size_t corners : {4, 8, 16, 32, 64, 255}) {
        const auto coarse = contact::convexHull(ball.positions, corners);
        REQUIRE(coarse);
        checkBody(*coarse, corners);
        CHECK(coarse->vertexCount() == corners);
        CHECK(geometry::signedVolume(*coarse) > before);
        before = geometry::signedVolume(*coarse);
    }
    CHECK(before > 0.97 * geometry::signedVolume(ball));

    const std::vector<glm::vec3> flat{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {1, 1, 0}, {0.3f, 0.3f, 0}};
    CHECK_FALSE(contact::convexHull(flat));
    CHECK_FALSE(contact::convexHull(std::vector<glm::vec3>(9, glm::vec3(1, 2, 3))));
    CHECK_FALSE(contact::convexHull({}));
    points.emplace_back(NAN, 0, 0);
    CHECK(contact::convexHull(points)->vertexCount() == 8);
}

TEST_CASE("the farthest points of two clouds are those of both, and their hull is within the whole one") {
    std::mt19937 random(11);
    std::normal_distribution<float> any;
    for (int round = 0; round < 20; ++round) {
        contact::SupportPoints one, other, both;
        CHECK(one.points().empty());
        std::vector<glm::vec3> all;
        for (int i = 0; i < 200; ++i) {
            all.emplace_back(any(random) * 3 + 5, any(random), any(random) - 9);
            (i % 3 == 0 ? one : other).add(all.back());
            both.add(all.back());
        }
        one.add(other);
        CHECK(std::ranges::equal(one.points(), both.points()));
        for (const glm::vec3& p : both.points()) CHECK(std::ranges::find(all, p) != all.end());
        const auto hull = contact::convexHull(all);
        REQUIRE(hull);
        const double whole = geometry::signedVolume(*hull), rough = contact::roughHullVolume(both.points());
        CHECK(rough <= whole * 1.0001);
        CHECK(rough > 0.6 * whole);
    }
}

TEST_CASE("the quick volume of a few points is that of their hull") {
    std::mt19937 random(11);
    std::uniform_real_distribution<float> any(-1, 1);
    for (int round = 0; round < 200; ++round) {
        std::vector<glm::vec3> points;
        const int count = 4 + round % 60;
        for (int i = 0; i < count; ++i) points.emplace_back(any(random), any(random), 0.05f * any(random));
        if (round % 3 == 0) // many in one plane, and some twice
            for (glm::vec3& p : points) p = glm::round(p * 2.0f), p.z = p.x > 0 ? p.z : 1;
        const auto hull = contact::convexHull(points);
        const double right = hull ? geometry::signedVolume(*hull) : 0;
        CHECK(contact::roughHullVolume(points) == Approx(right).epsilon(1e-5).margin(1e-6));
    }
    CHECK(contact::roughHullVolume({}) == 0);
    CHECK(contact::roughHullVolume(std::vector<glm::vec3>(30, glm::vec3(1))) == 0);
}

TEST_CASE("a body far from the origin, and a tiny one, are as convex as any") {
    for (const auto& [place, scale] :
         {std::pair(glm::vec3(0), 1e-5f), std::pair(glm::vec3(4000, -2000, 90), 3.0f),
          std::pair(glm::vec3(0), 1e5f)}) {
        Mesh ball = shapes::sphere(24, 16, 1);
        for (glm::vec3& p : ball.positions) p = place + scale * p;
        const auto hull = contact::convexHull(ball.positions);
        REQUIRE(hull);
        checkBody(*hull, ball.vertexCount());
    }
}

TEST_CASE("lines go into a closed surface as often as they come out, also through its edges") {
    // A box whose edges the lines would meet exactly, were they not put beside round numbers; and one grid
    // that is put right onto them.
    const Mesh box = geometry::boxMesh({0, 0, 0}, {2, 1, 1});
    for (int axis = 0; axis < 3; ++axis) {
        auto grid = geometry::linesOver(geometry::meshBounds(box), axis, 8);
        for (const bool onEdges : {false, true}) {
            if (onEdges) grid.first = {0, 0}, grid.step = 0.125, grid.across = grid.down = 17;
            const geometry::LineCrossings crossings(box, grid);
            std::vector<geometry::Stretch> inside;
            double sum = 0;
            for (std::size_t line = 0; line < grid.count(); ++line) {
                REQUIRE(crossings.insideOf(line, inside));
                for (const auto& one : inside) sum += one.to - one.from;
            }
            if (onEdges)
                CHECK(sum * grid.step * grid.step == Approx(2.0));
            else
                CHECK(sum * grid.step * grid.step == Approx(2.0).epsilon(0.3));
        }
    }
    // Random triangles joined to closed surfaces: a ball, turned in every way.
    std::mt19937 random(3);
    for (int i = 0; i < 10; ++i) {
        Mesh ball = shapes::sphere(20, 14, 1);
        for (glm::vec3& p : ball.positions)
            p = glm::vec3(std::round(p.x * 8), std::round(p.y * 8), std::round(p.z * 8));
        geometry::LineGrid grid{.axis = i % 3, .first = {-8, -8}, .step = 0.5, .across = 33, .down = 33};
        const geometry::LineCrossings crossings(ball, grid);
        std::vector<geometry::Stretch> inside;
        for (std::size_t line = 0; line < grid.count(); ++line) CHECK(crossings.insideOf(line, inside));
    }
    Mesh open = box;
    open.indices.resize(open.indices.size() - 6);
    std::size_t unknown = 0;
    std::vector<geometry::Stretch> inside;
    for (int axis = 0; axis < 3; ++axis) {
        const auto lines = geometry::linesOver(geometry::meshBounds(open), axis, 32);
        const geometry::LineCrossings crossings(open, lines);
        for (std::size_t line = 0; line < lines.count(); ++line) unknown += !crossings.insideOf(line, inside);
    }
    CHECK(unknown > 100);
}

TEST_CASE("what pieces fill and leave out is measured as it can be reckoned") {
    // A cup without a handle: a box of 2 × 2 × 2 with a hollow of 1.6 × 1.8 × 1.6 that is open above.
    const Mesh walls = boxes({{{-1, 0, -1}, {1, 0.2, 1}},
                              {{-1, 0.2, -1}, {-0.8, 2, 1}},
                              {{0.8, 0.2, -1}, {1, 2, 1}},
                              {{-0.8, 0.2, -1}, {0.8, 2, -0.8}},
                              {{-0.8, 0.2, 0.8}, {0.8, 2, 1}}});
    const Mesh block = geometry::boxMesh({-1, 0, -1}, {1, 2, 1});
    const auto fit = contact::fitOf(walls, std::vector{block});
    const double hollow = 1.6 * 1.8 * 1.6;
    CHECK(fit.volume == Approx(8 - hollow).epsilon(0.02));
    CHECK(fit.filled == Approx(hollow).epsilon(0.02));
    CHECK(fit.missing == Approx(0).margin(1e-6));
    CHECK(fit.largestDistance == Approx(0.8).epsilon(0.02)); // from the middle of the mouth to a wall
    CHECK(fit.unknown == 0);

    // Half of it is missing where only the right half is there.
    const auto half = contact::fitOf(block, std::vector{geometry::boxMesh({0, 0, -1}, {1, 2, 1})});
    CHECK(half.volume == Approx(8).epsilon(0.01));
    CHECK(half.missing == Approx(4).epsilon(0.02));
    CHECK(half.filled == Approx(0).margin(1e-6));
    CHECK(half.largestDistance == Approx(1).epsilon(0.01));

    // Pieces that overlap are not counted twice.
    const auto twice = contact::fitOf(block, std::vector{block, geometry::boxMesh({-1, 0, -1}, {3, 2, 1})});
    CHECK(twice.filled == Approx(8).epsilon(0.02));

    const Mesh ball = shapes::sphere(128, 96, 1);
    CHECK(contact::fitOf(ball, {}).volume == Approx(geometry::signedVolume(ball)).epsilon(0.001));
    CHECK(contact::fitOf(ball, {}).missing == Approx(geometry::signedVolume(ball)).epsilon(0.001));
    CHECK(contact::fitOf(Mesh(), std::vector{block}).filled == 0);
}

TEST_CASE("a ring and an elbow fall into pieces that leave their hollow open") {
    const Mesh rough = ring(1, 0.25, 48, 24);
    REQUIRE(geometry::topologyOf(rough).watertight);
    const auto hull = contact::convexPieces(rough, {.pieces = 1});
    REQUIRE(hull.size() == 1);
    const auto one = contact::fitOf(rough, hull);
    double before = one.filledShare();
    CHECK(before > 0.8); // the hole alone is about as much
    for (const int pieces : {4, 12}) {
        const auto found = contact::convexPieces(rough, {.pieces = pieces, .corners = 32});
        CHECK(found.size() <= std::size_t(pieces));
        CHECK(found.size() > std::size_t(pieces) / 2);
        for (const Mesh& piece : found) checkBody(piece, 32);
        const auto fit = contact::fitOf(rough, found);
        CHECK(fit.filledShare() < before);
        CHECK(fit.missingShare() < 0.05);
        before = fit.filledShare();
    }
    CHECK(before < 0.15);

    const Mesh elbow = boxes({{{0, 0, 0}, {1, 3, 1}}, {{1, 0, 0}, {3, 1, 1}}});
    const auto two = contact::convexPieces(elbow, {.pieces = 2, .corners = 16});
    CHECK(two.size() == 2);
    const auto fit = contact::fitOf(elbow, two);
    CHECK(fit.filledShare() + fit.missingShare() < 0.08);
}

TEST_CASE("the pieces of a fine mesh fit it as the library's do, limits are kept and work is stopped") {
    const Mesh fine = ring(1, 0.25, 160, 60); // 19 200 triangles
    const contact::PiecesGoal goal{.pieces = 8, .corners = 24};
    const auto ours = contact::convexPieces(fine, goal);
    std::vector<Mesh> theirs;
    for (const auto& points : peers::vhacdPieces(fine, {.pieces = 8, .corners = 24}))
        theirs.push_back(*contact::convexHull(points, 24));
    CHECK(ours.size() <= 8);
    for (const Mesh& piece : ours) checkBody(piece, 24);
    const auto our = contact::fitOf(fine, ours), their = contact::fitOf(fine, theirs);
    CHECK(our.filled + our.missing <= their.filled + their.missing);

    std::atomic<bool> stop{false};
    const Progress progress([&](double done, std::string_view) { stop = done > 0.35; }, &stop);
    CHECK_THROWS_AS(contact::convexPieces(fine, goal, progress), Cancelled);
}

TEST_CASE("odd meshes make bodies or say why not") {
    const auto pieces = [](const Mesh& mesh, int most) {
        return contact::convexPieces(mesh, {.pieces = most, .corners = 12});
    };
    Mesh sheet;
    sheet.positions = {{0, 0, 0}, {1, 0, 0}, {1, 0, 1}, {0, 0, 1}};
    sheet.indices = {0, 2, 1, 0, 3, 2};
    for (const int most : {1, 5}) {
        const auto found = pieces(sheet, most);
        REQUIRE_FALSE(found.empty());
        for (const Mesh& piece : found) checkBody(piece, 12);
    }
    Mesh line;
    line.positions = {{0, 0, 0}, {1, 0, 0}, {2, 0, 0}};
    line.indices = {0, 1, 2};
    for (const int most : {1, 5}) CHECK(pieces(line, most).size() >= 1);
    Mesh point = line;
    for (glm::vec3& p : point.positions) p = {4, 4, 4};
    CHECK_THROWS_WITH(pieces(point, 3), Catch::Matchers::Contains("no extent"));
    CHECK_THROWS_AS(pieces(Mesh(), 3), Error);
    // Two boxes far apart, and one that is inside out.
    Mesh apart = boxes({{{0, 0, 0}, {1, 1, 1}}, {{1e4, 0, 0}, {1e4 + 1, 1, 1}}});
    for (std::size_t i = 36; i < 72; i += 3) std::swap(apart.indices[i], apart.indices[i + 1]);
    const auto found = pieces(apart, 4);
    for (const Mesh& piece : found) checkBody(piece, 12);
}

TEST_CASE("plain shapes hold all of a body, and little more where it is one") {
    const auto turnedBy = [](const Mesh& mesh) {
        return geometry::transformed(mesh, glm::rotate(glm::translate(glm::dmat4(1.0), {3, -2, 1}), 0.7,
                                                       glm::normalize(glm::dvec3(1, 2, -0.5))));
    };
    const auto holds = [](const Mesh& shape, const Mesh& body) {
        double most = 0;
        for (std::size_t t = 0; t < shape.triangleCount(); ++t) {
            glm::dvec3 p[3];
            for (std::size_t k = 0; k < 3; ++k) p[k] = shape.positions[shape.indices[3 * t + k]];
            const glm::dvec3 across = glm::cross(p[1] - p[0], p[2] - p[0]);
            if (glm::length(across) < 1e-9) continue;
            for (const glm::vec3& q : body.positions)
                most = std::max(most, glm::dot(glm::dvec3(q) - p[0], glm::normalize(across)));
        }
        return most < 2e-4;
    };
    const double pi = glm::pi<double>();
    const Mesh rod = turnedBy(geometry::cylinderMesh({0, 0, 0}, 0.5, 6, 64)),
               ball = turnedBy(shapes::sphere(40, 30, 1)),
               box = turnedBy(geometry::boxMesh({0, 0, 0}, {1, 2, 4}));
    CHECK(holds(contact::cylinderAround(rod, 32), rod));
    CHECK(geometry::signedVolume(contact::cylinderAround(rod, 32)) == Approx(pi * 0.25 * 6).epsilon(0.03));
    CHECK(contact::cylinderAround(rod, 32).vertexCount() == 32);
    CHECK(contact::cylinderAround(rod, 12).vertexCount() == 12);
    CHECK(holds(contact::ballAround(ball, 64), ball));
    CHECK(contact::ballAround(ball, 64).vertexCount() == 42);
    CHECK(contact::ballAround(ball, 20).vertexCount() == 12);
    CHECK(geometry::signedVolume(contact::ballAround(ball, 64)) == Approx(4 / 3.0 * pi).epsilon(0.2));
    CHECK(holds(contact::boxAround(box), box));
    CHECK(geometry::signedVolume(contact::boxAround(box)) == Approx(8).epsilon(1e-3));
    // A capsule: two balls and what is between them.
    Mesh pill = geometry::merged(
        {shapes::sphere(24, 16, 0.5),
         geometry::transformed(shapes::sphere(24, 16, 0.5), glm::translate(glm::dmat4(1.0), {0, 3, 0}))});
    pill = turnedBy(*contact::convexHull(pill.positions));
    const Mesh capsule = contact::capsuleAround(pill, 64);
    CHECK(holds(capsule, pill));
    CHECK(capsule.vertexCount() == 48);
    CHECK(geometry::signedVolume(capsule) == Approx(pi * 0.25 * 3 + 4 / 3.0 * pi * 0.125).epsilon(0.05));
    for (const auto& shape :
         {contact::cylinderAround(box, 32), contact::capsuleAround(box, 24), contact::ballAround(box, 64)}) {
        CHECK(holds(shape, box));
        CHECK(sticksOut(shape) < 1e-6);
    }
    CHECK(contact::plainShape(pill, contact::PieceChange::What::Capsule, 20).vertexCount() <=
          20); // a cylinder then
}

TEST_CASE("what is made of boxes comes apart into just those") {
    // A crate without its lid, of thick walls.
    const Mesh crate = [] {
        Mesh out = geometry::boxMesh({-2, 0, -1}, {2, 2, 1});
        // The lid's two faces go; a hollow with faces inward and a rim come in.
        const auto isLid = [&](std::size_t t) {
            return std::all_of(&out.indices[3 * t], &out.indices[3 * t] + 3,
                               [&](std::uint32_t v) { return out.positions[v].y > 1.9f; });
        };
        Mesh open;
        open.positions = out.positions;
        for (std::size_t t = 0; t < out.triangleCount(); ++t)
            if (!isLid(t))
                open.indices.insert(open.indices.end(), &out.indices[3 * t], &out.indices[3 * t] + 3);
        Mesh hollow = geometry::boxMesh({-1.7, 0.3, -0.7}, {1.7, 2, 0.7});
        Mesh inner;
        inner.positions = hollow.positions;
        for (std::size_t t = 0; t < hollow.triangleCount(); ++t) {
            const std::uint32_t* v = &hollow.indices[3 * t];
            if (std::all_of(v, v + 3, [&](std::uint32_t i) { return hollow.positions[i].y > 1.9f; }))
                continue;
            inner.indices.insert(inner.indices.end(), {v[0], v[2], v[1]});
        }
        Mesh rim;
        const float x[] = {-2, -1.7f, 1.7f, 2}, z[] = {-1, -0.7f, 0.7f, 1};
        const auto quad = [&](float x0, float z0, float x1, float z1) {
            const auto at = std::uint32_t(rim.positions.size());
            rim.positions.insert(rim.positions.end(), {{x0, 2, z0}, {x0, 2, z1}, {x1, 2, z1}, {x1, 2, z0}});
            rim.indices.insert(rim.indices.end(), {at, at + 1, at + 2, at, at + 2, at + 3});
        };
        for (int i = 0; i < 3; ++i)
            for (int k = 0; k < 3; ++k)
                if (i != 1 || k != 1) quad(x[i], z[k], x[i + 1], z[k + 1]);
        return geometry::merged({open, inner, rim});
    }();
    const double volume = 4 * 2 * 2 - 3.4 * 1.7 * 1.4;
    for (const double turn : {0.0, 0.3}) {
        const glm::dmat4 turned = glm::rotate(glm::dmat4(1.0), turn, glm::normalize(glm::dvec3(1, 2, 3)));
        const auto pieces =
            contact::convexPieces(geometry::transformed(crate, turned), {.pieces = 10, .corners = 64});
        CHECK(pieces.size() == 5);
        double all = 0;
        for (const Mesh& piece : pieces) {
            CHECK(piece.vertexCount() <= (turn == 0 ? 8 : 20)); // rounding leaves some in its faces
            all += geometry::signedVolume(piece);
        }
        CHECK(all == Approx(volume).epsilon(1e-4));
    }
}
