#include "standins/region/faults.h"

#include "core/base/error.h"
#include "core/base/plain_number.h"

#include <fmt/format.h>

namespace zl::standins::region {

FaultShares faultsFrom(const std::string& words) {
    FaultShares out;
    std::string_view rest = words;
    while (!rest.empty()) {
        const std::string_view one = rest.substr(0, rest.find(','));
        rest.remove_prefix(std::min(rest.size(), one.size() + 1));
        const auto equals = one.find('=');
        const std::string_view name = one.substr(0, equals);
        const auto value = equals == one.npos ? std::nullopt : onlyNumber<double>(one.substr(equals + 1));
        const bool share = name == "busy" || name == "drop" || name == "lose";
        if (!value || *value < 0 || (share && *value > 0.95) || *value > 1e6)
            throw Error(
                fmt::format("\"{}\" is no fault", one), {},
                "busy=, drop= and lose= take shares of 0 to 0.95, slow= milliseconds, seed= a number.");
        if (name == "busy")
            out.busy = *value;
        else if (name == "drop")
            out.drop = *value;
        else if (name == "lose")
            out.lose = *value;
        else if (name == "slow")
            out.slowMillis = int(*value);
        else if (name == "seed")
            out.seed = unsigned(*value);
        else
            throw Error(fmt::format("\"{}\" is no fault", name), {}, "busy, drop, lose, slow and seed are.");
    }
    return out;
}

Faults::Now Faults::next() {
    const std::lock_guard lock(mutex_);
    const double share = std::uniform_real_distribution<double>(0, 1)(random_);
    if (share < shares_.busy) return Now::Busy;
    if (share < shares_.busy + shares_.drop) return Now::Drop;
    if (share < shares_.busy + shares_.drop + shares_.lose) return Now::Lose;
    return Now::None;
}

} // namespace zl::standins::region
