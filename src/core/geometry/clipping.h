#pragma once
#include "core/base/progress.h"
#include "core/geometry/ray_scene.h"
#include "core/model/model.h"

#include <memory>

namespace zl::geometry {

/// Something that takes up room: a mesh in world space, in metres, prepared for being asked often.
class Body {
public:
    Body(std::string name, int node, Mesh mesh);

    const std::string& name() const { return name_; }
    int node() const { return node_; } ///< of the model that it came from
    const Mesh& mesh() const { return mesh_; }
    const RayScene& rays() const { return *rays_; }
    glm::vec3 low() const { return low_; }
    glm::vec3 high() const { return high_; }

    /// Whether its surface goes round `point`, and which way is of no account: by the sum of what a ray
    /// enters and leaves, in two of three directions. A surface with an edge goes round nothing but by
    /// chance.
    bool holds(const glm::vec3& point) const;

private:
    std::string name_;
    int node_;
    Mesh mesh_;
    std::shared_ptr<const RayScene> rays_;
    glm::vec3 low_{1e30f}, high_{-1e30f};
};

/// The nodes of a model that show triangles, each as a body. `flat` and `nodeOfTriangle` are as flattened()
/// gives them, so that a pose may have been put into `flat` meanwhile.
std::vector<Body> bodiesOf(const Model& model, const Mesh& flat, const std::vector<int>& nodeOfTriangle);

/// Two bodies of which one reaches into the other.
struct Overlap {
    std::size_t a = 0, b = 0;             ///< places in the lists that were given
    std::vector<char> facesOfA, facesOfB; ///< by triangle: 1 where it lies in the other, wholly or in part
    std::size_t faces = 0;                ///< so marked in both
    double deepest = 0;  ///< metres from the deepest point that was found to the other's surface
    glm::dvec3 place{0}; ///< that point
};

/// Every body of `these` that reaches into one of `those` (or, where these are all, into another of its own
/// kind), deepest first. Points that are looked at: the corners of each in the other, and the middle of what
/// of an edge lies inside. Less than `tolerance` metres counts as touching; so does a hundred-thousandth of
/// the size. Bodies whose surfaces go round nothing can only be reached into, not reach. After 100 000
/// pairs whose boxes meet the search ends, and `cutShort` says so. Time goes with the
/// triangles where both are, times the logarithm of all.
std::vector<Overlap> overlaps(const std::vector<Body>& these, const std::vector<Body>& those,
                              double tolerance = 0, const Progress& progress = {});
std::vector<Overlap> overlapsAmong(const std::vector<Body>& all, double tolerance = 0,
                                   const Progress& progress = {}, bool* cutShort = nullptr);

} // namespace zl::geometry
