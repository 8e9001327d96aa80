#pragma once
#include "app/view/floor_shadow.h"
#include "app/view/gl_painter.h"

#include "core/base/progress.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/world.h"
#include "core/model/node_path.h"
#include "core/motion/bone_places.h"
#include "core/motion/posed.h"

namespace zl::app {

/// A model made ready for the view beside the window's thread: what is drawn at rest, a lighter stand-in for
/// while the camera moves, and triangles prepared for picking.
struct Scene {
    Model model;                 ///< that it shows
    std::vector<NodePath> paths; ///< of the model's nodes
    Mesh mesh; ///< flattened, world space; a node's triangles lie in one run, in their order
    std::vector<int> nodeOfTriangle;
    std::vector<int> materialOfTriangle;
    std::vector<glm::vec3> swatches; ///< how each material looks on the whole, sRGB
    GlGeometry full;
    GlGeometry light; ///< empty when the full one is light enough
    /// Of one that moves and is too heavy to be drawn so often: fewer triangles on some of its corners.
    struct Playing {
        std::vector<std::uint32_t> indices;  ///< into what follows
        std::vector<std::uint32_t> corners;  ///< of the full geometry
        std::vector<std::uint32_t> vertices; ///< of the mesh, for each of them
        std::vector<GlGeometry::Range> ranges;
    };
    std::shared_ptr<const Playing> playing; ///< null where the full one does
    std::shared_ptr<geometry::RayScene> rays;
    geometry::Bounds bounds;
    FloorShadow shadow;
    std::size_t triangles = 0;
    std::vector<std::size_t> firstOfNode; ///< where each node's triangles begin
    std::vector<motion::BonePlace> bones; ///< as the scene stands
    glm::vec4 blockEdges{0};              ///< as GlPainter::Look::grid has it
    std::string weighed;                  ///< the bone whose weights its heat is; empty for none

    std::size_t triangleWithinNode(std::size_t triangle) const {
        return triangle - firstOfNode[std::size_t(nodeOfTriangle[triangle])];
    }
};

/// Above this many triangles software GL is too slow to turn the view, so a stand-in is drawn meanwhile.
inline constexpr std::size_t mostWhileMoving = 30000;

std::shared_ptr<const Scene> makeScene(const Model& model, const Progress& progress);

/// The scene in a pose of its model. Without `still` what picking needs and bounds are left as they are at
/// rest, for a picture that another soon follows.
std::shared_ptr<const Scene> posedScene(const Scene& rest, const motion::Pose& pose, bool still,
                                        const Progress& progress);

/// The scene with how much each corner hangs on a bone as heat, an empty name for the one that most hang on;
/// as it is where the model has no such bone.
std::shared_ptr<const Scene> weighedScene(const std::shared_ptr<const Scene>& scene, const std::string& bone);

/// The scene with each corner's distance to `reference` as heat: 1 is `hottest` metres, which is returned in
/// it.
struct HeatedScene {
    std::shared_ptr<const Scene> scene;
    double hottest = 0;
};
HeatedScene makeHeatedScene(const Scene& scene, const Scene& reference, const Progress& progress);

} // namespace zl::app
