#pragma once
#include "core/uv/moved_uvs.h"
#include "core/uv/uv_faces.h"

#include <optional>

namespace zl::uv {

/// A place on a surface, and how the picture lies there.
struct OnSurface {
    glm::dvec3 place{0};          ///< world
    glm::dvec2 uv{0};             ///< placed
    glm::dvec3 right{0}, down{0}; ///< metres that a picture's width, and its height, take there
    glm::dvec3 normal{0, 0, 1};   ///< of the face, unit length
    int material = -1;
};

/// Marked triangles of a model, to be asked for places. Looks at each of them every time.
class MarkedSurface {
public:
    MarkedSurface(const Model& model, const MarkedFaces& marked);

    bool empty() const { return faces_.empty(); }
    /// The middle of what is covered of the picture; UV.
    glm::dvec2 middle() const { return middle_; }
    /// The place whose UV is nearest; triangles without an area, on the surface or the picture, are passed
    /// over. With `towards`, a direction in the world, those that face that way go before others, and of
    /// several as near the one that faces it most.
    std::optional<OnSurface> at(glm::dvec2 uv, const glm::dvec3& towards = glm::dvec3(0)) const;
    /// The place nearest in space.
    std::optional<OnSurface> at(const glm::dvec3& place) const;

private:
    struct Face {
        std::array<glm::dvec3, 3> places;
        std::array<glm::dvec2, 3> uvs;
        glm::dvec3 normal;
        int material;
    };
    static OnSurface on(const Face& face, const glm::dvec3& weights);
    template <class Point>
    std::optional<OnSurface> nearest(std::array<Point, 3> Face::*corners, const Point& point,
                                     const glm::dvec3& towards = glm::dvec3(0)) const;
    std::vector<Face> faces_;
    glm::dvec2 middle_{0};
};

} // namespace zl::uv
