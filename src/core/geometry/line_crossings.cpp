#include "core/geometry/line_crossings.h"

#include "core/geometry/world.h"

#include <algorithm>
#include <cmath>

namespace zl::geometry {

namespace {

/// Twice the signed area of (a, b, p), computed alike from both sides of an edge: shared edges give the same
/// number, with the sign turned.
double sideOf(const glm::dvec2& a, const glm::dvec2& b, const glm::dvec2& p) {
    const bool turned = b.x < a.x || (b.x == a.x && b.y < a.y);
    const glm::dvec2 &from = turned ? b : a, &to = turned ? a : b;
    const double side = (to.x - from.x) * (p.y - from.y) - (to.y - from.y) * (p.x - from.x);
    return turned ? -side : side;
}

/// Whether a point on the edge itself counts to the triangle on its left.
bool ownsEdge(const glm::dvec2& a, const glm::dvec2& b) {
    return a.x < b.x || (a.x == b.x && a.y < b.y);
}

struct Found {
    std::size_t line;
    LineCrossing crossing;
};

} // namespace

glm::dvec3 LineGrid::pointOf(std::size_t line, double along) const {
    glm::dvec3 out;
    out[axis] = along;
    const std::size_t row = line / std::size_t(across), column = line % std::size_t(across);
    out[(axis + 1) % 3] = first.x + step * double(column);
    out[(axis + 2) % 3] = first.y + step * double(row);
    return out;
}

LineGrid linesOver(const Bounds& bounds, int axis, int most) {
    const glm::dvec3 size = bounds.size();
    LineGrid out{.axis = axis};
    out.step = std::max({size.x, size.y, size.z}) / std::max(most, 1);
    if (!(out.step > 0) || !std::isfinite(out.step)) return out;
    constexpr double off = 0.381966; // of a step; no simple fraction
    const int x = (axis + 1) % 3, y = (axis + 2) % 3;
    out.first = {bounds.min[x] + off * out.step, bounds.min[y] + (1 - off) * out.step};
    out.across = int(std::floor(size[x] / out.step - off)) + 1;
    out.down = int(std::floor(size[y] / out.step - (1 - off))) + 1;
    out.across = std::max(out.across, 0), out.down = std::max(out.down, 0);
    return out;
}

LineCrossings::LineCrossings(const Mesh& mesh, const LineGrid& grid, const Progress& progress) {
    const int x = (grid.axis + 1) % 3, y = (grid.axis + 2) % 3, z = grid.axis;
    std::vector<Found> found;
    start_.assign(grid.count() + 1, 0);
    for (std::size_t t = 0; grid.count() > 0 && t < mesh.triangleCount(); ++t) {
        if (t % 65536 == 0) progress.checkCancel();
        glm::dvec3 corner[3];
        for (int k = 0; k < 3; ++k) corner[k] = mesh.positions[mesh.indices[3 * t + std::size_t(k)]];
        glm::dvec2 flat[3];
        for (int k = 0; k < 3; ++k) flat[k] = {corner[k][x], corner[k][y]};
        const double area = sideOf(flat[0], flat[1], flat[2]);
        if (area == 0 || !std::isfinite(area)) continue;
        // The axes follow one another, so a face that turns left as seen along the axis shows its back.
        const int turn = area > 0 ? -1 : 1;
        if (area < 0) std::swap(flat[1], flat[2]), std::swap(corner[1], corner[2]);
        const auto range = [&](int k, double first, int count) {
            const auto [low, high] = std::minmax({flat[0][k], flat[1][k], flat[2][k]});
            return std::pair(int(std::clamp(std::ceil((low - first) / grid.step), 0.0, double(count))),
                             int(std::clamp(std::floor((high - first) / grid.step), -1.0, count - 1.0)));
        };
        const auto [left, right] = range(0, grid.first.x, grid.across);
        const auto [top, bottom] = range(1, grid.first.y, grid.down);
        for (int row = top; row <= bottom; ++row)
            for (int column = left; column <= right; ++column) {
                const glm::dvec2 p = grid.first + grid.step * glm::dvec2(column, row);
                double weight[3]; // of the corner opposite each edge
                bool in = true;
                for (int k = 0; k < 3 && in; ++k) {
                    const glm::dvec2 &a = flat[(k + 1) % 3], &b = flat[(k + 2) % 3];
                    weight[k] = sideOf(a, b, p);
                    in = weight[k] > 0 || (weight[k] == 0 && ownsEdge(a, b));
                }
                if (!in) continue;
                const double all = weight[0] + weight[1] + weight[2];
                const double at =
                    (weight[0] * corner[0][z] + weight[1] * corner[1][z] + weight[2] * corner[2][z]) / all;
                const std::size_t line = std::size_t(row) * std::size_t(grid.across) + std::size_t(column);
                found.push_back({line, {at, turn}});
                ++start_[line + 1];
            }
    }
    for (std::size_t i = 1; i < start_.size(); ++i) start_[i] += start_[i - 1];
    all_.resize(found.size());
    auto next = start_;
    for (const Found& one : found) all_[next[one.line]++] = one.crossing;
    for (std::size_t line = 0; line < grid.count(); ++line)
        std::sort(all_.begin() + std::ptrdiff_t(start_[line]),
                  all_.begin() + std::ptrdiff_t(start_[line + 1]),
                  [](const LineCrossing& a, const LineCrossing& b) {
                      return a.at != b.at ? a.at < b.at : a.turn > b.turn;
                  });
}

bool LineCrossings::insideOf(std::size_t line, std::vector<Stretch>& out) const {
    out.clear();
    int depth = 0;
    for (const LineCrossing& crossing : of(line)) {
        const int before = depth;
        depth += crossing.turn;
        if (before <= 0 && depth > 0) out.push_back({crossing.at, crossing.at});
        if (before > 0 && depth <= 0) out.back().to = crossing.at;
    }
    if (depth == 0) return true;
    out.clear();
    return false;
}

void takeAway(const std::vector<Stretch>& a, const std::vector<Stretch>& b, std::vector<Stretch>& out) {
    out.clear();
    std::size_t k = 0;
    for (Stretch left : a) {
        while (k < b.size() && b[k].to <= left.from) ++k;
        for (std::size_t i = k; i < b.size() && b[i].from < left.to; ++i) {
            if (b[i].from > left.from) out.push_back({left.from, b[i].from});
            left.from = std::max(left.from, b[i].to);
        }
        if (left.to > left.from) out.push_back(left);
    }
}

} // namespace zl::geometry
