#include "core/contact/support_points.h"

#include <cmath>
#include <limits>
#include <vector>

namespace zl::contact {

namespace {

/// Axis by axis, so that a compiler takes several directions at once.
struct Directions {
    std::array<float, SupportPoints::directions> x, y, z;
};

const Directions& spread() {
    static const Directions all = [] {
        const float g = (1 + std::sqrt(5.0f)) / 2;
        std::vector<glm::vec3> corners;
        for (const float a : {-1.0f, 1.0f})
            for (const float b : {-g, g}) corners.insert(corners.end(), {{0, a, b}, {a, b, 0}, {b, 0, a}});
        auto found = corners;
        for (std::size_t i = 0; i < corners.size(); ++i)
            for (std::size_t k = i + 1; k < corners.size(); ++k)
                if (glm::distance(corners[i], corners[k]) < 2.01f) found.push_back(corners[i] + corners[k]);
        Directions out;
        for (std::size_t k = 0; k < SupportPoints::directions; ++k) {
            const glm::vec3 d = glm::normalize(found[k]);
            out.x[k] = d.x, out.y[k] = d.y, out.z[k] = d.z;
        }
        return out;
    }();
    return all;
}

} // namespace

SupportPoints::SupportPoints() {
    far_.fill(-std::numeric_limits<float>::max());
    at_.fill(glm::vec3(0));
}

void SupportPoints::add(const glm::vec3& p) {
    const Directions& d = spread();
    std::array<float, directions> far;
    for (std::size_t k = 0; k < directions; ++k) far[k] = d.x[k] * p.x + d.y[k] * p.y + d.z[k] * p.z;
    for (std::size_t k = 0; k < directions; ++k)
        if (far[k] > far_[k]) far_[k] = far[k], at_[k] = p, any_ = true;
}

void SupportPoints::add(const SupportPoints& other) {
    for (std::size_t k = 0; k < directions; ++k)
        if (other.far_[k] > far_[k]) far_[k] = other.far_[k], at_[k] = other.at_[k];
    any_ |= other.any_;
}

} // namespace zl::contact
