#include "core/contact/notches.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace zl::contact {

namespace {

constexpr double leastFold = 0.02; ///< sine of the angle that a fold has at least
constexpr double nearPlane = 1e-4; ///< of a plane

struct Fold {
    glm::dvec3 from, to;
    double length() const { return glm::distance(from, to); }
};

bool lies(const Fold& fold, const NotchPlane& plane) {
    return std::abs(glm::dot(plane.normal, fold.from) - plane.at) < nearPlane &&
           std::abs(glm::dot(plane.normal, fold.to) - plane.at) < nearPlane;
}

bool same(const NotchPlane& a, const NotchPlane& b) {
    const double along = glm::dot(a.normal, b.normal);
    return std::abs(along) > 1 - 1e-7 && std::abs(a.at - std::copysign(b.at, along * b.at)) < nearPlane;
}

void addNew(std::vector<NotchPlane>& to, const NotchPlane& plane) {
    if (std::ranges::none_of(to, [&](const NotchPlane& other) { return same(other, plane); }))
        to.push_back(plane);
}

} // namespace

Notches notchesOf(std::span<const glm::vec3> points, std::span<const std::uint32_t> indices) {
    struct Side {
        glm::dvec3 normal{0};
        std::uint32_t tip = 0;
    };
    std::map<std::pair<std::uint32_t, std::uint32_t>, std::vector<Side>> sides;
    std::vector<NotchPlane> ofFaces;
    for (std::size_t i = 0; i + 2 < indices.size(); i += 3) {
        const glm::dvec3 a = points[indices[i]], b = points[indices[i + 1]], c = points[indices[i + 2]];
        const glm::dvec3 across = glm::cross(b - a, c - a);
        const double size = glm::length(across);
        if (!(size > 1e-12)) continue;
        if (ofFaces.size() <= mostFacePlanes) addNew(ofFaces, {across / size, glm::dot(across / size, a), 0});
        for (std::size_t k = 0; k < 3; ++k)
            sides[std::minmax(indices[i + k], indices[i + (k + 1) % 3])].push_back(
                {across / size, indices[i + (k + 2) % 3]});
    }
    std::vector<Fold> folds;
    Notches found;
    auto& out = found.planes;
    for (const auto& [edge, of] : sides) {
        if (of.size() != 2) continue;
        const Fold fold{points[edge.first], points[edge.second]};
        // The other face rises in front of this one.
        const glm::dvec3 beyond = glm::dvec3(points[of[1].tip]) - fold.from;
        if (glm::dot(of[0].normal, beyond) < leastFold * glm::length(beyond)) continue;
        folds.push_back(fold);
        if (folds.size() > mostNotches) return {folds.size(), {}};
        for (const Side& side : of) addNew(out, {side.normal, glm::dot(side.normal, fold.from), 0});
    }
    for (NotchPlane& plane : out)
        for (const Fold& fold : folds)
            if (lies(fold, plane)) plane.folded += fold.length();
    std::stable_sort(out.begin(), out.end(),
                     [](const NotchPlane& a, const NotchPlane& b) { return a.folded > b.folded; });
    found.folds = folds.size();
    if (folds.empty() && ofFaces.size() <= mostFacePlanes) out = std::move(ofFaces);
    return found;
}

} // namespace zl::contact
