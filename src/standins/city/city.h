#pragma once
#include "standins/city/object_file.h"
#include "standins/world/files.h"
#include "standins/world/packed_files.h"

#include <glm/gtc/quaternion.hpp>

#include <set>

namespace zl::standins::city {

struct District {
    std::string name;
    glm::dvec2 low{0}, high{0};
};

/// An object as the city loads it.
struct Object {
    std::string name;
    long number = 0;
    double view = 0;
    std::set<std::string> traits;
    MeshFile mesh;
    std::map<std::string, world::Picture> pictures;
    const Body* body = nullptr; ///< of a contact file of the city's; null for none
};

/// Where one stands, in the city's own axes.
struct Place {
    std::size_t object = 0;
    glm::dvec3 at{0};
    glm::dquat turn{1, 0, 0, 0};
    std::string district; ///< by where it is
};

struct CityLoaded {
    std::vector<District> districts;
    std::vector<Object> objects;
    std::vector<Place> places;
    std::map<std::string, ContactFile> contacts;
    std::size_t newest = 0; ///< the object defined last, which is looked at
    std::string credit;
    bool isDelivery = false; ///< one object alone, without a city around it
};

/// A city's folder, or a delivery for it, as the game loads it: what it cannot use is refused or passed over,
/// with the reason that the game would not give.
std::optional<CityLoaded> loadCity(const std::filesystem::path& folder, TryReport& report);

/// The place's pose in the shown world.
glm::mat4 poseOf(const Place& place);

} // namespace zl::standins::city
