// Blocks: kinds and their turns, what of a cell a surface fills, and blocks that come nearest to it.
#include "core/base/error.h"
#include "core/blocks/faces.h"
#include "core/blocks/filled.h"
#include "core/blocks/hollow.h"
#include "core/blocks/largest_difference.h"
#include "core/blocks/pieces.h"
#include "core/blocks/solid.h"
#include "core/blocks/symmetry.h"
#include "core/blocks/turns.h"
#include "core/geometry/clean.h"
#include "core/geometry/merge_meshes.h"
#include "core/geometry/solids.h"
#include "core/geometry/winding_number.h"
#include "core/geometry/world.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <bit>
#include <map>
#include <random>
#include <set>

using namespace zl;
using namespace zl::blocks;

namespace {

constexpr blocks::Kind allKinds[] = {Kind::Cube, Kind::Slope, Kind::Corner, Kind::InverseCorner};

Mesh meshOf(Kind kind, Turn turn) {
    Mesh out;
    for (const Face& face : facesOf(kind, turn))
        for (int i = 2; i < face.count; ++i)
            for (const int corner : {0, i - 1, i}) {
                out.indices.push_back(std::uint32_t(out.positions.size()));
                out.positions.emplace_back(face.corners[std::size_t(corner)]);
            }
    out.runs = {{0, std::uint32_t(out.triangleCount()), -1}};
    return out;
}

/// By the definition, triangle for triangle.
double plainWinding(const Mesh& mesh, glm::dvec3 point) {
    double out = 0;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        glm::dvec3 p[3];
        for (std::size_t k = 0; k < 3; ++k)
            p[k] = glm::normalize(glm::dvec3(mesh.positions[mesh.indices[3 * t + k]]) - point);
        // l'Huilier's theorem on the unit sphere.
        const auto side = [&](int a, int b) {
            return std::acos(std::clamp(glm::dot(p[a], p[b]), -1.0, 1.0));
        };
        const double a = side(1, 2), b = side(2, 0), c = side(0, 1), s = (a + b + c) / 2;
        const double root =
            std::tan(s / 2) * std::tan((s - a) / 2) * std::tan((s - b) / 2) * std::tan((s - c) / 2);
        const double angle = 4 * std::atan(std::sqrt(std::max(root, 0.0)));
        out += glm::dot(p[0], glm::cross(p[1], p[2])) > 0 ? angle : -angle;
    }
    return out / (4 * glm::pi<double>());
}

Mesh moved(const Mesh& mesh, const glm::dmat4& by) {
    return geometry::transformed(mesh, by);
}

Mesh ball(double radius, glm::dvec3 at, int around = 96) {
    return moved(shapes::sphere(around, around / 2 + 1, radius), glm::translate(glm::dmat4(1), at));
}

/// Without every so-manieth triangle.
Mesh holed(Mesh mesh, std::size_t every) {
    std::vector<std::uint32_t> kept;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
        if (t % every != 0)
            for (std::size_t k = 0; k < 3; ++k) kept.push_back(mesh.indices[3 * t + k]);
    mesh.indices = kept;
    mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), -1}};
    return mesh;
}

std::size_t samplesIn(const Filled& filled) {
    std::size_t out = 0;
    for (const Samples cell : filled.cells) out += std::size_t(std::popcount(cell));
    return out;
}

} // namespace

TEST_CASE("a cube has 24 turns, which can be made one after the other and back") {
    std::set<std::array<int, 9>> all;
    for (Turn turn = 0; turn < turnCount; ++turn) {
        const glm::ivec3 x = turned(turn, {1, 0, 0}), y = turned(turn, {0, 1, 0}),
                         z = turned(turn, {0, 0, 1});
        CHECK(glm::cross(glm::dvec3(x), glm::dvec3(y)) == glm::dvec3(z)); // never a mirror image
        all.insert({x.x, x.y, x.z, y.x, y.y, y.z, z.x, z.y, z.z});
        CHECK(then(turn, back(turn)) == 0);
        CHECK(then(back(turn), turn) == 0);
        for (Turn second = 0; second < turnCount; ++second)
            CHECK(turned(then(turn, second), {1, 2, 3}) == turned(second, turned(turn, {1, 2, 3})));
    }
    CHECK(all.size() == 24);
    CHECK(turned(0, {1, 2, 3}) == glm::ivec3(1, 2, 3));
    CHECK(turnsOf(Kind::Cube).size() == 1);
    CHECK(turnsOf(Kind::Slope).size() == 12); // an edge each
    CHECK(turnsOf(Kind::Corner).size() == 24);
    CHECK(turnsOf(Kind::InverseCorner).size() == 24);
}

TEST_CASE("each kind is closed in every turn and has its volume; samples and faces say the same") {
    for (const blocks::Kind kind : allKinds)
        for (Turn turn = 0; turn < turnCount; ++turn) {
            INFO(kindNames[std::size_t(kind)] << ", turn " << int(turn));
            const Mesh mesh = meshOf(kind, turn);
            CHECK(geometry::signedVolume(mesh) == Approx(volumes[std::size_t(kind)]));
            std::map<std::array<int, 6>, int> edges; // whole faces, so that none meets another half-way
            for (const Face& face : facesOf(kind, turn))
                for (int i = 0; i < face.count; ++i) {
                    const glm::ivec3 a = face.corners[std::size_t(i)],
                                     b = face.corners[std::size_t((i + 1) % face.count)];
                    ++edges[{a.x, a.y, a.z, b.x, b.y, b.z}];
                    --edges[{b.x, b.y, b.z, a.x, a.y, a.z}];
                }
            for (const auto& [edge, count] : edges) CHECK(count == 0);
            const Shape& shape = shapeOf(kind, turn);
            CHECK((shape.inside & shape.surface) == 0);
            for (int bit = 0; bit < 64; ++bit) {
                if (shape.surface >> bit & 1) continue;
                const glm::dvec3 at =
                    (glm::dvec3(bit % 4, bit / 4 % 4, bit / 16) + 0.5) / double(samplesAlong);
                CHECK(plainWinding(mesh, at) == Approx(double(shape.inside >> bit & 1)).margin(1e-9));
            }
            // What covers a side is what its faces have there.
            for (int side = 0; side < 6; ++side) {
                double area = 0;
                for (const Face& face : facesOf(kind, turn))
                    if (face.side == side) area += face.count == 4 ? 1 : 0.5;
                CHECK(std::popcount(covers({kind, turn, 0}, side)) == 4 * area);
            }
        }
    CHECK(std::popcount(shapeOf(Kind::Slope, 0).surface) == 16);
}

TEST_CASE("behind a mirror each block is one again, and the mirror's mirror image is itself") {
    for (const blocks::Kind kind : allKinds)
        for (const Turn turn : turnsOf(kind))
            for (int axis = 0; axis < 3; ++axis) {
                const Block image = mirrored({kind, turn, 7}, axis);
                CHECK(image.kind == kind);
                CHECK(image.colour == 7);
                CHECK(shapeOf(kind, image.turn) == mirrored(shapeOf(kind, turn), axis));
                CHECK(mirrored(image, axis) == Block{kind, turn, 7});
            }
}

TEST_CASE("faces between blocks are not seen, as far as they cover one another") {
    const Block cube, slope{Kind::Slope, 0, 0};
    const auto seen = [](const Block& block, const Block* neighbour, int side) {
        int out = 0;
        for (const Face& face : facesOf(block.kind, block.turn))
            out += face.side == side && isSeen(face, neighbour);
        return out;
    };
    CHECK(seen(cube, nullptr, 1) == 1);
    CHECK(seen(cube, &cube, 1) == 0);
    CHECK(seen(cube, &slope, 1) == 1);                      // the slope's end is a triangle
    CHECK(seen(slope, &cube, 1) == 0);                      // which the cube covers
    CHECK(seen(slope, &slope, 1) == 0);                     // as does the next slope
    const Block other{Kind::Slope, then(then(0, 1), 1), 0}; // runs the other way
    CHECK(seen(slope, &other, 1) == 1);
    CHECK(seen(cube, &slope, 3) == 0); // its bottom is whole
}

TEST_CASE("a surface goes once around what is inside, and five sixths around a box without a side") {
    Mesh box = geometry::boxMesh({-1, -1, -1}, {1, 1, 1});
    CHECK(geometry::WindingNumber(box).at({0, 0, 0}) == Approx(1));
    CHECK(geometry::WindingNumber(box).at({0.9, -0.8, 0.2}) == Approx(1));
    CHECK(geometry::WindingNumber(box).at({3, 0, 0}) == Approx(0).margin(1e-3));
    Mesh open = box;
    std::vector<std::uint32_t> kept;
    for (std::size_t t = 0; t < box.triangleCount(); ++t) {
        bool top = true;
        for (std::size_t k = 0; k < 3; ++k) top &= box.positions[box.indices[3 * t + k]].y > 0.5f;
        if (!top)
            for (std::size_t k = 0; k < 3; ++k) kept.push_back(box.indices[3 * t + k]);
    }
    open.indices = kept;
    CHECK(geometry::WindingNumber(open).at({0, 0, 0}) == Approx(5.0 / 6));
    CHECK(geometry::WindingNumber(geometry::merged({box, box})).at({0, 0, 0}) == Approx(2));
    CHECK(geometry::WindingNumber(Mesh{}).at({0, 0, 0}) == 0);

    const Mesh broken = holed(ball(2, {0.3, 0.1, -0.2}), 7);
    const geometry::WindingNumber fast(broken);
    std::mt19937 dice(5);
    std::uniform_real_distribution<double> anywhere(-4, 4);
    for (int i = 0; i < 300; ++i) {
        const glm::dvec3 point(anywhere(dice), anywhere(dice), anywhere(dice));
        CHECK(fast.at(point) == Approx(plainWinding(broken, point)).margin(0.025));
    }
}

TEST_CASE("a box that stands on blocks fills just those, and a wedge becomes slopes") {
    const Mesh box = geometry::boxMesh({1, 0, 2}, {3, 3, 6});
    const Filled full = filled(box, {5, 4, 8});
    const Build build = solidOf(full, Slopes::WhereTheyHelp);
    CHECK(build.count() == 2 * 3 * 4);
    CHECK(volumeError(build, full) == 0);
    for (std::size_t i = 0; i < build.cellCount(); ++i) {
        const glm::ivec3 cell = cellIn(build.size(), i);
        CHECK(build.isThere(i) == (cell.x >= 1 && cell.x < 3 && cell.y < 3 && cell.z >= 2 && cell.z < 6));
        CHECK(indexIn(build.size(), cell) == i);
    }
    // A wedge of 45°, six long: as many slopes as it is high and long.
    Mesh wedge;
    wedge.positions = {{0, 0, 0}, {6, 0, 0}, {0, 4, 0}, {6, 4, 0}, {0, 0, 4}, {6, 0, 4}};
    wedge.indices = {0, 1, 5, 0, 5, 4, 0, 2, 3, 0, 3, 1, 4, 5, 3, 4, 3, 2, 0, 4, 2, 1, 3, 5};
    wedge.runs = {{0, 8, -1}};
    REQUIRE(geometry::signedVolume(wedge) == Approx(48));
    const Filled cut = filled(wedge, {6, 4, 4});
    const Build sloped = solidOf(cut, Slopes::WhereTheyHelp);
    CHECK(volumeOf(sloped) == Approx(48));
    CHECK(volumeError(sloped, cut) == 0);
    std::map<Kind, int> count;
    for (std::size_t i = 0; i < sloped.cellCount(); ++i)
        if (sloped.isThere(i)) ++count[sloped.block(i).kind];
    CHECK(count[Kind::Slope] == 4 * 6);
    CHECK(count[Kind::Cube] == 6 * 6);
    CHECK(solidOf(cut, Slopes::None).count() > 36);
    CHECK(volumeError(solidOf(cut, Slopes::None), cut) > 4);
}

TEST_CASE("a ball's volume is near its own, with holes in it or not, and slopes bring it nearer") {
    const double radius = 9.3, volume = 4.0 / 3 * glm::pi<double>() * std::pow(radius, 3);
    const Mesh whole = ball(radius, {10.05, 10.1, 9.95});
    const glm::ivec3 size{20, 20, 20};
    const Filled full = filled(whole, size);
    CHECK(full.unsure == 0);
    CHECK(double(samplesIn(full)) / 64 == Approx(volume).epsilon(0.005));
    const Build cubes = solidOf(full, Slopes::None), sloped = solidOf(full, Slopes::WhereTheyHelp),
                everywhere = solidOf(full, Slopes::Everywhere);
    // Every cell is right or cut by the surface, so no more than half a block is off on each of those.
    const double surface = 4 * glm::pi<double>() * radius * radius;
    CHECK(std::abs(volumeOf(cubes) - volume) < 0.02 * surface);
    CHECK(volumeError(cubes, full) < 0.3 * surface);
    CHECK(volumeError(sloped, full) < 0.75 * volumeError(cubes, full));
    CHECK(volumeError(everywhere, full) <= volumeError(sloped, full));
    CHECK(std::abs(volumeOf(sloped) - volume) < 0.03 * volume);

    const Filled broken = filled(holed(whole, 11), size);
    CHECK(double(samplesIn(broken)) == Approx(double(samplesIn(full))).epsilon(0.01));
    const Filled half = filled(holed(whole, 2), size); // every other face is gone
    CHECK(half.unsure > 0);
    CHECK(filled(geometry::merged({whole, ball(4, {10, 10, 10})}), size).cells == full.cells);
}

TEST_CASE("a build is made its own mirror image, from the better half or from both") {
    // A hull that leans: its right side is bigger.
    const glm::ivec3 size{13, 8, 16};
    const Mesh hull = geometry::merged({ball(4.2, {6.5, 4, 8}), ball(2.6, {10.1, 4.2, 9})});
    const Filled full = filled(hull, size);
    const Build plain = solidOf(full, Slopes::WhereTheyHelp);
    CHECK_FALSE(isSymmetric(plain));
    const auto better = symmetric(full, Slopes::WhereTheyHelp, Halves::Better),
               left = symmetric(full, Slopes::WhereTheyHelp, Halves::Left),
               right = symmetric(full, Slopes::WhereTheyHelp, Halves::Right),
               averaged = symmetric(full, Slopes::WhereTheyHelp, Halves::Averaged);
    for (const auto* one : {&better, &left, &right, &averaged}) {
        CHECK(isSymmetric(one->build));
        CHECK(one->ofLeft == left.ofLeft);
        bool onLine = false;
        for (int y = 0; y < size.y; ++y)
            for (int z = 0; z < size.z; ++z) onLine |= one->build.at({6, y, z}) != nullptr;
        CHECK(onLine);
    }
    CHECK(volumeError(left.build, full) == left.ofLeft);
    CHECK(volumeError(right.build, full) == right.ofRight);
    CHECK(better.build == (left.ofLeft <= right.ofRight ? left.build : right.build));
    CHECK(left.build.count() < right.build.count()); // the bulge is on the right
    CHECK(volumeError(averaged.build, full) <= std::min(left.ofLeft, right.ofRight) * 1.05);
    CHECK(volumeError(averaged.build, full) >= volumeError(plain, full));
    CHECK_THROWS_AS(symmetric(filled(hull, {12, 8, 16}), Slopes::None, Halves::Left), Error);
    // What is symmetric already stays as it is.
    const Filled even = filled(ball(4.2, {6.5, 4, 8}), size);
    CHECK(symmetric(even, Slopes::None, Halves::Better).ofLeft ==
          volumeError(solidOf(even, Slopes::None), even));
}

TEST_CASE("hollowing leaves a closed wall, and takes nothing else") {
    std::mt19937 dice(11);
    for (int round = 0; round < 12; ++round) {
        const double radius = 4 + round * 0.4;
        const glm::ivec3 size(20);
        const Mesh mesh = geometry::merged({ball(radius, {10, 10, 10}), ball(radius / 2, {10, 10, 15})});
        const Build whole = solidOf(filled(mesh, size), round % 2 ? Slopes::WhereTheyHelp : Slopes::None);
        const int wall = 1 + round % 3;
        Build shell = whole;
        const std::size_t taken = hollowOut(shell, wall);
        CHECK(shell.count() + taken == whole.count());
        if (radius > wall + 3) CHECK(taken > 0);
        for (std::size_t i = 0; i < whole.cellCount(); ++i)
            if (shell.isThere(i)) CHECK((whole.isThere(i) && shell.block(i) == whole.block(i)));
        // From outside, through every gap and corner that a look could pass, no cell is reached that was
        // solid before.
        std::vector<char> seen(whole.cellCount(), 0);
        std::vector<glm::ivec3> open{{0, 0, 0}};
        seen[0] = 1;
        bool into = false;
        while (!open.empty()) {
            const glm::ivec3 at = open.back();
            open.pop_back();
            for (int k = 0; k < 27; ++k) {
                const glm::ivec3 next = at + glm::ivec3(k % 3, k / 3 % 3, k / 9) - 1;
                if (!whole.holds(next)) continue;
                const std::size_t place = indexIn(size, next);
                const bool passes = !shell.isThere(place) || shell.block(place).kind != Kind::Cube;
                if (!passes || std::exchange(seen[place], 1)) continue;
                into |= whole.isThere(place) && !shell.isThere(place);
                open.push_back(next);
            }
        }
        CHECK_FALSE(into);
        Build again = shell;
        CHECK(hollowOut(again, wall) == 0);
    }
    Build small({3, 3, 3});
    for (std::size_t i = 0; i < 27; ++i) small.put(cellIn({3, 3, 3}, i), {});
    Build shell = small;
    CHECK(hollowOut(shell, 1) == 1); // only the middle one
    CHECK(shell.at({1, 1, 1}) == nullptr);
    CHECK_THROWS_AS(hollowOut(small, 0), Error);
}

TEST_CASE("what hangs together is one piece, and strays are dropped by their size") {
    Build build({10, 4, 4});
    for (int x = 0; x < 4; ++x) build.put({x, 0, 0}, {});
    build.put({6, 0, 0}, {}), build.put({7, 0, 0}, {});
    build.put({9, 3, 3}, {});
    const Pieces pieces = piecesOf(build);
    CHECK(pieces.blocks == std::vector<std::size_t>{4, 2, 1});
    CHECK(pieces.of[indexIn(build.size(), {7, 0, 0})] == 1);
    CHECK(pieces.of[indexIn(build.size(), {5, 0, 0})] == -1);
    Build kept = build;
    CHECK(dropStrays(kept, 2) == std::vector<glm::ivec3>{{9, 3, 3}});
    CHECK(dropStrays(kept, 100).size() == 2); // the largest always stays
    CHECK(kept.count() == 4);
    // Slopes that only touch along an edge do not hold.
    Build slopes({2, 1, 1});
    slopes.put({0, 0, 0}, {Kind::Slope, 0, 0});
    slopes.put({1, 0, 0}, {Kind::Slope, then(then(0, 1), 1), 0});
    CHECK(piecesOf(slopes).blocks.size() == 1); // half over half: a quarter is shared
    Build apart({1, 1, 2});
    apart.put({0, 0, 0}, {Kind::Slope, 0, 0}); // its slope runs down to the next
    apart.put({0, 0, 1}, {});
    CHECK(piecesOf(apart).blocks.size() == 2);
    CHECK(piecesOf(Build({2, 2, 2})).blocks.empty());
}

TEST_CASE("where a build and its surface differ most is found as by trying all pairs") {
    std::mt19937 dice(11);
    for (int round = 0; round < 40; ++round) {
        const glm::ivec3 size(1 + int(dice() % 14), 1 + int(dice() % 14), 1 + int(dice() % 14));
        Build build(size);
        std::vector<char> crossed(cellsIn(size), 0);
        std::vector<glm::ivec3> blocks, surface;
        for (std::size_t k = 0; k < crossed.size(); ++k) {
            const glm::ivec3 cell = cellIn(size, k);
            if (dice() % 9 == 0) build.put(cell, {}), blocks.push_back(cell);
            if (dice() % 13 == 0) crossed[k] = 1, surface.push_back(cell);
        }
        const auto nearest = [](glm::ivec3 from, const std::vector<glm::ivec3>& to) {
            int least = 1 << 30;
            for (const glm::ivec3& cell : to) {
                const glm::ivec3 by = cell - from;
                least = std::min(least, by.x * by.x + by.y * by.y + by.z * by.z);
            }
            return to.empty() ? 0 : least; // nothing to be near to counts for nothing
        };
        int most = 0;
        for (const glm::ivec3& cell : surface) most = std::max(most, nearest(cell, blocks));
        for (const glm::ivec3& cell : blocks) {
            bool seen = false;
            for (int axis = 0; axis < 3; ++axis)
                for (const int way : {-1, 1}) {
                    glm::ivec3 beside = cell;
                    beside[axis] += way;
                    seen |= !build.at(beside);
                }
            if (seen) most = std::max(most, nearest(cell, surface));
        }
        const Difference found = largestDifference(build, crossed);
        CAPTURE(round, size.x, size.y, size.z);
        CHECK(found.blocks == Approx(std::sqrt(double(most))).margin(1e-9));
    }
    Build build({9, 3, 3});
    for (int x = 0; x < 3; ++x) build.put({x, 1, 1}, {});
    std::vector<char> crossed(cellsIn(build.size()), 0);
    crossed[indexIn(build.size(), {1, 1, 1})] = crossed[indexIn(build.size(), {8, 1, 1})] = 1;
    const Difference rope = largestDifference(build, crossed);
    CHECK(rope.blocks == 6);
    CHECK(rope.isLeftOut);
    CHECK(rope.cell == glm::ivec3(8, 1, 1));
    CHECK(largestDifference(Build({2, 2, 2}), std::vector<char>(8, 0)).blocks == 0);
}
