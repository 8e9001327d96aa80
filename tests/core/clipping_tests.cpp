// Where one body reaches into another: against closed forms.
#include "core/base/clock.h"
#include "core/geometry/clipping.h"
#include "core/geometry/solids.h"
#include "core/geometry/world.h"
#include "core/motion/attached.h"
#include "core/platform/check.h"
#include "support/quickest.h"
#include "support/finds.h"
#include "support/shapes.h"
#include "support/sheets.h"

using namespace zl;
using geometry::Body;

namespace {

Body body(const Model& model) {
    return {model.name, 0, geometry::flattened(model)};
}
Body box(glm::dvec3 low, glm::dvec3 high) {
    return body(shapes::box(low, high));
}
Body ball(glm::dvec3 middle, double radius, int around = 96) {
    return body(moved(shapes::modelOf(shapes::sphere(around, around / 2 + 1, radius)),
                      glm::translate(glm::dmat4(1.0), middle)));
}
double deepest(const Body& a, const Body& b, double within = 0) {
    const auto found = geometry::overlaps({a}, {b}, within);
    return found.empty() ? 0 : found[0].deepest;
}

} // namespace

TEST_CASE("A sphere's surface reaches as deep into another as the two are apart, or as they are nearer than "
          "touching") {
    for (const double apart : {0.3, 0.9, 1.5, 1.9}) {
        INFO(apart);
        // Deepest is the point of either surface that is nearest to the other's middle: |1 - d| away from it.
        CHECK(deepest(ball({0, 0, 0}, 1), ball({0, apart, 0}, 1)) ==
              Approx(1 - std::abs(1 - apart)).epsilon(0.01));
        CHECK(deepest(ball({0, 0, 0}, 1), ball({0.6 * apart, 0.8 * apart, 0}, 1)) ==
              Approx(1 - std::abs(1 - apart)).epsilon(0.02));
    }
    CHECK(deepest(ball({0, 0, 0}, 1), ball({0, 2, 0}, 1)) == 0); // touching
    CHECK(deepest(ball({0, 0, 0}, 1), ball({0, 2.1, 0}, 1)) == 0);
}

TEST_CASE("A box in a box is as deep in it as the nearer wall is away") {
    const auto found = geometry::overlaps({box({1, 1, 1}, {2, 2, 2})}, {box({0, 0, 0}, {4, 4, 4})});
    REQUIRE(found.size() == 1);
    CHECK(found[0].deepest == Approx(2)); // its far corner is two from three walls
    CHECK(std::ranges::count(found[0].facesOfA, 1) == 12);
    CHECK(std::ranges::count(found[0].facesOfB, 1) == 0);
    CHECK(found[0].faces == 12);
    CHECK(glm::distance(found[0].place, glm::dvec3(2, 2, 2)) < 1e-5);
}

TEST_CASE("What only touches does not clip: side by side, on top, edge on edge, the same twice") {
    const Body one = box({0, 0, 0}, {1, 1, 1});
    CHECK(deepest(one, box({1, 0, 0}, {2, 1, 1})) == 0);
    CHECK(deepest(one, box({0.25, 1, 0.25}, {0.75, 2, 0.75})) == 0);
    CHECK(deepest(one, box({1, 1, 0}, {2, 2, 1})) == 0);
    CHECK(deepest(one, box({0.2, 0.999999, 0.2}, {0.8, 2, 0.8})) == 0);
    CHECK(deepest(one, box({0.2, 0.9, 0.2}, {0.8, 2, 0.8})) == Approx(0.1));
    CHECK(deepest(one, box({0.2, 0.9, 0.2}, {0.8, 2, 0.8}), 0.11) == 0); // within what is allowed
    CHECK(deepest(one, one) == 0); // every corner lies on the other's surface
}

TEST_CASE("A rod through a box is found though none of its corners lies inside") {
    const auto found = geometry::overlaps({box({-5, 0.4, 0.4}, {5, 0.5, 0.5})}, {box({0, 0, 0}, {1, 1, 1})});
    REQUIRE(found.size() == 1);
    CHECK(found[0].deepest == Approx(0.5).epsilon(0.001)); // on its edge nearest to the middle
    CHECK(std::ranges::count(found[0].facesOfA, 1) == 8);  // its long sides; not its ends
    CHECK(std::ranges::count(found[0].facesOfB, 1) > 0);
}

TEST_CASE("It does not matter which way round a body is, nor whether a part is there twice") {
    const auto turned = [](Mesh mesh) {
        for (std::size_t i = 0; i < mesh.indices.size(); i += 3)
            std::swap(mesh.indices[i], mesh.indices[i + 1]);
        return mesh;
    };
    const Body inner = box({0.4, 0.4, 0.4}, {0.6, 0.6, 0.6});
    const Mesh outer = geometry::flattened(shapes::box({0, 0, 0}, {1, 1, 1}));
    CHECK(deepest(inner, {"turned", 0, turned(outer)}) == Approx(0.4));
    Mesh twice = outer;
    twice.indices.insert(twice.indices.end(), outer.indices.begin(), outer.indices.end());
    CHECK(deepest(inner, {"twice", 0, twice}) == Approx(0.4));
}

TEST_CASE("A sheet goes round nothing, and can be reached into by nobody") {
    Mesh sheet;
    sheet.positions = {{-1, 0, -1}, {1, 0, -1}, {1, 0, 1}, {-1, 0, 1}};
    sheet.indices = {0, 2, 1, 0, 3, 2};
    const Body cloth{"cloth", 0, sheet};
    CHECK(deepest(box({-0.1, 0.1, -0.1}, {0.1, 0.3, 0.1}), cloth) == 0);
    // Its own edges and corners in a box count.
    CHECK(deepest(cloth, box({0.5, -0.2, 0.5}, {3, 0.2, 3})) == Approx(0.2));
}

TEST_CASE("Hostile meshes are asked in peace") {
    Mesh bad;
    bad.positions = {{0, 0, 0}, {1e30f, 0, 0}, {0, NAN, 0}, {0, 0, 0}};
    bad.indices = {0, 1, 2, 0, 0, 0, 3, 0, 1};
    CHECK_NOTHROW(deepest({"bad", 0, bad}, box({0, 0, 0}, {1, 1, 1})));
    CHECK_NOTHROW(deepest(box({0, 0, 0}, {1, 1, 1}), {"bad", 0, bad}));
    CHECK(geometry::overlaps({}, {box({0, 0, 0}, {1, 1, 1})}).empty());
    CHECK(deepest({"empty", 0, {}}, box({0, 0, 0}, {1, 1, 1})) == 0);
}

TEST_CASE("Twenty thousand triangles in twenty thousand are a matter of a tenth of a second") {
    const Body one = ball({0, 0, 0}, 1, 142), other = ball({0.3, 1.2, 0}, 1, 142); // 20 022 each
    CHECK(one.mesh().triangleCount() > 19'000);
    const double seconds = quickestOfThree(
        [&] { CHECK(deepest(one, other) == Approx(2 - std::hypot(0.3, 1.2)).epsilon(0.01)); });
    WARN("20 000 triangles in 20 000: " << seconds * 1000 << " ms"); // half a machine busy doubles it
    CHECK(seconds < secondsAllowed(0.4));
}

TEST_CASE("The rule lights the faces of parts that reach into one another, in the platform's unit") {
    const TemporaryFolder folder;
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.nodes.push_back({"lid", -1, glm::translate(glm::dmat4(1.0), {0.0, 0.95, 0.0}), 0});
    const auto sheet =
        platform::readSheet(std::filesystem::path(ZEST_LOOM_ROOT) / "platforms/thistledown.toml");
    const auto found = [&](const Model& of) {
        const auto report = platform::check(of, sheet);
        const auto at = std::ranges::find(report.rules, std::string("clipping"), &platform::RuleResult::id);
        REQUIRE(at != report.rules.end());
        return at->finding;
    };
    const auto finding = found(model);
    CHECK_FALSE(finding.holds);
    CHECK(finding.value == Approx(0.05));
    CHECK(finding.note.find("\"box\" reaches 0.05") == 0);
    CHECK_FALSE(finding.faces.empty());
    model.nodes[1].local = glm::translate(glm::dmat4(1.0), {0.0, 1.0, 0.0});
    CHECK(found(model).holds);
}

TEST_CASE("A heap of parts, each by all others, is looked through only so far, and it is said") {
    Model heap = shapes::box({0, 0, 0}, {1, 1, 1});
    for (int i = 0; i < 460; ++i)
        heap.nodes.push_back({"part", -1, glm::translate(glm::dmat4(1.0), {1e-7 * i, 0, 0}), 0});
    std::vector<int> nodes;
    const Mesh flat = geometry::flattened(heap, &nodes);
    const auto bodies = geometry::bodiesOf(heap, flat, nodes);
    bool cutShort = false;
    const WorkWatch watch;
    geometry::overlapsAmong(bodies, 0, {}, &cutShort);
    CHECK(cutShort);
    CHECK(watch.seconds() < 20);
    geometry::overlapsAmong({bodies.begin(), bodies.begin() + 20}, 0, {}, &cutShort);
    CHECK_FALSE(cutShort);
    std::atomic<bool> stop{true};
    CHECK_THROWS_AS(geometry::overlapsAmong(bodies, 0, Progress({}, &stop)), Cancelled);
}
