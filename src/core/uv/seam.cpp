#include "core/uv/seam.h"

#include "core/geometry/topology.h"
#include "core/geometry/weld.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <unordered_map>

namespace zl::uv {

namespace {

/// An edge at the border of a panel, in world space, with its UVs there.
struct BorderEdge {
    glm::dvec3 from, to;
    glm::dvec2 uvFrom, uvTo;
    double length() const { return glm::distance(from, to); }
};

/// Edges that one triangle of a panel has alone, by place; panels go across nodes.
std::vector<BorderEdge> bordersOf(const Model& model, const UvFaces& faces, const MarkedFaces& marked) {
    Mesh soup;
    std::vector<glm::dvec3> places;
    std::vector<glm::dvec2> uvs;
    const auto world = worldMatrices(model);
    for (const UvFace& face : faces.faces) {
        const auto node = std::size_t(face.node);
        if (node >= marked.size() || marked[node].empty() || !marked[node][face.triangle]) continue;
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[node].mesh)];
        for (std::size_t k = 0; k < 3; ++k) {
            const glm::vec3& local = mesh.positions[mesh.indices[3 * std::size_t(face.triangle) + k]];
            places.emplace_back(world[node] * glm::dvec4(local, 1));
            soup.positions.emplace_back(places.back());
            soup.indices.push_back(std::uint32_t(soup.indices.size()));
            uvs.emplace_back(face.at[k]);
        }
    }
    const auto place = geometry::joinedPlaces(soup.positions, 0);
    const auto halves = geometry::sortedHalfEdges(soup, place);
    std::vector<BorderEdge> out;
    for (std::size_t i = 0; i < halves.size();) {
        std::size_t end = i;
        while (end < halves.size() && halves[end].key == halves[i].key) ++end;
        if (end - i == 1)
            for (std::size_t k = 0; k < 3; ++k) {
                const std::size_t a = 3 * std::size_t(halves[i].triangle) + k,
                                  b = 3 * std::size_t(halves[i].triangle) + (k + 1) % 3;
                const std::uint64_t low = std::min(place[a], place[b]), high = std::max(place[a], place[b]);
                if (((low << 32) | high) == halves[i].key)
                    out.push_back({places[a], places[b], uvs[a], uvs[b]});
            }
        i = end;
    }
    return out;
}

/// Border edges in cubes of space, for what is near a place.
class EdgesNear {
public:
    EdgesNear(const std::vector<BorderEdge>& edges, double within) : edges_(edges), within_(within) {
        double length = 0;
        for (const BorderEdge& edge : edges) length += edge.length();
        cube_ = std::max(2 * within, edges.empty() ? 1.0 : 2 * length / double(edges.size()));
        if (!(cube_ > 0) || !std::isfinite(cube_)) cube_ = 1;
        for (std::uint32_t e = 0; e < edges.size(); ++e) {
            const auto steps = long(std::min(std::ceil(2 * edges[e].length() / cube_), 1e6)) + 1;
            std::uint64_t last = 0;
            for (long i = 0; i <= steps; ++i) {
                const auto key =
                    keyOf(cubeOf(glm::mix(edges[e].from, edges[e].to, double(i) / double(steps))));
                if (i == 0 || key != last) cubes_[key].push_back(e);
                last = key;
            }
        }
    }
    /// Calls `met(uv of the nearest place)`, once for each edge that comes within reach.
    template <class Met>
    void near(const glm::dvec3& point, const Met& met) const {
        std::vector<std::uint32_t> seen;
        const glm::i64vec3 cube = cubeOf(point);
        for (int i = 0; i < 27; ++i) {
            const auto found = cubes_.find(keyOf(cube + glm::i64vec3(i % 3 - 1, i / 3 % 3 - 1, i / 9 - 1)));
            if (found == cubes_.end()) continue;
            for (const std::uint32_t e : found->second) {
                if (std::ranges::find(seen, e) != seen.end()) continue;
                seen.push_back(e);
                const BorderEdge& edge = edges_[e];
                const glm::dvec3 along = edge.to - edge.from;
                const double square = glm::dot(along, along);
                const double t =
                    square > 0 ? std::clamp(glm::dot(point - edge.from, along) / square, 0.0, 1.0) : 0;
                if (glm::distance(point, edge.from + t * along) <= within_)
                    met(glm::mix(edge.uvFrom, edge.uvTo, t));
            }
        }
    }

private:
    glm::i64vec3 cubeOf(const glm::dvec3& p) const {
        return glm::i64vec3(glm::clamp(glm::floor(p / cube_), -1e6, 1e6));
    }
    static std::uint64_t keyOf(const glm::i64vec3& c) {
        return (std::uint64_t(c.x + 1048576) << 42) ^ (std::uint64_t(c.y + 1048576) << 21) ^
               std::uint64_t(c.z + 1048576);
    }
    const std::vector<BorderEdge>& edges_;
    double within_, cube_ = 1;
    std::unordered_map<std::uint64_t, std::vector<std::uint32_t>> cubes_;
};

using Plane = std::complex<double>;

/// A UV as it is to the eye: in pixels' proportions, upward positive.
Plane seen(glm::dvec2 uv, double aspect) {
    return {uv.x * aspect, -uv.y};
}

} // namespace

Seam seamBetween(const Model& model, const MarkedFaces& first, const MarkedFaces& second, double within) {
    const UvFaces faces = uvFaces(model);
    const auto a = bordersOf(model, faces, first), b = bordersOf(model, faces, second);
    Seam seam;
    // Ends and middles of each edge against the other panel's edges: an edge that only touches gives an end
    // and no middle, and weighs nothing then.
    const auto add = [&](const std::vector<BorderEdge>& edges, const EdgesNear& others, bool swap) {
        for (const BorderEdge& edge : edges) {
            std::vector<SeamPoint> found;
            bool middle = false;
            for (const double t : {0.0, 0.5, 1.0})
                others.near(glm::mix(edge.from, edge.to, t), [&](glm::dvec2 uv) {
                    const glm::dvec2 own = glm::mix(edge.uvFrom, edge.uvTo, t);
                    found.push_back(swap ? SeamPoint{uv, own} : SeamPoint{own, uv});
                    middle = middle || t == 0.5;
                });
            if (!middle) continue;
            for (SeamPoint& point : found) {
                point.weight = edge.length() / double(found.size());
                seam.points.push_back(point);
            }
            if (swap) seam.length += edge.length();
        }
    };
    add(a, EdgesNear(b, within), false);
    add(b, EdgesNear(a, within), true);
    return seam;
}

std::optional<SeamFit> fitAcross(const Seam& seam, double aspect, bool mirror, bool scale) {
    double weight = 0;
    Plane from{}, to{};
    const auto own = [&](const SeamPoint& p) {
        const Plane z = seen(p.second, aspect);
        return mirror ? std::conj(z) : z;
    };
    for (const SeamPoint& p : seam.points)
        weight += p.weight, from += p.weight * own(p), to += p.weight * seen(p.first, aspect);
    if (!(weight > 0)) return std::nullopt;
    from /= weight, to /= weight;
    Plane cross{};
    double spread = 0, target = 0;
    for (const SeamPoint& p : seam.points) {
        const Plane x = own(p) - from, y = seen(p.first, aspect) - to;
        cross += p.weight * std::conj(x) * y, spread += p.weight * std::norm(x),
            target += p.weight * std::norm(y);
    }
    if (!(spread > 1e-18 * weight) || !(target > 1e-18 * weight) || !(std::abs(cross) > 0))
        return std::nullopt;
    const Plane by = scale ? cross / spread : cross / std::abs(cross);
    SeamFit fit{.mirrored = mirror, .turn = std::arg(by), .scale = std::abs(by)};
    for (const SeamPoint& p : seam.points) {
        const double off = std::abs(by * (own(p) - from) + to - seen(p.first, aspect)) / aspect;
        fit.mean += p.weight * off / weight;
        fit.largest = std::max(fit.largest, off);
    }
    // z = aspect u - i v, or its conjugate; what comes out is taken apart the same way.
    const double sign = mirror ? 1 : -1;
    const Plane u = by * aspect, v = by * Plane(0, sign), rest = to - by * from;
    fit.map = {glm::dvec3(u.real() / aspect, -u.imag(), 0), glm::dvec3(v.real() / aspect, -v.imag(), 0),
               glm::dvec3(rest.real() / aspect, -rest.imag(), 1)};
    return fit;
}

std::optional<SeamLine> lineAlong(const Seam& seam, double aspect) {
    double weight = 0;
    Plane middle{};
    for (const SeamPoint& p : seam.points) weight += p.weight, middle += p.weight * seen(p.second, aspect);
    if (!(weight > 0)) return std::nullopt;
    middle /= weight;
    Plane square{}; // twice the angle of the main axis
    double spread = 0;
    for (const SeamPoint& p : seam.points) {
        const Plane z = seen(p.second, aspect) - middle;
        square += p.weight * z * z, spread += p.weight * std::norm(z);
    }
    if (!(spread > 1e-18 * weight)) return std::nullopt;
    const Plane along = std::polar(1.0, std::arg(square) / 2);
    double least = 1e300, most = -1e300, off = 0;
    for (const SeamPoint& p : seam.points) {
        const Plane z = (seen(p.second, aspect) - middle) * std::conj(along);
        least = std::min(least, z.real()), most = std::max(most, z.real());
        off = std::max(off, std::abs(z.imag()));
    }
    const auto uvOf = [&](double t) {
        const Plane z = middle + t * along;
        return glm::dvec2(z.real() / aspect, -z.imag());
    };
    return SeamLine{uvOf(least), uvOf(most), off / aspect};
}

} // namespace zl::uv
