#pragma once
#include "core/model/mesh.h"

#include <memory>
#include <optional>
#include <span>

namespace zl::geometry {

struct RayHit {
    float distance = 0;
    std::uint32_t triangle = 0;
    float u = 0, v = 0;  ///< weights of the triangle's second and third corner
    glm::vec3 normal{0}; ///< of the face, unit length
};

/// Triangles prepared for rays and closest points (Embree's bounding volume hierarchy). Holds its own copy
/// of the positions; may be asked from several threads at once.
class RayScene {
public:
    /// `forOnce` prepares in a third of the time for what is asked a few hundred thousand times at most, each
    /// a little slower.
    explicit RayScene(const Mesh& mesh, bool forOnce = false);
    ~RayScene();
    RayScene(RayScene&&) noexcept;
    RayScene& operator=(RayScene&&) noexcept;

    /// The first triangle from `origin` along `direction` (need not be unit; distances are in its lengths).
    std::optional<RayHit> hit(const glm::vec3& origin, const glm::vec3& direction, float least = 0,
                              float most = 1e30f) const;
    /// Whether anything lies between.
    bool blocked(const glm::vec3& origin, const glm::vec3& direction, float least, float most) const;
    /// The same for up to `together` rays at once, each from its very beginning; a bit for each that is
    /// blocked. Faster where they go much the same way.
    struct Ray {
        glm::vec3 origin, direction;
        float most = 1e30f;
    };
    static constexpr std::size_t together = 16;
    std::uint32_t blocked(std::span<const Ray> rays) const;
    /// The triangle nearest to `point` and its distance; infinity when there are no triangles.
    struct Nearest {
        float distance = 0;
        std::uint32_t triangle = 0;
    };
    /// `guess` is a triangle that may be near, as that of a point close by: it bounds the search.
    Nearest nearestTo(const glm::vec3& point, std::uint32_t guess = ~0u) const;
    float distanceTo(const glm::vec3& point) const { return nearestTo(point).distance; }

private:
    struct Tree;
    std::unique_ptr<Tree> tree_;
};

} // namespace zl::geometry
