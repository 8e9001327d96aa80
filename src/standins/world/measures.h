#pragma once
#include <glm/vec3.hpp>
#include <nlohmann/json_fwd.hpp>

#include <cmath>

namespace zl::standins::world {

/// Four decimals, without a negative zero: enough for people, and the same in every run.
inline double round4(double v) {
    return std::round(v * 1e4) / 1e4 + 0.0;
}

/// What every stand-in that measures says of a shape from `low` to `high`, in its own units: "width" (x),
/// "height" (y), "length" (z), "figures" (its height in figures of `figureUnits`) and "gapToFloor".
nlohmann::ordered_json sizesOf(const glm::vec3& low, const glm::vec3& high, double figureUnits);

} // namespace zl::standins::world
