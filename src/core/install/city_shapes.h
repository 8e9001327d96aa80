#pragma once
#include "core/install/city.h"
#include "core/model/mesh.h"

#include <memory>

namespace zl::install {

/// What stands in a city, to be looked at: in a model's axes (Y up, facing +Z) and metres.
struct CityShapes {
    struct Thing {
        std::size_t shape = 0;
        glm::dmat4 pose{1.0};
        std::size_t place = 0; ///< in City::places
    };
    std::vector<std::shared_ptr<const Mesh>> shapes; ///< bare; each object's once, heavy ones lighter
    std::vector<Thing> things;
};

/// Takes a city's meshes out of its archive, those alone that stand somewhere and are not called `except`.
/// What cannot be read is left out. `toModel` takes the city's axes to a model's. Throws Error when the
/// archive cannot be read, and Cancelled.
CityShapes cityShapes(const City& city, const glm::dmat4& toModel, const std::string& except,
                      const Progress& progress = {});

} // namespace zl::install
