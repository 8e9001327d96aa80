#pragma once
#include "app/view/camera.h"
#include "app/view/scene.h"

#include "core/platform/rule.h"
#include "core/selection/chosen.h"

#include <QPolygonF>
#include <QRectF>
#include <QSize>

#include <set>

namespace zl::app {

/// Where a ray through a pixel meets a scene.
struct Pick {
    glm::dvec3 at{0}; ///< world
    int node = -1;
    std::uint32_t triangle = 0; ///< of Scene::mesh
};
std::optional<Pick> pickAt(const Scene& scene, const Camera& camera, QSize view, QPointF pixel);

/// The corner of the picked triangle that lies within `reach` pixels of the pointer, nearest first; else the
/// point on its surface. People measure from corner to corner and cannot aim that well.
glm::dvec3 snappedToCorner(const Scene& scene, const Camera& camera, QSize view, QPointF pixel,
                           const Pick& pick, double reach = 9);

/// The nodes that lie wholly within a rectangle of the view.
std::set<int> nodesWithin(const Scene& scene, const Camera& camera, QSize view, const QRectF& area);

/// The triangles whose middle lies within an outline on the view; of those only the ones that are seen,
/// unless it goes `through` everything. Marks as of the scene's model.
selection::Chosen facesWithin(const Scene& scene, const Camera& camera, QSize view, const QPolygonF& outline,
                              bool through);

/// Triangles to be lit: those of `nodes`, of `materials`, and single `faces` (a triangle counted within its
/// node).
struct LitFaces {
    std::set<int> nodes, materials;
    std::vector<platform::FaceRef> faces;

    bool empty() const { return nodes.empty() && materials.empty() && faces.empty(); }
};
/// Three corners a triangle.
std::vector<glm::vec3> cornersOf(const Scene& scene, const LitFaces& lit);
std::vector<glm::vec3> cornersOf(const Scene& scene, const selection::Chosen& chosen);

} // namespace zl::app
