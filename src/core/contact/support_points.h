#pragma once
#include <glm/glm.hpp>

#include <array>
#include <span>

namespace zl::contact {

/// The farthest of points seen in 42 directions that are spread evenly over all (corners, and middles of
/// edges, of an icosahedron): a few points whose hull is nearly that of all, and never larger.
class SupportPoints {
public:
    static constexpr std::size_t directions = 42;

    SupportPoints();
    void add(const glm::vec3& p);
    /// As if all that the other saw had been added here.
    void add(const SupportPoints& other);
    /// One a direction, some of them the same; empty where nothing was added.
    std::span<const glm::vec3> points() const { return {at_.data(), any_ ? directions : 0}; }

private:
    std::array<float, directions> far_;
    std::array<glm::vec3, directions> at_;
    bool any_ = false;
};

} // namespace zl::contact
