#pragma once
#include "standins/world/shape.h"

#include <memory>

namespace zl::standins::world {

/// Where a body is: turn and place of its origin, in the platform's units.
struct Pose {
    glm::mat4 matrix{1.0f};
};

/// Bodies with convex hulls on a floor under gravity (Bullet). Lengths are the platform's units, times
/// seconds.
class Physics {
public:
    /// `figureHeight` sets what is large and small there: contacts are tuned for things about as large.
    explicit Physics(double figureHeight);
    ~Physics();

    /// Makes a shape bodies can have; returns its number. Its centre of mass is where `centre` says.
    int addShape(const Shape& shape, const glm::vec3& centre);
    const Shape& shape(int number) const;

    /// Puts a body with its origin at `place`, turned by `turn` radians about the vertical, and tipped by
    /// `tilt` radians towards `heading`; returns its number.
    int add(int shape, const glm::vec3& place, float tilt = 0, float heading = 0);
    void clear(); ///< what stands for good stays
    std::size_t count() const;
    Pose pose(int body) const;
    int shapeOf(int body) const;
    /// Puts something there that nothing moves: a convex piece, the hull of its corners, or a surface with
    /// its hollows. `pose` turns and places it. What has no corners is left out.
    void addFixed(const Shape& shape, const glm::mat4& pose, bool hollow = false);
    /// All of these, for their outlines.
    std::size_t fixedCount() const;
    const Shape& fixedShape(std::size_t number) const;
    glm::mat4 fixedPose(std::size_t number) const;
    /// How fast what falls gets faster, in the platform's units a second, a second.
    float gravity() const;
    /// Sets a body going, without a turn.
    void launch(int body, const glm::vec3& velocity);
    /// A push at the top, so that it tips.
    void push(int body, const glm::vec3& velocity);

    /// Carries things no further than `half` from the middle along x and z; with `rim`, nothing gets further
    /// by itself either.
    void keepWithin(const glm::vec2& half, bool rim);

    /// Advances by `seconds` in steps of 1/240 s.
    void advance(double seconds);
    /// Whether everything has come to rest.
    bool atRest() const;

    /// Takes the body that the ray meets first; false when there is none. While held it follows carry().
    bool grab(const glm::vec3& from, const glm::vec3& direction);
    void carry(const glm::vec3& from, const glm::vec3& direction);
    void release();
    bool holding() const;

    /// Whether two bodies of this shape, standing at this distance along x, touch.
    bool touches(double distance, int shape) const;

private:
    struct Simulation;
    std::unique_ptr<Simulation> simulation_;
};

} // namespace zl::standins::world
