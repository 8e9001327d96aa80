#pragma once
#include "core/solids/scene.h"

#include <optional>

namespace zl::solids {

/// A light of a scene, ready to be asked how much of it falls on a place. Linear light, metres.
class Lamplight {
public:
    explicit Lamplight(const Light& light);

    /// Light per channel on a small surface at `at` that looks to `normal` (unit), with nothing between
    /// (E = S cos θ / d² for a lamp whose ball is wholly above the surface; Lambert's formula for the sides
    /// of a polygon, Photometria 1760, for an area; a sun's is S cos θ).
    glm::vec3 on(const glm::dvec3& at, const glm::dvec3& normal) const;

    /// Rays from one place to points all over the light.
    class Aim {
    public:
        struct Ray {
            glm::vec3 towards{0}; ///< unit
            float length = 0;     ///< to the light; a great one for a sun
            float weight = 0;     ///< of its point among others; 0 where that does not shine there
        };
        /// The points of the first rays are spread evenly, however many they are.
        Ray ray(int number) const;

    private:
        friend class Lamplight;
        LightKind kind_;
        glm::vec3 normal_, middle_, across_, along_; ///< middle_ as seen from the place
        glm::vec3 out_;
        glm::vec2 start_;
        float radius_ = 0;
    };
    /// `start` are two shares of 0 to 1 by which the points are moved around.
    Aim aim(const glm::vec3& at, const glm::vec3& normal, const glm::vec2& start) const;

    /// The box around it; of a sun, around where it stands as seen from a box of the scene.
    struct Box {
        glm::dvec3 least, most;
    };
    Box boxFrom(const Box& seen, double sceneSize) const;

    /// Whether it has no size, so that one ray tells all.
    bool isPoint() const { return point_; }

private:
    glm::vec3 areaOn(const glm::dvec3& at, const glm::dvec3& normal) const;

    LightKind kind_;
    bool point_ = false;
    glm::vec3 strength_{0};
    glm::dvec3 at_{0};
    glm::dvec3 out_{0}, across_{0}, along_{0}; ///< the way it shines; half sides of an area
    double radius_ = 0;                        ///< of a ball; of a sun, the tangent of half its width
};

} // namespace zl::solids
