#pragma once
#include "standins/city/city.h"

namespace zl::standins::city {

/// What an object stands on.
struct Support {
    std::string name;           ///< "the ground" where nothing is below
    std::string kind;           ///< of the face there; empty where its body does not say
    double height = 0, gap = 0; ///< metres above the ground, and between it and the object's base
};
Support supportOf(const CityLoaded& city, const Place& place);

/// What a step at a place of the shown world meets: height and kind.
struct Step {
    double height = 0;
    std::string kind = "paving"; ///< the ground's, where nothing else is met
    std::string object;
};
/// Looked for downward from `from`; only places within `reach` metres are asked.
Step stepAt(const CityLoaded& city, const glm::vec3& from, double reach = 60);

} // namespace zl::standins::city
