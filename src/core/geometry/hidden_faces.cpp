#include "core/geometry/hidden_faces.h"

#include "core/geometry/number_table.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <atomic>
#include <span>

namespace zl::geometry {

namespace {

/// Directions spread evenly over the sphere (golden spiral; Vogel 1979).
std::vector<glm::vec3> spread(int count) {
    const double golden = 3.14159265358979323846 * (3 - std::sqrt(5.0));
    std::vector<glm::vec3> out;
    for (int i = 0; i < count; ++i) {
        const double y = 1 - 2 * (i + 0.5) / count, r = std::sqrt(1 - y * y);
        out.emplace_back(r * std::cos(golden * i), y, r * std::sin(golden * i));
    }
    return out;
}

/// Whether something leads out from the triangle.
class Sight {
public:
    Sight(const Mesh& mesh, int rays) : mesh_(mesh), rays_(mesh), directions_(spread(rays)) {
        const Bounds bounds = meshBounds(mesh);
        size_ = static_cast<float>(glm::length(bounds.size()));
    }

    bool leadsOut(std::uint32_t t) const {
        const glm::vec3 a = corner(t, 0), b = corner(t, 1), c = corner(t, 2);
        const glm::vec3 normal = glm::cross(b - a, c - a);
        const float area = glm::length(normal);
        // Off the surface by a little, to the side that a ray goes to.
        const glm::vec3 off = area > 0 ? normal / area * (size_ * 2e-6f) : glm::vec3(0);
        static constexpr float places[][2] = {{1 / 3.f, 1 / 3.f}, {0.06f, 0.06f}, {0.88f, 0.06f},
                                              {0.06f, 0.88f},     {0.47f, 0.47f}, {0.06f, 0.47f},
                                              {0.47f, 0.06f}};
        // What is seen of a small triangle is seen from its middle.
        const float edge = std::max({glm::distance(a, b), glm::distance(b, c), glm::distance(c, a)});
        const std::size_t looked = edge < 0.01f * size_ ? 1 : edge < 0.05f * size_ ? 4 : std::size(places);
        // Each triangle begins elsewhere, so that neighbours do not all look the same way first.
        const std::size_t start = mixed(t) % directions_.size();
        for (const auto& place : std::span(places).first(looked)) {
            const glm::vec3 at = a + (b - a) * place[0] + (c - a) * place[1];
            for (std::size_t i = 0; i < directions_.size(); ++i) {
                const glm::vec3& way = directions_[(start + i) % directions_.size()];
                const glm::vec3 from = at + (glm::dot(way, normal) >= 0 ? off : -off);
                if (!rays_.blocked(from, way, 0, 1e30f)) return true;
            }
        }
        return false;
    }

private:
    glm::vec3 corner(std::uint32_t t, std::uint32_t k) const {
        return mesh_.positions[mesh_.indices[3 * std::size_t(t) + k]];
    }
    const Mesh& mesh_;
    RayScene rays_;
    std::vector<glm::vec3> directions_;
    float size_ = 0;
};

} // namespace

std::vector<std::vector<char>> hiddenFaces(const Model& model, bool wholePartsOnly, int rays,
                                           const Progress& progress) {
    std::vector<int> nodeOfTriangle;
    const Mesh whole = flattened(model, &nodeOfTriangle);
    const std::size_t triangles = whole.triangleCount();
    std::vector<std::vector<char>> marks(model.nodes.size());
    if (triangles == 0) return marks;
    const Sight sight(whole, rays);
    std::vector<std::uint32_t> part;
    std::size_t parts = triangles;
    if (wholePartsOnly) part = pieceOfTriangle(whole, joinedPlaces(whole.positions, 0), &parts);
    const auto groupOf = [&](std::size_t t) { return wholePartsOnly ? part[t] : std::uint32_t(t); };
    // Once one triangle of a part is seen the others need not be looked at; each result is the same whoever
    // finds it first.
    std::vector<std::atomic<char>> seen(parts);
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, triangles, 512), [&](const auto& range) {
        for (std::size_t t = range.begin(); t < range.end(); ++t)
            if (!seen[groupOf(t)].load(std::memory_order_relaxed) && sight.leadsOut(std::uint32_t(t)))
                seen[groupOf(t)].store(1, std::memory_order_relaxed);
        progress.report(double(done += range.size()) / double(triangles), "looking from outside");
    });
    progress.report(1);
    std::vector<std::size_t> next(model.nodes.size(), 0);
    for (std::size_t t = 0; t < triangles; ++t) {
        const auto node = std::size_t(nodeOfTriangle[t]);
        if (marks[node].empty())
            marks[node].assign(model.meshes[std::size_t(model.nodes[node].mesh)]->triangleCount(), 0);
        marks[node][next[node]++] = !seen[groupOf(t)];
    }
    return marks;
}

} // namespace zl::geometry
