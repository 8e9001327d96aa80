#include "core/blocks/plane.h"

#include "core/geometry/line_crossings.h"

#include <algorithm>
#include <cmath>

namespace zl::blocks {

namespace {

constexpr int linesAlong = 64;
constexpr int planes = 64;      ///< over the middle half of the width, and as many between the best two
constexpr double nearly = 0.01; ///< of the width

/// Of each line across, what is inside.
using Rows = std::vector<std::vector<geometry::Stretch>>;

Rows rowsOf(const Mesh& mesh, const geometry::Bounds& bounds, const Progress& progress) {
    const geometry::LineGrid grid = geometry::linesOver(bounds, 0, linesAlong);
    const geometry::LineCrossings crossings(mesh, grid, progress);
    Rows out;
    std::vector<geometry::Stretch> inside;
    for (std::size_t line = 0; line < grid.count(); ++line)
        if (crossings.insideOf(line, inside) && !inside.empty()) out.push_back(inside);
    return out;
}

double lengthOf(const std::vector<geometry::Stretch>& row) {
    double out = 0;
    for (const geometry::Stretch& one : row) out += one.to - one.from;
    return out;
}

double unlike(const Rows& rows, double x) {
    double differs = 0, all = 0;
    std::vector<geometry::Stretch> image, left;
    for (const auto& row : rows) {
        image.clear();
        for (auto one = row.rbegin(); one != row.rend(); ++one)
            image.push_back({2 * x - one->to, 2 * x - one->from});
        geometry::takeAway(row, image, left);
        differs += 2 * lengthOf(left); // the image lacks as much as it has more
        all += lengthOf(row);
    }
    return all > 0 ? differs / all : 0;
}

} // namespace

Plane planeOf(const Mesh& mesh, const geometry::Bounds& bounds, const Progress& progress) {
    const Rows rows = rowsOf(mesh, bounds, progress);
    const double width = bounds.size().x, middle = bounds.centre().x;
    if (rows.empty()) return {middle, 0};
    Plane best{middle, unlike(rows, middle)};
    double step = width / 2;
    for (int round = 0; round < 2; ++round) {
        progress.checkCancel();
        const double from = best.x - step / 2;
        for (int i = 0; i <= planes; ++i)
            if (const double off = unlike(rows, from + step * i / planes); off < best.unlike)
                best = {from + step * i / planes, off};
        step *= 2.0 / planes;
    }
    for (const double usual : {0.0, middle})
        if (std::abs(usual - best.x) < nearly * width && usual != best.x) {
            best = {usual, unlike(rows, usual)};
            break;
        }
    return best;
}

double unlikeAbout(const Mesh& mesh, const geometry::Bounds& bounds, double x, const Progress& progress) {
    return unlike(rowsOf(mesh, bounds, progress), x);
}

} // namespace zl::blocks
