#include "core/blocks/filled.h"

#include "core/blocks/thin.h"
#include "core/geometry/line_crossings.h"
#include "core/geometry/winding_number.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <tbb/parallel_for.h>

namespace zl::blocks {

namespace {

/// What the lines along one axis say of every cell.
struct Heard {
    std::vector<Samples> in, known;
    std::vector<char> crossed; ///< cells in which a line meets the surface
    std::vector<ThinStretch> thin;
};

constexpr double apart = 1.0 / samplesAlong;

/// The bits of a row of samples along an axis, those of `row` set, at place (u, v) on the two that follow.
Samples rowBits(int axis, int u, int v, unsigned row) {
    static constexpr int strides[] = {1, samplesAlong, samplesAlong * samplesAlong};
    const int along = strides[axis];
    const int start = u * strides[(axis + 1) % 3] + v * strides[(axis + 2) % 3];
    Samples out = 0;
    for (int i = 0; i < samplesAlong; ++i)
        if (row >> i & 1) out |= Samples(1) << (start + i * along);
    return out;
}

geometry::LineGrid gridOf(int axis, glm::ivec3 size) {
    return {.axis = axis,
            .first = glm::dvec2(apart / 2),
            .step = apart,
            .across = samplesAlong * size[(axis + 1) % 3],
            .down = samplesAlong * size[(axis + 2) % 3]};
}

/// Where sheets are on the lines: stretches of no length, put among those of `thin` in order of lines.
void addSheets(std::vector<ThinStretch>& thin, int axis, const Mesh& sheets, glm::ivec3 size,
               const Progress& progress) {
    const geometry::LineGrid grid = gridOf(axis, size);
    const geometry::LineCrossings crossings(sheets, grid, progress);
    for (std::size_t line = 0; line < grid.count(); ++line)
        for (const geometry::LineCrossing& one : crossings.of(line))
            thin.push_back(
                {int(line % std::size_t(grid.across)), int(line / std::size_t(grid.across)), one.at, one.at});
    std::ranges::stable_sort(thin, {}, [](const ThinStretch& one) { return std::pair(one.v, one.u); });
}

/// What a line that goes in and does not come out as often tells all the same: between a way in and the next
/// way out it is inside, between a way out and the next way in it is outside.
void tellOpen(std::span<const geometry::LineCrossing> crossings, std::vector<geometry::Stretch>& inside,
              std::vector<geometry::Stretch>& unknown) {
    constexpr double far = 1e9;
    inside.clear(), unknown.clear();
    for (std::size_t i = 0; i <= crossings.size(); ++i) {
        const int before = i > 0 ? crossings[i - 1].turn : -1,
                  after = i < crossings.size() ? crossings[i].turn : 1;
        const geometry::Stretch stretch{i > 0 ? crossings[i - 1].at : -far,
                                        i < crossings.size() ? crossings[i].at : far};
        if (before > 0 && after < 0) inside.push_back(stretch);
        if (before == after) unknown.push_back(stretch);
    }
}

class Hearing {
public:
    Hearing(int axis, glm::ivec3 size) : axis_(axis), size_(size) {
        const std::size_t cells = cellsIn(size);
        heard_ = {std::vector<Samples>(cells, 0),
                  std::vector<Samples>(cells, ~Samples(0)),
                  std::vector<char>(cells, 0),
                  {}};
    }
    Heard take(const Mesh& mesh, double thin, const Progress& progress) {
        const geometry::LineGrid grid = gridOf(axis_, size_);
        const geometry::LineCrossings crossings(mesh, grid, progress);
        std::vector<geometry::Stretch> inside, unknown;
        for (std::size_t line = 0; line < grid.count(); ++line) {
            const auto all = crossings.of(line);
            if (all.empty()) continue; // all of it is outside
            at(int(line % std::size_t(grid.across)), int(line / std::size_t(grid.across)));
            for (const geometry::LineCrossing& one : all)
                if (one.at >= 0 && one.at < size_[axis_]) heard_.crossed[cell(int(one.at))] = 1;
            if (!crossings.insideOf(line, inside)) {
                tellOpen(all, inside, unknown);
                for (const geometry::Stretch& one : unknown)
                    forEachCell(one, [&](std::size_t cell, Samples bits) { heard_.known[cell] &= ~bits; });
                for (const geometry::Stretch& one : inside)
                    forEachCell(one, [&](std::size_t cell, Samples bits) { heard_.in[cell] |= bits; });
                continue;
            }
            for (const geometry::Stretch& one : inside) {
                if (one.to - one.from < thin) heard_.thin.push_back({u_, v_, one.from, one.to});
                forEachCell(one, [&](std::size_t cell, Samples bits) { heard_.in[cell] |= bits; });
            }
        }
        return std::move(heard_);
    }

private:
    void at(int column, int row) {
        const std::size_t strides[] = {1, std::size_t(size_.x), std::size_t(size_.x) * std::size_t(size_.y)};
        u_ = column, v_ = row;
        start_ = std::size_t(column / samplesAlong) * strides[(axis_ + 1) % 3] +
                 std::size_t(row / samplesAlong) * strides[(axis_ + 2) % 3];
        stride_ = strides[axis_];
    }
    std::size_t cell(int along) const { return start_ + std::size_t(along) * stride_; }
    /// Calls `does(cell, samples of the line in it)` for what a stretch covers.
    template <class Do>
    void forEachCell(const geometry::Stretch& one, const Do& does) const {
        const double last = samplesAlong * size_[axis_] - 1;
        const int from = int(std::clamp(std::ceil(one.from / apart - 0.5), 0.0, last + 1)),
                  to = int(std::clamp(std::floor(one.to / apart - 0.5), -1.0, last));
        for (int along = from / samplesAlong; from <= to && along <= to / samplesAlong; ++along) {
            const int first = std::max(from - along * samplesAlong, 0),
                      end = std::min(to - along * samplesAlong, samplesAlong - 1);
            const unsigned bits = ((2u << end) - 1) & ~((1u << first) - 1);
            does(cell(along), rowBits(axis_, u_ % samplesAlong, v_ % samplesAlong, bits));
        }
    }

    int axis_;
    glm::ivec3 size_;
    Heard heard_;
    int u_ = 0, v_ = 0; ///< of the line
    std::size_t start_ = 0, stride_ = 0;
};

glm::dvec3 pointOf(glm::ivec3 cell, int bit) {
    const glm::ivec3 sample{bit % samplesAlong, bit / samplesAlong % samplesAlong,
                            bit / (samplesAlong * samplesAlong)};
    return glm::dvec3(cell) + (glm::dvec3(sample) + 0.5) * apart;
}

} // namespace

Filled filled(const Mesh& mesh, glm::ivec3 size, const Mesh& sheets, const ThinParts& thin,
              const Progress& progress) {
    Filled out;
    out.size = size;
    Heard along[3];
    tbb::parallel_for(0, 3, [&](int axis) {
        along[axis] = Hearing(axis, size).take(mesh, thin.below, progress.silent());
        if (!sheets.indices.empty()) addSheets(along[axis].thin, axis, sheets, size, progress.silent());
    });
    progress.report(0.7);
    const Heard &x = along[0], &y = along[1], &z = along[2];
    out.cells.resize(x.in.size());
    std::vector<std::pair<std::size_t, Samples>> open;
    for (std::size_t i = 0; i < out.cells.size(); ++i) {
        const Samples kx = x.known[i], ky = y.known[i], kz = z.known[i];
        const Samples ix = x.in[i] & kx, iy = y.in[i] & ky, iz = z.in[i] & kz;
        const Samples all = kx & ky & kz;
        const Samples most = (ix & iy) | (iy & iz) | (ix & iz); // at least two of those that know
        const Samples agree = all | (kx & ky & ~(ix ^ iy)) | (ky & kz & ~(iy ^ iz)) | (kx & kz & ~(ix ^ iz));
        out.cells[i] = most & agree;
        if (~agree != 0) open.emplace_back(i, ~agree);
    }
    if (!open.empty()) {
        for (const auto& [cell, samples] : open) out.unsure += std::size_t(std::popcount(samples));
        const geometry::WindingNumber winding(mesh);
        tbb::parallel_for(std::size_t(0), open.size(), [&](std::size_t k) {
            if (k % 256 == 0) progress.checkCancel();
            const auto& [cell, samples] = open[k];
            // Away from the surface it changes little within a block.
            if (!x.crossed[cell] && !y.crossed[cell] && !z.crossed[cell]) {
                const double middle = winding.at(glm::dvec3(cellIn(size, cell)) + 0.5);
                if (std::abs(middle - 0.5) > 0.2) {
                    if (middle > 0.5) out.cells[cell] |= samples;
                    return;
                }
            }
            for (Samples left = samples; left != 0; left &= left - 1) {
                const int bit = std::countr_zero(left);
                if (winding.at(pointOf(cellIn(size, cell), bit)) > 0.5) out.cells[cell] |= Samples(1) << bit;
            }
        });
    }
    for (int axis = 0; axis < 3; ++axis) thinTo(out, axis, along[axis].thin, thin.side);
    return out;
}

} // namespace zl::blocks
