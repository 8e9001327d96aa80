#pragma once
#include "app/view/gl_painter.h"

#include "core/geometry/ray_scene.h"
#include "core/install/city_shapes.h"
#include "core/platform/sheet.h"

#include <memory>

namespace zl::app {

/// A game's world made ready for the map, beside the window's thread: what others have there, sorted into
/// squares of ground so that only what is in sight is drawn, and triangles prepared for what lies below. In a
/// model's axes, metres, moved so that `middle` is the origin.
struct MapWorld {
    install::City city;
    glm::dmat4 toModel{1.0}; ///< from the city's axes
    glm::dvec3 middle{0};    ///< in the model's axes
    struct Square {
        glm::vec3 least{1e30f}, most{-1e30f};
        GlGeometry near; ///< everything
        GlGeometry far;  ///< a box for each thing that is large enough to be seen
    };
    std::vector<Square> squares;
    std::shared_ptr<const geometry::RayScene> rays; ///< of everything; null for an empty world
    std::vector<std::size_t> placeOfTriangle;       ///< in City::places

    /// From the city's metres to the map's, and back.
    glm::dvec3 onMap(const glm::dvec3& at) const { return glm::dvec3(toModel * glm::dvec4(at, 1)) - middle; }
    glm::dvec3 inCity(const glm::dvec3& at) const {
        return glm::dvec3(glm::inverse(toModel) * glm::dvec4(at + middle, 1));
    }
    /// What lies below a place of the map.
    struct Below {
        double height = 0;
        std::string name; ///< empty for the bare ground
    };
    Below below(const glm::dvec3& at) const;
};

/// Reads the city in `folder`; `except` is not shown, for it is our own. The middle is that of `around`
/// (model's axes), or of the first district. Throws Error for what is no city, and Cancelled.
std::shared_ptr<const MapWorld> makeMapWorld(const std::filesystem::path& folder,
                                             const platform::Sheet& sheet, const std::string& except,
                                             const std::optional<glm::dvec3>& around,
                                             const Progress& progress);

} // namespace zl::app
