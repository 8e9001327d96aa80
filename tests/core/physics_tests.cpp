// The small world that all stand-ins share: bodies fall, rest, tip and are carried as mechanics says.
#include "core/geometry/solids.h"
#include "standins/world/physics.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

namespace physics_tests {

using namespace zl;
using standins::world::Physics;
using standins::world::Shape;

namespace {

Shape box(glm::vec3 low, glm::vec3 high) {
    const Mesh mesh = geometry::boxMesh(low, high);
    Shape shape;
    shape.positions = mesh.positions;
    shape.indices = mesh.indices;
    return shape;
}

glm::vec3 placeOf(const Physics& physics, int body) {
    return glm::vec3(physics.pose(body).matrix[3]);
}
glm::vec3 upOf(const Physics& physics, int body) {
    return glm::normalize(glm::vec3(physics.pose(body).matrix[1]));
}

/// A world with one box of the given size, standing on its base, its figure as tall as `figure`.
struct World {
    Physics physics;
    int shape;
    World(double figure, glm::vec3 size)
        : physics(figure),
          shape(physics.addShape(box({-size.x / 2, 0, -size.z / 2}, {size.x / 2, size.y, size.z / 2}),
                                 {0, size.y / 2, 0})) {}
};

} // namespace

TEST_CASE("a body let go above the floor comes to rest on it, at every platform's scale") {
    const double figure = GENERATE(1.28, 6.0, 17.8, 72.0);
    const auto f = static_cast<float>(figure);
    World world(figure, {f / 2, f, f / 2});
    const int body = world.physics.add(world.shape, {0, f, 0});
    world.physics.advance(6);
    CHECK(world.physics.atRest());
    CHECK(std::abs(placeOf(world.physics, body).y) < 0.01 * figure);
    CHECK(upOf(world.physics, body).y > 0.999f);
}

TEST_CASE("a tall thin body that is tipped past its balance falls, one that is not stands up again") {
    // A box of 0.4 by 2: it balances on its edge at atan(0.2 / 1) = 11.3 degrees.
    const auto stands = [](float degrees) {
        World world(1.8, {0.4f, 2, 0.4f});
        const int body =
            world.physics.add(world.shape, {0, 0.2f, 0}, glm::radians(degrees), glm::radians(90.0f));
        world.physics.advance(8);
        return upOf(world.physics, body).y > 0.9f;
    };
    CHECK(stands(0));
    CHECK(stands(4));
    CHECK_FALSE(stands(30));
}

TEST_CASE("one on another stands at its height") {
    World world(1.8, {1, 1, 1});
    world.physics.add(world.shape, {0, 0, 0});
    const int upper = world.physics.add(world.shape, {0, 1.05f, 0});
    world.physics.advance(5);
    CHECK(placeOf(world.physics, upper).y == Approx(1).margin(0.03));
    CHECK(world.physics.count() == 2);
    world.physics.clear();
    CHECK(world.physics.count() == 0);
}

TEST_CASE("two bodies touch when they are nearer than they are wide") {
    World world(1.8, {0.5f, 1, 0.5f});
    CHECK(world.physics.touches(0.4, world.shape));
    CHECK_FALSE(world.physics.touches(0.6, world.shape));
    // Found to within a hundredth of the width.
    CHECK(world.physics.touches(0.49, world.shape));
    CHECK_FALSE(world.physics.touches(0.52, world.shape));
}

TEST_CASE("a push tips what is thin and does not tip what is broad") {
    const auto falls = [](float width) {
        World world(1.8, {width, 2, width});
        const int body = world.physics.add(world.shape, {0, 0, 0});
        world.physics.advance(1);
        world.physics.push(body, {1.5f, 0, 0});
        world.physics.advance(6);
        return upOf(world.physics, body).y < 0.9f;
    };
    CHECK(falls(0.2f));
    CHECK_FALSE(falls(3));
}

TEST_CASE("what the ray meets is taken, follows the ray and falls when let go") {
    World world(1.8, {1, 1, 1});
    const int body = world.physics.add(world.shape, {0, 0, 0});
    world.physics.advance(1);
    CHECK_FALSE(world.physics.grab({0, 5, 10}, {0, 0, 1})); // away from it
    CHECK_FALSE(world.physics.holding());
    REQUIRE(world.physics.grab({0, 5, 10}, glm::normalize(glm::vec3(0, -4.5f, -10))));
    CHECK(world.physics.holding());
    for (int i = 0; i < 240; ++i) { // the ray meets the floor at x = 3
        world.physics.carry({3, 5, 10}, glm::normalize(glm::vec3(0, -5, -10)));
        world.physics.advance(1.0 / 60);
    }
    CHECK(placeOf(world.physics, body).x == Approx(3).margin(0.3));
    CHECK(placeOf(world.physics, body).y > 0.05f); // carried, not dragged
    world.physics.release();
    CHECK_FALSE(world.physics.holding());
    world.physics.advance(5);
    CHECK(placeOf(world.physics, body).y < 0.1f);
}

TEST_CASE("nothing is carried or thrown beyond the edge of what there is to stand on") {
    World world(1.28, {0.8f, 1.4f, 0.8f});
    world.physics.keepWithin({6, 3.5f}, true);
    const int body = world.physics.add(world.shape, {0, 0, 0});
    world.physics.advance(1);
    const glm::vec3 eye(0, 5, 10);
    REQUIRE(world.physics.grab(eye, glm::normalize(glm::vec3(0, -4.5f, -10))));
    for (int i = 0; i < 480; ++i) { // the ray meets the floor 40 units behind
        world.physics.carry(eye, glm::normalize(glm::vec3(0, -5, -50)));
        world.physics.advance(1.0 / 60);
    }
    CHECK(placeOf(world.physics, body).z == Approx(-3.1).margin(0.3));
    CHECK(placeOf(world.physics, body).z > -3.6f);
    CHECK(upOf(world.physics, body).y > 0.99f);
    world.physics.release();
    world.physics.push(body, {30, 0, -30});
    world.physics.advance(10);
    CHECK(placeOf(world.physics, body).z > -3.6f);
    CHECK(placeOf(world.physics, body).x < 6.1f);
}

TEST_CASE("what has fallen is righted by the hand that takes it, however it lies") {
    for (const float tilt : {1.57f, 3.14159f}) {
        World world(1.28, {0.8f, 1.4f, 0.8f});
        const int body = world.physics.add(world.shape, {0, 1.5f, 0}, tilt);
        world.physics.advance(5);
        REQUIRE(upOf(world.physics, body).y < 0.5f);
        const glm::vec3 eye(0, 5, 10), towards = glm::normalize(placeOf(world.physics, body) - eye);
        REQUIRE(world.physics.grab(eye, towards));
        for (int i = 0; i < 180; ++i) {
            world.physics.carry(eye, towards);
            world.physics.advance(1.0 / 60);
        }
        CHECK(upOf(world.physics, body).y > 0.99f);
    }
}

TEST_CASE("the same throw ends at the same place every time") {
    const auto end = [] {
        World world(1.8, {0.5f, 1, 0.7f});
        const int body = world.physics.add(world.shape, {0, 2, 0}, 0.4f, 1);
        world.physics.advance(3);
        return world.physics.pose(body).matrix;
    };
    CHECK(end() == end());
}

TEST_CASE("shapes of one corner, of none and without thickness do no harm") {
    Physics physics(1.8);
    Shape flat = box({0, 0, 0}, {1, 1, 0}), point, none;
    point.positions = {{1, 2, 3}};
    for (const Shape& shape : {flat, point, none}) {
        const int body = physics.add(physics.addShape(shape, {0, 0, 0}), {0, 1, 0});
        physics.advance(0.5);
        const glm::mat4 pose = physics.pose(body).matrix;
        for (int i = 0; i < 16; ++i) CHECK(std::isfinite(pose[i / 4][i % 4]));
    }
}

TEST_CASE("a ball that is thrown follows its curve, and rolls to rest near where it came down") {
    const double figure = GENERATE(1.75, 88.0);
    const auto f = static_cast<float>(figure);
    Physics physics(figure);
    const Mesh mesh = shapes::sphere(16, 10, 0.07f * f);
    Shape shape;
    shape.positions = mesh.positions, shape.indices = mesh.indices;
    const int ball = physics.add(physics.addShape(shape, {0, 0, 0}), {0, 2 * f, 0});
    const glm::vec3 velocity(0, 2 * f, 6 * f);
    physics.launch(ball, velocity);
    constexpr float seconds = 0.25f;
    physics.advance(seconds);
    const glm::vec3 there = glm::vec3(0, 2 * f, 0) + velocity * seconds -
                            glm::vec3(0, 0.5f * physics.gravity() * seconds * seconds, 0);
    CHECK(glm::distance(placeOf(physics, ball), there) < 0.06f * f); // the air takes a little
    physics.advance(8);
    CHECK(physics.atRest());
    CHECK(placeOf(physics, ball).z < 8 * f);
}

} // namespace physics_tests
