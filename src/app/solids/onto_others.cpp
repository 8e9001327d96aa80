#include "app/solids/onto_others.h"

#include <cmath>

namespace zl::app {

OntoOthers ontoOthers(const geometry::Bounds& moved, std::span<const geometry::Bounds> others,
                      const glm::dvec3& by, const glm::bvec3& free, double reach) {
    OntoOthers out{by};
    for (int axis = 0; axis < 3; ++axis) {
        if (!free[axis]) continue;
        double least = reach;
        const double low = moved.min[axis] + by[axis], high = moved.max[axis] + by[axis];
        const auto meet = [&](std::size_t other, double from, double to) {
            if (std::abs(to - from) >= least) return;
            least = std::abs(to - from);
            out.by[axis] = by[axis] + to - from;
            out.other[std::size_t(axis)] = int(other), out.at[std::size_t(axis)] = to;
        };
        for (std::size_t k = 0; k < others.size(); ++k) {
            const double first = others[k].min[axis], last = others[k].max[axis];
            for (const double from : {low, high})
                for (const double to : {first, last}) meet(k, from, to);
            meet(k, (low + high) / 2, (first + last) / 2);
        }
    }
    return out;
}

} // namespace zl::app
