#pragma once
#include "standins/table/figure.h"

#include <memory>

namespace zl::standins::table {

enum class ColliderKind { Own, DefaultBox };

/// Where a body is: turn and place of the figure's origin, in table units.
struct Pose {
    glm::mat4 matrix{1.0f};
};

/// Figures on a table under gravity (Bullet). Lengths are table units, times seconds.
class World {
public:
    explicit World(const Figure& figure);
    ~World();

    /// Puts a figure with its origin at `place`, tipped by `tilt` radians towards `heading`; returns its
    /// number.
    int add(const glm::vec3& place, ColliderKind collider = ColliderKind::Own, float tilt = 0,
            float heading = 0);
    void clear();
    std::size_t count() const;
    Pose pose(int body) const;
    ColliderKind colliderOf(int body) const;
    void push(int body, const glm::vec3& velocity);

    /// Advances by `seconds` in steps of 1/240 s.
    void advance(double seconds);
    /// Whether everything has come to rest.
    bool atRest() const;

    /// Takes the figure that the ray meets first; false when there is none. While held it follows carry().
    bool grab(const glm::vec3& from, const glm::vec3& direction);
    void carry(const glm::vec3& from, const glm::vec3& direction);
    void release();
    bool holding() const;

    /// Whether two figures with these colliders, standing at this distance along x, touch.
    bool touches(double distance, ColliderKind collider) const;

    /// Corners and triangles of a collider as it is used, for drawing.
    const Shape& colliderShape(ColliderKind kind) const;

private:
    struct Parts;
    std::unique_ptr<Parts> parts_;
};

} // namespace zl::standins::table
