// What bodies and a mesh differ by, as lines to be seen.
#include "core/contact/differences.h"
#include "core/geometry/solids.h"

#include <catch2/catch.hpp>

#include <array>
#include <numeric>

using namespace zl;

namespace {

/// How long all stretches along an axis are together.
double along(const std::vector<glm::vec3>& ends, int axis) {
    double out = 0;
    for (std::size_t i = 0; i + 1 < ends.size(); i += 2)
        out += std::abs(double(ends[i + 1][axis]) - double(ends[i][axis]));
    return out;
}

} // namespace

TEST_CASE("lines run through what a body fills too much and what it leaves out, and nowhere else") {
    const Mesh crate = geometry::boxMesh({0, 0, 0}, {2, 2, 2});
    // Half a metre too tall, and a quarter too narrow.
    const std::array bodies{geometry::boxMesh({0, 0, 0}, {1.75, 2.5, 2})};
    const auto found = contact::differencesOf(crate, bodies, 50);
    REQUIRE_FALSE(found.filled.empty());
    REQUIRE_FALSE(found.missing.empty());
    for (const glm::vec3& p : found.filled) {
        CHECK(p.y > 2 - 1e-4);
        CHECK(p.x < 1.75 + 1e-4);
    }
    for (const glm::vec3& p : found.missing) {
        CHECK(p.x > 1.75 - 1e-4);
        CHECK(p.y < 2 + 1e-4);
    }
    // Lines stand 0.05 apart: as long together as the volume holds of them, along each axis.
    for (int axis = 0; axis < 3; ++axis) {
        CHECK(along(found.filled, axis) * 0.05 * 0.05 == Approx(0.5 * 1.75 * 2).epsilon(0.03));
        CHECK(along(found.missing, axis) * 0.05 * 0.05 == Approx(0.25 * 2 * 2).epsilon(0.03));
    }
}

TEST_CASE("a body that is the mesh differs by nothing, and an open mesh says nothing") {
    Mesh crate = geometry::boxMesh({0, 0, 0}, {2, 2, 2});
    const std::array same{crate};
    CHECK(contact::differencesOf(crate, same).filled.empty());
    CHECK(contact::differencesOf(crate, same).missing.empty());
    // A hair too large is no difference that could be seen.
    const std::array hair{geometry::boxMesh({-0.01, -0.01, -0.01}, {2.01, 2.01, 2.01})};
    CHECK(contact::differencesOf(crate, hair).filled.empty());
    CHECK(contact::differencesOf(crate, {}).filled.empty());
    CHECK(along(contact::differencesOf(crate, {}).missing, 0) > 0);
    CHECK(contact::differencesOf({}, same).filled.empty());
    // Without its lid: nothing is known along the lines that go through there.
    Mesh open = crate;
    std::vector<std::uint32_t> kept;
    for (std::size_t t = 0; t < crate.triangleCount(); ++t) {
        const auto* v = &crate.indices[3 * t];
        if (std::all_of(v, v + 3, [&](std::uint32_t i) { return crate.positions[i].y > 1.9f; })) continue;
        kept.insert(kept.end(), v, v + 3);
    }
    open.indices = kept;
    CHECK(along(contact::differencesOf(open, {}).missing, 1) == 0);
    CHECK(along(contact::differencesOf(open, {}).missing, 0) > 0);
}
