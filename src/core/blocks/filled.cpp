#include "core/blocks/filled.h"

#include "core/geometry/line_crossings.h"
#include "core/geometry/winding_number.h"

#include <bit>
#include <cmath>
#include <tbb/parallel_for.h>

namespace zl::blocks {

namespace {

/// What the lines along one axis say of every cell.
struct Heard {
    std::vector<Samples> in, known;
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

Heard heardAlong(int axis, const Mesh& mesh, glm::ivec3 size, const Progress& progress) {
    const int u = (axis + 1) % 3, v = (axis + 2) % 3;
    const geometry::LineGrid grid{.axis = axis,
                                  .first = glm::dvec2(apart / 2),
                                  .step = apart,
                                  .across = samplesAlong * size[u],
                                  .down = samplesAlong * size[v]};
    const geometry::LineCrossings crossings(mesh, grid, progress);
    const std::size_t cells = cellsIn(size);
    Heard out{std::vector<Samples>(cells, 0), std::vector<Samples>(cells, ~Samples(0))};
    const std::size_t strides[] = {1, std::size_t(size.x), std::size_t(size.x) * std::size_t(size.y)};
    std::vector<geometry::Stretch> inside;
    for (std::size_t line = 0; line < grid.count(); ++line) {
        if (crossings.of(line).empty()) continue; // all of it is outside
        const int column = int(line % std::size_t(grid.across)), row = int(line / std::size_t(grid.across));
        const std::size_t start =
            std::size_t(column / samplesAlong) * strides[u] + std::size_t(row / samplesAlong) * strides[v];
        const int atU = column % samplesAlong, atV = row % samplesAlong;
        if (!crossings.insideOf(line, inside)) {
            const Samples all = rowBits(axis, atU, atV, 0b1111);
            for (int cell = 0; cell < size[axis]; ++cell)
                out.known[start + std::size_t(cell) * strides[axis]] &= ~all;
            continue;
        }
        for (const geometry::Stretch& one : inside) {
            const double last = samplesAlong * size[axis] - 1;
            const int from = int(std::clamp(std::ceil(one.from / apart - 0.5), 0.0, last + 1)),
                      to = int(std::clamp(std::floor(one.to / apart - 0.5), -1.0, last));
            for (int cell = from / samplesAlong; from <= to && cell <= to / samplesAlong; ++cell) {
                const int first = std::max(from - cell * samplesAlong, 0),
                          end = std::min(to - cell * samplesAlong, samplesAlong - 1);
                const unsigned bits = ((2u << end) - 1) & ~((1u << first) - 1);
                out.in[start + std::size_t(cell) * strides[axis]] |= rowBits(axis, atU, atV, bits);
            }
        }
    }
    return out;
}

glm::dvec3 pointOf(glm::ivec3 cell, int bit) {
    const glm::ivec3 sample{bit % samplesAlong, bit / samplesAlong % samplesAlong,
                            bit / (samplesAlong * samplesAlong)};
    return glm::dvec3(cell) + (glm::dvec3(sample) + 0.5) * apart;
}

} // namespace

Filled filled(const Mesh& mesh, glm::ivec3 size, const Progress& progress) {
    Filled out;
    out.size = size;
    Heard along[3];
    tbb::parallel_for(0, 3, [&](int axis) { along[axis] = heardAlong(axis, mesh, size, progress.silent()); });
    progress.report(0.7);
    const auto& [x, y, z] = along;
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
    if (open.empty()) return out;
    for (const auto& [cell, samples] : open) out.unsure += std::size_t(std::popcount(samples));
    const geometry::WindingNumber winding(mesh);
    tbb::parallel_for(std::size_t(0), open.size(), [&](std::size_t k) {
        if (k % 256 == 0) progress.checkCancel();
        const auto& [cell, samples] = open[k];
        for (Samples left = samples; left != 0; left &= left - 1) {
            const int bit = std::countr_zero(left);
            if (winding.at(pointOf(cellIn(size, cell), bit)) > 0.5) out.cells[cell] |= Samples(1) << bit;
        }
    });
    return out;
}

} // namespace zl::blocks
