#include "core/planner/whole_blocks.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace zl::planner {

namespace {

/// Sides longer than that are as good as whole within any share worth a rule.
constexpr double longest = 4096;

bool isUsable(const glm::dvec3& sides) {
    for (int k = 0; k < 3; ++k)
        if (!(sides[k] > 1e-3 && sides[k] < longest)) return false;
    return true;
}

double wholeOf(double side) {
    return std::max(1.0, std::round(side));
}

double worst(const glm::dvec3& sides) {
    double out = 0;
    for (int k = 0; k < 3; ++k)
        out = std::max(out, std::abs(sides[k] - wholeOf(sides[k])) / wholeOf(sides[k]));
    return out;
}

double unevenness(const glm::dvec3& stretch) {
    return std::max({stretch.x, stretch.y, stretch.z}) / std::min({stretch.x, stretch.y, stretch.z});
}

/// Calls `see` with factors from `least` to `most` at which one of the sides is whole, or that share off it.
template <class See>
void forEachFactor(const glm::dvec3& sides, double least, double most, double share, See see) {
    for (int k = 0; k < 3; ++k) {
        const int last = int(sides[k] * most + 1);
        for (int whole = int(wholeOf(sides[k] * least)); whole <= last; ++whole)
            for (const double off : {0.0, -share, share})
                if (const double factor = whole * (1 + off) / sides[k]; factor >= least && factor <= most)
                    see(factor);
    }
}

} // namespace

std::optional<double> factorToWhole(const glm::dvec3& sides, double within) {
    if (!isUsable(sides)) return std::nullopt;
    std::optional<double> best;
    // Not to the very limit, for numbers are rounded on their way.
    forEachFactor(sides, 3.0 / 4, 4.0 / 3, 0.95 * within, [&](double factor) {
        if (worst(sides * factor) <= 0.96 * within &&
            (!best || std::abs(std::log(factor)) < std::abs(std::log(*best))))
            best = factor;
    });
    return best;
}

std::optional<glm::dvec3> stretchToWhole(const glm::dvec3& sides) {
    if (!isUsable(sides)) return std::nullopt;
    std::optional<glm::dvec3> best;
    double least = std::numeric_limits<double>::max();
    const auto see = [&](double factor) {
        const glm::dvec3 sized = sides * factor;
        const glm::dvec3 whole(wholeOf(sized.x), wholeOf(sized.y), wholeOf(sized.z));
        const double change = std::log(unevenness(whole / sized)) + std::abs(std::log(factor));
        if (change < least) least = change, best = whole / sides;
    };
    see(1);
    forEachFactor(sides, 0.5, 2, 0, see);
    return best;
}

bool keepsShape(const glm::dvec3& stretch) {
    return unevenness(stretch) <= 1.125;
}

} // namespace zl::planner
