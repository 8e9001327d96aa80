#include "core/blocks/thin.h"

#include "core/base/groups.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zl::blocks {

namespace {

constexpr double apart = 1.0 / samplesAlong;
constexpr double steepest = 1.25 * apart; ///< from line to line; a little over half a right angle
constexpr int around = 2;                 ///< lines on each side that a stretch must have to be no mere edge
constexpr double leastArea = 2;           ///< of a part, in blocks
constexpr int linesOfCell = samplesAlong * samplesAlong;

/// Stretches by the line that they are on.
class Lines {
public:
    Lines(const std::vector<ThinStretch>& all, int across, int down)
        : all_(all), across_(across), down_(down), start_(std::size_t(across) * std::size_t(down) + 1, 0) {
        for (const ThinStretch& one : all) ++start_[place(one.u, one.v) + 1];
        for (std::size_t i = 1; i < start_.size(); ++i) start_[i] += start_[i - 1];
    }
    /// The one on a line that goes on from `mid`, or no stretch's number.
    std::size_t near(int u, int v, double mid) const {
        if (u < 0 || v < 0 || u >= across_ || v >= down_) return all_.size();
        for (std::size_t i = start_[place(u, v)]; i < start_[place(u, v) + 1]; ++i)
            if (std::abs((all_[i].from + all_[i].to) / 2 - mid) <= steepest) return i;
        return all_.size();
    }

private:
    std::size_t place(int u, int v) const { return std::size_t(v) * std::size_t(across_) + std::size_t(u); }
    const std::vector<ThinStretch>& all_;
    int across_, down_;
    std::vector<std::size_t> start_;
};

/// How far one can go from stretch to stretch each way, in lines, at most `around`.
bool hasAllAround(const Lines& lines, const std::vector<ThinStretch>& all, std::size_t at) {
    static constexpr int ways[4][2] = {{1, 0}, {-1, 0}, {0, 1}, {0, -1}};
    for (const auto& way : ways) {
        std::size_t now = at;
        for (int k = 0; k < around; ++k) {
            const ThinStretch& here = all[now];
            now = lines.near(here.u + way[0], here.v + way[1], (here.from + here.to) / 2);
            if (now == all.size()) return false;
        }
    }
    return true;
}

} // namespace

void thinTo(Filled& filled, int axis, const std::vector<ThinStretch>& stretches, ThinSide side) {
    const int u = (axis + 1) % 3, v = (axis + 2) % 3;
    const Lines lines(stretches, samplesAlong * filled.size[u], samplesAlong * filled.size[v]);
    Groups joined(stretches.size());
    for (std::size_t i = 0; i < stretches.size(); ++i) {
        const ThinStretch& one = stretches[i];
        const double mid = (one.from + one.to) / 2;
        for (const std::size_t next : {lines.near(one.u + 1, one.v, mid), lines.near(one.u, one.v + 1, mid)})
            if (next < stretches.size()) joined.join(std::uint32_t(i), std::uint32_t(next));
    }
    std::vector<std::size_t> size(stretches.size(), 0);
    std::vector<char> isPart(stretches.size(), 0);
    for (std::size_t i = 0; i < stretches.size(); ++i) ++size[joined.of(std::uint32_t(i))];
    for (std::size_t i = 0; i < stretches.size(); ++i)
        if (const std::size_t part = joined.of(std::uint32_t(i));
            !isPart[part] && double(size[part]) >= leastArea * linesOfCell &&
            hasAllAround(lines, stretches, i))
            isPart[part] = 1;

    struct Column {
        int lines = 0;
        double from = 0, to = 0;
    };
    std::map<std::array<std::size_t, 3>, Column> columns; // by part and cell
    for (std::size_t i = 0; i < stretches.size(); ++i) {
        const std::size_t part = joined.of(std::uint32_t(i));
        if (!isPart[part]) continue;
        const ThinStretch& one = stretches[i];
        Column& column =
            columns[{part, std::size_t(one.v / samplesAlong), std::size_t(one.u / samplesAlong)}];
        ++column.lines, column.from += one.from, column.to += one.to;
        // What the line fills goes; the one block comes afterwards.
        const double last = samplesAlong * filled.size[axis] - 1;
        const int first = int(std::clamp(std::ceil(one.from / apart - 0.5), 0.0, last + 1)),
                  end = int(std::clamp(std::floor(one.to / apart - 0.5), -1.0, last));
        for (int k = first; k <= end; ++k) {
            glm::ivec3 sample;
            sample[axis] = k, sample[u] = one.u, sample[v] = one.v;
            const glm::ivec3 in = sample % samplesAlong;
            filled.cells[indexIn(filled.size, sample / samplesAlong)] &=
                ~(Samples(1) << (in.x + samplesAlong * (in.y + samplesAlong * in.z)));
        }
    }
    const double middle = filled.size[axis] / 2.0;
    for (const auto& [key, column] : columns) {
        if (2 * column.lines < linesOfCell) continue;
        const double from = column.from / column.lines, to = column.to / column.lines;
        const bool above = (from + to) / 2 >= middle;
        constexpr double inside = 1e-6;
        const bool onMiddle = from < middle && to > middle;
        const double at = side == ThinSide::Nearest || onMiddle  ? (from + to) / 2
                          : (side == ThinSide::Outward) == above ? to - inside
                                                                 : from + inside;
        glm::ivec3 cell;
        cell[axis] = std::clamp(int(std::floor(at)), 0, filled.size[axis] - 1);
        cell[u] = int(key[2]), cell[v] = int(key[1]);
        filled.cells[indexIn(filled.size, cell)] = ~Samples(0);
    }
}

} // namespace zl::blocks
