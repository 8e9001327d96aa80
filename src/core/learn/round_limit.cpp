#include "core/learn/round_limit.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace zl::learn {

namespace {

struct Candidate {
    double value;
    double oddness; ///< 0 for what is round without doubt
};

/// Round numbers from `low` to `high`.
std::vector<Candidate> candidates(double low, double high) {
    std::vector<Candidate> out;
    const auto add = [&](double value, double oddness) {
        if (value >= low * (1 - 1e-12) && value <= high) out.push_back({value, oddness});
    };
    for (int k = -10; k < 40; ++k)
        add(std::ldexp(1.0, k), 0), add(1.5 * std::ldexp(1.0, k), k > 7 ? 1.0 : 2.5);
    add(65535, 0), add(21845, 0.2), add(32767, 0.2), add(255, 0.1), add(254, 1.2);
    for (double ten = std::pow(10, std::floor(std::log10(low)) - 2); ten <= high; ten *= 10)
        for (int digits = 1; digits < 1000; ++digits) {
            if (digits >= 10 && digits < 100 && digits % 10 == 0) continue;
            if (digits >= 100 && digits % 10 == 0) continue;
            const double oddness = digits == 1 || digits == 2 || digits == 5                      ? 0.1
                                   : digits < 10                                                  ? 0.3
                                   : digits == 15 || digits == 25 || digits == 12 || digits == 75 ? 0.7
                                   : digits < 100                                                 ? 1.8
                                                                                                  : 4.0;
            add(std::round(digits * ten * 1e6) / 1e6, oddness);
        }
    return out;
}

} // namespace

RoundLimit roundLimit(double most, std::optional<double> refused) {
    // How much less round a number may be for being nearer by a factor of two.
    const double pull = refused ? 0.5 : 6;
    const double high = refused ? std::nextafter(*refused, 0) : 2.5 * most;
    Candidate best{most, 1e9};
    double bestCost = 1e9;
    for (const Candidate& candidate : candidates(most, high)) {
        const double cost = candidate.oddness + pull * std::log2(candidate.value / most);
        if (cost < bestCost) best = candidate, bestCost = cost;
    }
    return {std::max(best.value, most), most >= 0.85 * best.value};
}

} // namespace zl::learn
