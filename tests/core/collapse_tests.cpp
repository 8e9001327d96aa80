// Many triangles reduced in slabs: closed surfaces stay closed, borders stay, threads change nothing.
#include "core/geometry/collapse.h"
#include "core/geometry/deviation.h"
#include "core/geometry/reduce.h"
#include "core/geometry/topology.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>
#include <tbb/global_control.h>

#include <cfloat>

using namespace zl;

TEST_CASE("a large closed surface reduced in slabs stays closed, near and even") {
    const Mesh ball = shapes::sphere(500, 250, 1); // 249 000 triangles
    REQUIRE(ball.triangleCount() > 200000);
    const Mesh out = geometry::reduce(ball, {12000, 0, true});
    CHECK(out.triangleCount() <= 12000);
    CHECK(out.triangleCount() > 11600);
    const auto topology = geometry::topologyOf(out);
    CHECK(topology.openEdges == 0);
    CHECK(topology.disagreeingEdges == 0);
    CHECK(topology.pieces == 1);
    // A bound far beyond the ball makes it go through at once; slabs must be no worse by it.
    Mesh once = ball;
    once.indices = geometry::collapsed(ball.indices, ball.positions, 12000, 1e30f, true);
    once.runs = {{0, std::uint32_t(once.triangleCount()), -1}};
    const auto slabs = geometry::deviationBetween(ball, out), whole = geometry::deviationBetween(ball, once);
    CHECK(slabs.largest < 1.1 * whole.largest);
    CHECK(slabs.mean < 1.05 * whole.mean);
    CHECK(topology.nonManifoldEdges <= geometry::topologyOf(once).nonManifoldEdges);
    // No slab's border is left denser than the rest: a slice of equal height has a tenth of the area. The
    // last is denser for the pole, where hundreds of triangles meet.
    std::vector<int> slices(10, 0);
    for (std::size_t t = 0; t < out.triangleCount(); ++t)
        ++slices[std::size_t(std::clamp((out.positions[out.indices[3 * t]].y + 1) * 5, 0.0f, 9.0f))];
    for (int i = 1; i < 9; ++i) {
        CHECK(slices[std::size_t(i)] > 900);
        CHECK(slices[std::size_t(i)] < 1300);
    }
}

TEST_CASE("a large reduction gives the same with one thread and with many") {
    const Mesh ball = shapes::sphere(400, 200, 1);
    const auto run = [&] { return geometry::collapsed(ball.indices, ball.positions, 8000, FLT_MAX, false); };
    const auto many = run();
    const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
    CHECK(run() == many);
}

TEST_CASE("open borders are held in slabs too, and a bound on the deviation is kept to") {
    Mesh sheet;
    const int n = 320;
    for (int j = 0; j <= n; ++j)
        for (int i = 0; i <= n; ++i)
            sheet.positions.emplace_back(
                float(i), 0.3f * std::sin(float(i) * 0.05f) * std::cos(float(j) * 0.04f), float(j));
    for (std::uint32_t j = 0; j < n; ++j)
        for (std::uint32_t i = 0; i < n; ++i) {
            const std::uint32_t a = j * (n + 1) + i;
            for (const std::uint32_t c : {a, a + n + 1, a + 1, a + 1, a + n + 1, a + n + 2})
                sheet.indices.push_back(c);
        }
    sheet.runs = {{0, std::uint32_t(sheet.triangleCount()), -1}};
    const Mesh held = geometry::reduce(sheet, {20000, 0, true});
    CHECK(held.triangleCount() <= 20000);
    CHECK(geometry::topologyOf(held).openEdges == 4 * n);
    const Mesh bounded = geometry::reduce(sheet, {4000, 0.001, false});
    CHECK(geometry::deviationBetween(sheet, bounded).largest < 0.02);
    CHECK(bounded.triangleCount() > 4000); // the bound comes first
}

TEST_CASE("triangles all on one heap or one line are reduced without slabs of no width") {
    Mesh heap = shapes::sphere(500, 250, 1);
    for (glm::vec3& p : heap.positions) p = glm::vec3(p.x, 0, 0) * float(GENERATE(0, 1));
    const auto out = geometry::collapsed(heap.indices, heap.positions, 1000, FLT_MAX, false);
    CHECK(out.size() % 3 == 0);
    for (const std::uint32_t c : out) CHECK(c < heap.positions.size());
}
