#include "core/contact/rough_hull.h"

#include <algorithm>
#include <array>
#include <bitset>
#include <vector>

namespace zl::contact {

namespace {

struct Face {
    std::array<std::size_t, 3> corner;
    glm::dvec3 normal; ///< as long as twice the face's area
    double at;
};

class RoughHull {
public:
    explicit RoughHull(std::span<const glm::vec3> points)
        : points_(points.begin(), points.begin() + std::ptrdiff_t(std::min(points.size(), mostRoughPoints))) {
    }

    double volume() {
        if (!start()) return 0;
        for (std::size_t p = 0; p < points_.size(); ++p) add(p);
        double six = 0;
        for (const Face& face : faces_)
            six += glm::dot(points_[face.corner[0]] - points_[first_], face.normal);
        return six / 6;
    }

private:
    /// Four points that span a body, facing outward.
    bool start() {
        const auto farthest = [&](const auto& distance) {
            std::size_t best = 0;
            for (std::size_t i = 1; i < points_.size(); ++i)
                if (distance(points_[i]) > distance(points_[best])) best = i;
            return best;
        };
        if (points_.size() < 4) return false;
        const glm::dvec3 a = points_[first_];
        std::size_t corner[4] = {first_};
        corner[1] = farthest([&](const glm::dvec3& p) { return glm::distance(p, a); });
        const glm::dvec3 along = points_[corner[1]] - a;
        corner[2] = farthest([&](const glm::dvec3& p) { return glm::length(glm::cross(along, p - a)); });
        const glm::dvec3 normal = glm::cross(along, points_[corner[2]] - a);
        corner[3] = farthest([&](const glm::dvec3& p) { return std::abs(glm::dot(normal, p - a)); });
        const double six = glm::dot(normal, points_[corner[3]] - a), size = glm::length(along);
        if (!(std::abs(six) > 1e-12 * size * size * size)) return false;
        if (six > 0) std::swap(corner[1], corner[2]);
        near_ = 1e-10 * size;
        put(corner[0], corner[1], corner[2]), put(corner[0], corner[2], corner[3]);
        put(corner[0], corner[3], corner[1]), put(corner[1], corner[3], corner[2]);
        return true;
    }

    void put(std::size_t a, std::size_t b, std::size_t c) {
        const glm::dvec3 normal = glm::cross(points_[b] - points_[a], points_[c] - points_[a]);
        faces_.push_back({{a, b, c}, normal, glm::dot(normal, points_[a])});
    }

    /// Takes out the faces that see the point, and closes the hole with faces to it.
    void add(std::size_t p) {
        for (auto& row : edges_) row.reset();
        bool sees = false;
        const auto seen = std::partition(faces_.begin(), faces_.end(), [&](const Face& face) {
            return glm::dot(face.normal, points_[p]) - face.at <= near_ * glm::length(face.normal);
        });
        for (auto face = seen; face != faces_.end(); ++face, sees = true)
            for (std::size_t k = 0; k < 3; ++k) edges_[face->corner[k]].set(face->corner[(k + 1) % 3]);
        if (!sees) return;
        faces_.erase(seen, faces_.end());
        for (std::size_t a = 0; a < points_.size(); ++a)
            for (std::size_t b = 0; edges_[a].any() && b < points_.size(); ++b)
                if (edges_[a][b] && !edges_[b][a]) put(a, b, p);
    }

    static constexpr std::size_t first_ = 0;
    std::vector<glm::dvec3> points_;
    std::vector<Face> faces_;
    std::array<std::bitset<mostRoughPoints>, mostRoughPoints> edges_;
    double near_ = 0;
};

} // namespace

double roughHullVolume(std::span<const glm::vec3> points) {
    return RoughHull(points).volume();
}

} // namespace zl::contact
