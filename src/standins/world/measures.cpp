#include "standins/world/measures.h"

#include <nlohmann/json.hpp>

namespace zl::standins::world {

nlohmann::ordered_json sizesOf(const glm::vec3& low, const glm::vec3& high, double figureUnits) {
    const glm::vec3 size = high - low;
    return {{"width", round4(size.x)},
            {"height", round4(size.y)},
            {"length", round4(size.z)},
            {"figures", round4(size.y / figureUnits)},
            {"gapToFloor", round4(low.y)}};
}

} // namespace zl::standins::world
