#include "standins/slip/floating.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::slip {

namespace {

using Form = Hull::Form;

constexpr double edge = 0.25, kilograms = 6.5, water = 1000; ///< m, of a whole block, kg/m³
constexpr double lifts = water * edge * edge * edge;         ///< kg, a block under water

bool isOpen(const Hull::Cell& cell) {
    return cell.piece > 0 || cell.form != Form::Whole; // strays have fallen off; water creeps past slopes
}

/// Cells that water comes to when it stands as high as the tops of `layers` layers; with more than there are
/// it stands above everything.
std::vector<char> wetUpTo(const Hull& hull, int layers) {
    std::vector<char> wet(hull.cells.size(), 0);
    std::vector<glm::ivec3> reached;
    const auto reach = [&](glm::ivec3 cell) {
        const Hull::Cell* there = hull.at(cell);
        if (!there || cell.y >= layers || !isOpen(*there) || wet[hull.number(cell)]) return;
        wet[hull.number(cell)] = 1;
        reached.push_back(cell);
    };
    for (int y = 0; y < layers; ++y) {
        for (int x = 0; x < hull.size.x; ++x) reach({x, y, 0}), reach({x, y, hull.size.z - 1});
        for (int z = 0; z < hull.size.z; ++z) reach({0, y, z}), reach({hull.size.x - 1, y, z});
    }
    for (int x = 0; x < hull.size.x; ++x)
        for (int z = 0; z < hull.size.z; ++z) {
            reach({x, 0, z});
            if (layers > hull.size.y) reach({x, hull.size.y - 1, z}); // it closes over the top
        }
    while (!reached.empty()) {
        const glm::ivec3 cell = reached.back();
        reached.pop_back();
        for (const glm::ivec3 way : {glm::ivec3(1, 0, 0), glm::ivec3(-1, 0, 0), glm::ivec3(0, 1, 0),
                                     glm::ivec3(0, -1, 0), glm::ivec3(0, 0, 1), glm::ivec3(0, 0, -1)})
            reach(cell + way);
    }
    return wet;
}

/// What lifts below the tops of so many layers, in blocks, with moments.
struct Lift {
    double volume = 0;
    glm::dvec3 moment{0};
    // Of the last layer, which is the waterplane: area, first and second moments about its middle lines.
    double area = 0, along = 0, acrossSquared = 0, alongSquared = 0;
};

Lift liftOf(const Hull& hull, int layers) {
    Lift out;
    const auto wet = wetUpTo(hull, layers);
    for (std::size_t i = 0; i < hull.cells.size(); ++i) {
        const int y = hull.cellOf(i).y;
        if (y >= layers) continue;
        const double part = !wet[i] ? 1 : hull.cells[i].piece > 0 ? 0 : hull.volumeOf(i);
        if (part == 0) continue;
        const glm::dvec3 at = hull.middleOf(i);
        out.volume += part, out.moment += part * at;
        if (y != layers - 1) continue;
        out.area += part, out.along += part * at.z;
        out.acrossSquared += part * (at.x * at.x + 1 / 12.0),
            out.alongSquared += part * (at.z * at.z + 1 / 12.0);
    }
    return out;
}

} // namespace

Floating floatingOf(const Hull& hull) {
    Floating out;
    double volume = 0;
    for (std::size_t i = 0; i < hull.cells.size(); ++i) {
        if (hull.cells[i].piece != 0) continue;
        const double own = hull.volumeOf(i);
        volume += own;
        out.weight += own * hull.middleOf(i);
    }
    if (volume == 0) return out;
    out.weight /= volume;
    const double mass = volume * kilograms;
    out.tonnes = mass / 1000;
    out.draught = hull.size.y;
    // More layers under water never lift less, until it comes in: the first that carries is where it lies.
    Lift before;
    for (int layers = 1; layers <= hull.size.y; ++layers) {
        const Lift now = liftOf(hull, layers);
        if (now.volume * lifts < mass) {
            before = now;
            continue;
        }
        const double wanted = mass / lifts, part = (wanted - before.volume) / (now.volume - before.volume);
        out.floats = true;
        out.draught = layers - 1 + std::clamp(part, 0.0, 1.0);
        glm::dvec3 moment = before.moment + part * (now.moment - before.moment);
        moment.y -=
            part * (now.volume - before.volume) * (1 - part) / 2; // of the last layer only its lower part
        out.lift = moment / wanted;
        const double middle = now.area > 0 ? now.along / now.area : 0;
        out.righting = out.lift.y + now.acrossSquared / wanted - out.weight.y;
        out.rightingAlong =
            out.lift.y + (now.alongSquared - now.area * middle * middle) / wanted - out.weight.y;
        for (int above = layers; above <= hull.size.y; ++above) { // until it lifts less than one layer lower
            if (above == hull.size.y || liftOf(hull, above + 1).volume < liftOf(hull, above).volume - 1e-9) {
                out.freeboard = above - out.draught;
                break;
            }
        }
        break;
    }
    if (!out.floats) return out;
    constexpr double most = 89;
    const auto lean = [&](double aside, double height) {
        return height > 1e-9 ? std::clamp(glm::degrees(std::atan2(aside, height)), -most, most) : 0.0;
    };
    out.heel = lean(out.weight.x - out.lift.x, out.righting);
    out.trim = lean(out.weight.z - out.lift.z, out.rightingAlong);
    return out;
}

} // namespace zl::standins::slip
