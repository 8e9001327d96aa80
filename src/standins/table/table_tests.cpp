#include "standins/table/table_tests.h"

#include "standins/world/measures.h"

#include <algorithm>
#include <cmath>

namespace zl::standins::table {

namespace {

using world::round4;

constexpr double longest = 6.0; ///< seconds a test may take to come to rest

/// Runs until all is at rest for a quarter of a second; returns the time it took.
double settle(World& world) {
    double quiet = 0, time = 0;
    for (; time < longest && quiet < 0.25; time += 1 / 60.0) {
        world.advance(1 / 60.0);
        quiet = world.atRest() ? quiet + 1 / 60.0 : 0;
    }
    return std::max(0.0, time - quiet);
}

double lowestCorner(const Figure& figure, const Pose& pose) {
    double low = 1e30;
    for (const glm::vec3& p : figure.model.positions)
        low = std::min(low, double((pose.matrix * glm::vec4(p, 1)).y));
    return low;
}

bool upright(const Pose& pose) {
    return pose.matrix[1].y > 0.98f;
} // within 11° of the vertical

} // namespace

double footWidth(const Figure& figure) {
    const float low = figure.model.low().y, top = low + 0.02f * (figure.model.high().y - low);
    float left = 1e30f, right = -1e30f;
    const auto& shape = figure.model;
    for (std::size_t i = 0; i < shape.indices.size(); ++i) {
        const glm::vec3 a = shape.positions[shape.indices[i]];
        const glm::vec3 b = shape.positions[shape.indices[i % 3 == 2 ? i - 2 : i + 1]];
        if (a.y <= top) left = std::min(left, a.x), right = std::max(right, a.x);
        if ((a.y <= top) != (b.y <= top)) {
            const float x = a.x + (b.x - a.x) * (top - a.y) / (b.y - a.y);
            left = std::min(left, x), right = std::max(right, x);
        }
    }
    return right > left ? right - left : 0;
}

double touchingDistance(const world::Physics& physics, const Figure& figure, ColliderKind collider) {
    const int shape = static_cast<int>(collider);
    double apart = 4 * std::max(1.0f, figure.model.high().x - figure.model.low().x), touching = 0;
    for (const glm::vec3& p : physics.shape(shape).positions) apart = std::max(apart, 4.0 * std::abs(p.x));
    for (int i = 0; i < 40; ++i) {
        const double middle = (apart + touching) / 2;
        (physics.touches(middle, shape) ? touching : apart) = middle;
    }
    return apart;
}

Measured measure(const Figure& figure, ColliderKind collider) {
    Measured result;
    World world(figure);
    const float foot = figure.model.low().y;
    world.add({0, 0.2f - foot, 0}, collider);
    settle(world);
    result.gapToFloor = lowestCorner(figure, world.pose(0));
    result.staysUpright = upright(world.pose(0));

    for (int drop = 0; drop < result.drops; ++drop) {
        world.clear();
        world.add({0, 3 - foot, 0}, collider, glm::radians(3.0f),
                  float(drop) * 6.2831853f / float(result.drops));
        const double seconds = settle(world);
        if (upright(world.pose(0))) ++result.uprightDrops;
        if (drop == 0) result.restSeconds = seconds;
    }

    world.clear();
    world.add({0, -foot, 0}, collider);
    const float top = world.colliderShape(collider).high().y - foot;
    world.add({0, top - foot + 0.05f, 0}, collider);
    settle(world);
    const double upper = world.pose(1).matrix[3].y;
    result.stackHeight = upright(world.pose(1)) && upper > 0.5 * top ? upper : 0;

    result.sideBySideGap = touchingDistance(world, figure, collider) - footWidth(figure);
    return result;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto figure = loadFigure(folder, report);
    if (!figure) return report;
    const Measured own = measure(*figure, ColliderKind::Own),
                   box = measure(*figure, ColliderKind::DefaultBox);
    report.tests = {
        {"gapToFloor", round4(own.gapToFloor)},       {"staysUpright", own.staysUpright},
        {"uprightDrops", own.uprightDrops},           {"drops", own.drops},
        {"restSeconds", round4(own.restSeconds)},     {"stackHeight", round4(own.stackHeight)},
        {"sideBySideGap", round4(own.sideBySideGap)}, {"defaultBoxGap", round4(box.sideBySideGap)},
        {"defaultBoxUprightDrops", box.uprightDrops}};
    report.lengths = {"gapToFloor", "stackHeight", "sideBySideGap", "defaultBoxGap"};
    if (std::abs(own.gapToFloor) > 0.02)
        report.messages.push_back(
            {Message::Kind::Odd, "",
             own.gapToFloor > 0 ? "It hovers above the table" : "It sinks into the table",
             "Give it a collider whose bottom is level with its feet"});
    if (!own.staysUpright)
        report.messages.push_back(
            {Message::Kind::Odd, "", "It falls over when it is put down", "A wider collider would hold it"});
    return report;
}

} // namespace zl::standins::table
