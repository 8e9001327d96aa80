#pragma once
#include <optional>
#include <string>

namespace zl::learn {

/// A limit as people set them: a power of two, the most that 16 bits count to, or a number with few digits.
struct RoundLimit {
    double limit = 0;
    bool isNear = false; ///< something came within 15 % of it
};

/// The roundest number that `most` (of what was accepted) does not pass and that lies close above it. With
/// `refused`, the least that was refused, it lies below that: both numbers bracket it. `most` is above zero;
/// `refused`, where given, is above `most`.
RoundLimit roundLimit(double most, std::optional<double> refused = {});

} // namespace zl::learn
