#include "core/uv/on_surface.h"

#include "core/uv/raster.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace zl::uv {

namespace {

/// Weights of the point of a triangle that is nearest to `p`, in a space of any dimension: within where the
/// foot lies within, else on the nearest edge.
template <class Point>
glm::dvec3 nearestWeights(const std::array<Point, 3>& c, const Point& p) {
    const Point b = c[1] - c[0], d = c[2] - c[0], q = p - c[0];
    const double bb = glm::dot(b, b), bd = glm::dot(b, d), dd = glm::dot(d, d), rest = bb * dd - bd * bd;
    if (rest > 0) {
        const double v = (dd * glm::dot(q, b) - bd * glm::dot(q, d)) / rest,
                     w = (bb * glm::dot(q, d) - bd * glm::dot(q, b)) / rest;
        if (v >= 0 && w >= 0 && v + w <= 1) return {1 - v - w, v, w};
    }
    glm::dvec3 best(1, 0, 0);
    double least = 1e300;
    for (int k = 0; k < 3; ++k) {
        const Point from = c[std::size_t(k)], along = c[std::size_t((k + 1) % 3)] - from;
        const double square = glm::dot(along, along);
        const double t = square > 0 ? std::clamp(glm::dot(p - from, along) / square, 0.0, 1.0) : 0;
        const Point off = from + t * along - p;
        if (const double away = glm::dot(off, off); away < least) {
            least = away, best = glm::dvec3(0);
            best[k] = 1 - t, best[(k + 1) % 3] = t;
        }
    }
    return best;
}

template <class Point>
Point mixed(const std::array<Point, 3>& c, const glm::dvec3& w) {
    return w.x * c[0] + w.y * c[1] + w.z * c[2];
}

} // namespace

MarkedSurface::MarkedSurface(const Model& model, const MarkedFaces& marked) {
    const auto world = worldMatrices(model);
    glm::dvec2 least(1e300), most(-1e300);
    const UvFaces all = uvFaces(model);
    for (const UvFace& face : all.faces) {
        const auto node = std::size_t(face.node);
        if (node >= marked.size() || marked[node].empty() || !marked[node][face.triangle]) continue;
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[node].mesh)];
        Face one{.material = face.material};
        for (std::size_t k = 0; k < 3; ++k) {
            one.places[k] =
                glm::dvec3(world[node] *
                           glm::dvec4(mesh.positions[mesh.indices[3 * std::size_t(face.triangle) + k]], 1));
            one.uvs[k] = glm::dvec2(face.at[k]);
            least = glm::min(least, one.uvs[k]), most = glm::max(most, one.uvs[k]);
        }
        if (!(face.area > 0) || doubleUvArea(face) == 0) continue;
        one.normal = glm::normalize(glm::cross(one.places[1] - one.places[0], one.places[2] - one.places[0]));
        faces_.push_back(one);
    }
    if (least.x <= most.x) middle_ = (least + most) * 0.5;
}

OnSurface MarkedSurface::on(const Face& face, const glm::dvec3& weights) {
    OnSurface out{
        .place = mixed(face.places, weights), .uv = mixed(face.uvs, weights), .material = face.material};
    const glm::dvec2 b = face.uvs[1] - face.uvs[0], c = face.uvs[2] - face.uvs[0];
    const glm::dvec3 p = face.places[1] - face.places[0], q = face.places[2] - face.places[0];
    const double area = b.x * c.y - b.y * c.x;
    out.right = (p * c.y - q * b.y) / area, out.down = (q * b.x - p * c.x) / area;
    out.normal = face.normal;
    return out;
}

template <class Point>
std::optional<OnSurface> MarkedSurface::nearest(std::array<Point, 3> Face::*corners, const Point& point,
                                                const glm::dvec3& towards) const {
    constexpr double seen = 0.2; ///< cosine from which a face is seen well enough
    const Face* best = nullptr;
    std::tuple<bool, double, double> least;
    for (const Face& face : faces_) {
        const Point off = mixed(face.*corners, nearestWeights(face.*corners, point)) - point;
        const double facing = glm::dot(face.normal, towards);
        const std::tuple now{towards != glm::dvec3(0) && facing < seen, glm::dot(off, off), -facing};
        if (!best || now < least) least = now, best = &face;
    }
    if (!best) return std::nullopt;
    return on(*best, nearestWeights(best->*corners, point));
}

std::optional<OnSurface> MarkedSurface::at(glm::dvec2 uv, const glm::dvec3& towards) const {
    return nearest(&Face::uvs, uv, towards);
}

std::optional<OnSurface> MarkedSurface::at(const glm::dvec3& place) const {
    return nearest(&Face::places, place);
}

} // namespace zl::uv
