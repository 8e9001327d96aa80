#pragma once
#include <glm/glm.hpp>
#include <glm/gtc/quaternion.hpp>

#include <string>
#include <vector>

namespace zl {

/// Where a game's world has a thing: in metres, right-handed, Y up, as models are.
struct MapPlace {
    glm::dvec3 at{0};
    glm::dquat turn{1, 0, 0, 0};
    std::string district; ///< empty: the one that the position is in
};

/// What a game's tables say of a thing.
struct OnMap {
    int number = 0;          ///< 0: none yet
    double viewDistance = 0; ///< metres; 0: the platform's usual
    std::vector<std::string> traits;
    std::vector<MapPlace> places;
};

} // namespace zl
