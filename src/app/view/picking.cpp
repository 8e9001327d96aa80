#include "app/view/picking.h"

#include "core/geometry/seen.h"

namespace zl::app {

std::optional<Pick> pickAt(const Scene& scene, const Camera& camera, QSize view, QPointF pixel) {
    if (!scene.rays) return std::nullopt;
    const glm::dvec3 direction = camera.ray(pixel.x(), pixel.y(), view.width(), view.height());
    const auto hit = scene.rays->hit(glm::vec3(camera.eye()), glm::vec3(direction));
    if (!hit) return std::nullopt;
    return Pick{camera.eye() + direction * double(hit->distance), scene.nodeOfTriangle[hit->triangle],
                hit->triangle};
}

glm::dvec3 snappedToCorner(const Scene& scene, const Camera& camera, QSize view, QPointF pixel,
                           const Pick& pick, double reach) {
    glm::dvec3 best = pick.at;
    for (int k = 0; k < 3; ++k) {
        const glm::dvec3 corner(scene.mesh.positions[scene.mesh.indices[3 * pick.triangle + k]]);
        const glm::dvec3 seen = camera.project(corner, view.width(), view.height());
        const double away = std::hypot(seen.x - pixel.x(), seen.y - pixel.y());
        if (away < reach) best = corner, reach = away;
    }
    return best;
}

std::set<int> nodesWithin(const Scene& scene, const Camera& camera, QSize view, const QRectF& area) {
    const glm::dmat4 toClip = camera.projection() * camera.view();
    std::set<int> within, beyond;
    for (std::size_t i = 0; i < scene.mesh.indices.size(); ++i) {
        const int node = scene.nodeOfTriangle[i / 3];
        if (beyond.contains(node)) continue;
        const glm::dvec4 clip = toClip * glm::dvec4(scene.mesh.positions[scene.mesh.indices[i]], 1);
        const QPointF seen((clip.x / clip.w * 0.5 + 0.5) * view.width(),
                           (0.5 - clip.y / clip.w * 0.5) * view.height());
        if (clip.w > 0 && area.contains(seen))
            within.insert(node);
        else
            beyond.insert(node);
    }
    for (const int node : beyond) within.erase(node);
    return within;
}

selection::Chosen facesWithin(const Scene& scene, const Camera& camera, QSize view, const QPolygonF& outline,
                              bool through) {
    selection::Chosen chosen{std::vector<std::vector<char>>(scene.model.nodes.size())};
    const glm::dmat4 toClip = camera.projection() * camera.view();
    const QRectF around = outline.boundingRect();
    std::vector<std::uint32_t> within;
    for (std::uint32_t t = 0; t < scene.triangles; ++t) {
        glm::dvec3 middle(0);
        for (std::size_t k = 0; k < 3; ++k)
            middle += glm::dvec3(scene.mesh.positions[scene.mesh.indices[3 * std::size_t(t) + k]]) / 3.0;
        const glm::dvec4 clip = toClip * glm::dvec4(middle, 1);
        if (!(clip.w > 0)) continue;
        const QPointF at((clip.x / clip.w * 0.5 + 0.5) * view.width(),
                         (0.5 - clip.y / clip.w * 0.5) * view.height());
        if (around.contains(at) && outline.containsPoint(at, Qt::OddEvenFill)) within.push_back(t);
    }
    if (!through && !scene.rays) return chosen;
    const auto seen = through ? std::vector<char>(within.size(), 1)
                              : geometry::seenFrom(*scene.rays, scene.mesh, camera.eye(), within);
    for (std::size_t i = 0; i < within.size(); ++i) {
        if (!seen[i]) continue;
        const auto node = std::size_t(scene.nodeOfTriangle[within[i]]);
        auto& marks = chosen.faces[node];
        if (marks.empty())
            marks.assign(scene.model.meshes[std::size_t(scene.model.nodes[node].mesh)]->triangleCount(), 0);
        marks[scene.triangleWithinNode(within[i])] = 1;
    }
    return chosen;
}

std::vector<glm::vec3> cornersOf(const Scene& scene, const LitFaces& lit) {
    std::vector<glm::vec3> corners;
    const auto add = [&](std::size_t triangle) {
        for (int k = 0; k < 3; ++k)
            corners.push_back(scene.mesh.positions[scene.mesh.indices[3 * triangle + k]]);
    };
    for (std::size_t t = 0; t < scene.triangles; ++t)
        if (lit.nodes.contains(scene.nodeOfTriangle[t]) ||
            lit.materials.contains(scene.materialOfTriangle[t]))
            add(t);
    for (const auto& face : lit.faces) {
        if (face.node < 0 || std::size_t(face.node) >= scene.firstOfNode.size()) continue;
        const std::size_t t = scene.firstOfNode[std::size_t(face.node)] + face.triangle;
        if (t < scene.triangles && scene.nodeOfTriangle[t] == face.node) add(t);
    }
    return corners;
}

std::vector<glm::vec3> cornersOf(const Scene& scene, const selection::Chosen& chosen) {
    std::vector<glm::vec3> corners;
    for (std::size_t t = 0; t < scene.triangles; ++t)
        if (chosen.has(std::size_t(scene.nodeOfTriangle[t]), scene.triangleWithinNode(t)))
            for (std::size_t k = 0; k < 3; ++k)
                corners.push_back(scene.mesh.positions[scene.mesh.indices[3 * t + k]]);
    return corners;
}

} // namespace zl::app
