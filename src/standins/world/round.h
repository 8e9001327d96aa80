#pragma once
#include <cmath>

namespace zl::standins::world {

/// Four decimals, without a negative zero: enough for people, and the same in every run.
inline double round4(double v) {
    return std::round(v * 1e4) / 1e4 + 0.0;
}

} // namespace zl::standins::world
