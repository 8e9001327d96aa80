#include "core/geometry/collapse.h"

#include "core/base/huge_pages.h"

#include <meshoptimizer.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cfloat>
#include <cmath>

namespace zl::geometry {

namespace {

constexpr std::size_t slabs = 4, fewestForSlabs = 150000;

std::vector<std::uint32_t> atOnce(const std::vector<std::uint32_t>& indices,
                                  const std::vector<glm::vec3>& positions, std::size_t wanted,
                                  float mostError, bool lockBorder) {
    std::vector<std::uint32_t> out;
    resizeBig(out, indices.size());
    out.resize(meshopt_simplify(out.data(), indices.data(), indices.size(), &positions[0].x, positions.size(),
                                sizeof(glm::vec3), wanted * 3, mostError,
                                lockBorder ? meshopt_SimplifyLockBorder : 0, nullptr));
    return out;
}

/// Which slab each triangle is in, so that all have about as many: by their first corners' places along the
/// longest axis.
std::vector<std::uint8_t> slabOfTriangle(const std::vector<std::uint32_t>& indices,
                                         const std::vector<glm::vec3>& positions) {
    glm::vec3 low(FLT_MAX), high(-FLT_MAX);
    for (const glm::vec3& p : positions) low = glm::min(low, p), high = glm::max(high, p);
    const glm::vec3 size = high - low;
    const int axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    constexpr std::size_t steps = 4096;
    const float scale = size[axis] > 0 ? float(steps - 1) / size[axis] : 0;
    const auto stepOf = [&](std::size_t t) {
        return std::size_t(
            std::clamp((positions[indices[3 * t]][axis] - low[axis]) * scale, 0.0f, float(steps - 1)));
    };
    const std::size_t count = indices.size() / 3;
    std::vector<std::uint32_t> at(steps, 0);
    for (std::size_t t = 0; t < count; ++t) ++at[stepOf(t)];
    std::array<std::uint8_t, steps> slabOf{};
    std::size_t before = 0;
    for (std::size_t s = 0; s < steps; ++s) {
        slabOf[s] =
            std::uint8_t(std::min(slabs - 1, (before + at[s] / 2) * slabs / std::max<std::size_t>(1, count)));
        before += at[s];
    }
    std::vector<std::uint8_t> out(count);
    for (std::size_t t = 0; t < count; ++t) out[t] = slabOf[stepOf(t)];
    return out;
}

/// One slab's triangles, collapsed with every border of it held.
std::vector<std::uint32_t> collapsedSlab(const std::vector<std::uint32_t>& indices,
                                         const std::vector<glm::vec3>& positions,
                                         const std::vector<std::uint8_t>& slabOf, std::uint8_t slab,
                                         double share) {
    std::vector<std::uint32_t> own, keep, newIndex(positions.size(), ~0u);
    own.reserve(indices.size() / slabs * 5 / 4);
    std::vector<glm::vec3> places;
    for (std::size_t t = 0; t < slabOf.size(); ++t) {
        if (slabOf[t] != slab) continue;
        for (std::size_t c = 3 * t; c < 3 * t + 3; ++c) {
            std::uint32_t& n = newIndex[indices[c]];
            if (n == ~0u) {
                n = std::uint32_t(keep.size());
                keep.push_back(indices[c]);
                places.push_back(positions[indices[c]]);
            }
            own.push_back(n);
        }
    }
    if (own.empty()) return own;
    auto out = atOnce(own, places, std::size_t(std::ceil(double(own.size() / 3) * share)), FLT_MAX, true);
    for (std::uint32_t& c : out) c = keep[c];
    return out;
}

} // namespace

std::vector<std::uint32_t> collapsed(const std::vector<std::uint32_t>& indices,
                                     const std::vector<glm::vec3>& positions, std::size_t wanted,
                                     float mostError, bool lockBorder) {
    const std::size_t count = indices.size() / 3;
    if (count < fewestForSlabs || wanted * 4 > count || mostError < FLT_MAX)
        return atOnce(indices, positions, wanted, mostError, lockBorder);
    const auto slabOf = slabOfTriangle(indices, positions);
    std::array<std::vector<std::uint32_t>, slabs> parts;
    const double share = 2.0 * double(wanted) / double(count);
    tbb::parallel_for(std::size_t(0), slabs, [&](std::size_t s) {
        parts[s] = collapsedSlab(indices, positions, slabOf, std::uint8_t(s), share);
    });
    std::vector<std::uint32_t> rest, keep, newIndex(positions.size(), ~0u);
    std::vector<glm::vec3> places;
    for (const auto& part : parts)
        for (const std::uint32_t c : part) {
            std::uint32_t& n = newIndex[c];
            if (n == ~0u) n = std::uint32_t(keep.size()), keep.push_back(c), places.push_back(positions[c]);
            rest.push_back(n);
        }
    if (rest.empty()) return rest;
    auto out = atOnce(rest, places, wanted, mostError, lockBorder);
    for (std::uint32_t& c : out) c = keep[c];
    return out;
}

} // namespace zl::geometry
