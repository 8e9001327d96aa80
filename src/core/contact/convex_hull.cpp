#include "core/contact/convex_hull.h"

#include <libqhull_r/qhull_ra.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <map>

namespace zl::contact {

namespace {

using Faces = std::vector<std::array<std::uint32_t, 3>>;

/// One run of qhull, with all that it takes given back. What it has to say of odd points goes nowhere: they
/// are answered by no faces.
class Quickhull {
public:
    Quickhull() : silence_(std::fopen("/dev/null", "w")) {
        qh_zero(&state_, silence_);
        QHULL_LIB_CHECK
    }
    ~Quickhull() {
        qh_freeqhull(&state_, !qh_ALL);
        int kept = 0, bytes = 0;
        qh_memfreeshort(&state_, &kept, &bytes);
        if (silence_) std::fclose(silence_);
    }
    Quickhull(const Quickhull&) = delete;
    Quickhull& operator=(const Quickhull&) = delete;

    Faces facesAround(std::vector<double>& coordinates) {
        char options[] = "qhull Qt Pp"; // triangles only, and no words about thin ones
        const int failed = qh_new_qhull(&state_, 3, int(coordinates.size() / 3), coordinates.data(), False,
                                        options, silence_, silence_);
        Faces out;
        if (failed) return out;
        qhT* qh = &state_; // the loops over faces and corners mean it by this name
        facetT* facet = nullptr;
        vertexT *vertex = nullptr, **vertexp = nullptr;
        FORALLfacets {
            std::array<std::uint32_t, 3> face{};
            std::size_t k = 0;
            FOREACHvertex_(facet->vertices) if (k < 3) face[k++] =
                std::uint32_t(qh_pointid(qh, vertex->point));
            if (k < 3) continue;
            if (facet->toporient ^ qh_ORIENTclock) std::swap(face[1], face[2]);
            out.push_back(face);
        }
        return out;
    }

private:
    qhT state_;
    std::FILE* silence_;
};

Faces hullFaces(const std::vector<glm::vec3>& points) {
    if (points.size() < 4) return {};
    std::vector<double> coordinates;
    coordinates.reserve(3 * points.size());
    for (const glm::vec3& p : points) coordinates.insert(coordinates.end(), {p.x, p.y, p.z});
    return Quickhull().facesAround(coordinates);
}

/// The corners that faces use, and the faces in their numbers.
Mesh meshOf(const std::vector<glm::vec3>& points, const Faces& faces) {
    Mesh out;
    std::map<std::uint32_t, std::uint32_t> number;
    for (const auto& face : faces)
        for (const std::uint32_t corner : face) {
            const auto [found, isNew] = number.try_emplace(corner, std::uint32_t(out.positions.size()));
            if (isNew) out.positions.push_back(points[corner]);
            out.indices.push_back(found->second);
        }
    out.runs = {{0, std::uint32_t(out.triangleCount()), -1}};
    return out;
}

std::vector<glm::vec3> eachOnce(std::span<const glm::vec3> points) {
    std::vector<glm::vec3> out;
    for (const glm::vec3& p : points)
        if (std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(p.z)) out.push_back(p + 0.0f);
    const auto before = [](const glm::vec3& a, const glm::vec3& b) {
        return a.x != b.x ? a.x < b.x : a.y != b.y ? a.y < b.y : a.z < b.z;
    };
    std::sort(out.begin(), out.end(), before);
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

/// Four corners that span much: the ends of the longest side, the farthest from their line, and from the
/// plane of the three.
std::vector<glm::vec3> firstFour(const std::vector<glm::vec3>& corners) {
    const auto farthest = [&](const auto& distance) {
        return *std::ranges::max_element(
            corners, [&](const auto& a, const auto& b) { return distance(a) < distance(b); });
    };
    glm::vec3 least = corners[0], most = corners[0];
    for (const glm::vec3& p : corners) least = glm::min(least, p), most = glm::max(most, p);
    const glm::vec3 size = most - least;
    const int axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    const glm::dvec3 a = farthest([&](const glm::vec3&p) { return -p[axis]; }),
                     b = farthest([&](const glm::vec3&p) { return p[axis]; });
    const glm::dvec3 c =
        farthest([&](const glm::vec3& p) { return glm::length(glm::cross(b - a, glm::dvec3(p) - a)); });
    const glm::dvec3 normal = glm::cross(b - a, c - a);
    const glm::dvec3 d =
        farthest([&](const glm::vec3& p) { return std::abs(glm::dot(normal, glm::dvec3(p) - a)); });
    return {glm::vec3(a), glm::vec3(b), glm::vec3(c), glm::vec3(d)};
}

} // namespace

double outsideOf(const Mesh& hull, const glm::dvec3& point) {
    double most = -1e300;
    for (std::size_t t = 0; t < hull.triangleCount(); ++t) {
        const glm::dvec3 a = hull.positions[hull.indices[3 * t]], b = hull.positions[hull.indices[3 * t + 1]],
                         c = hull.positions[hull.indices[3 * t + 2]];
        const glm::dvec3 normal = glm::cross(b - a, c - a);
        const double length = glm::length(normal);
        if (length > 0) most = std::max(most, glm::dot(normal, point - a) / length);
    }
    return most;
}

std::optional<Mesh> convexHull(std::span<const glm::vec3> points, std::size_t mostCorners) {
    const auto all = eachOnce(points);
    Mesh whole = meshOf(all, hullFaces(all));
    if (whole.triangleCount() < 4) return std::nullopt;
    if (mostCorners < 4 || whole.vertexCount() <= mostCorners) return whole;
    std::vector<glm::vec3> taken = firstFour(whole.positions);
    Mesh hull = meshOf(taken, hullFaces(taken));
    while (hull.triangleCount() >= 4 && taken.size() < mostCorners) {
        double farthest = 0;
        const glm::vec3* next = nullptr;
        for (const glm::vec3& p : whole.positions)
            if (const double by = outsideOf(hull, p); by > farthest) farthest = by, next = &p;
        if (!next) break;
        taken.push_back(*next);
        hull = meshOf(taken, hullFaces(taken));
    }
    if (hull.triangleCount() < 4) return std::nullopt;
    return hull;
}

} // namespace zl::contact
