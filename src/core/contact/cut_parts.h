#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

#include <vector>

namespace zl::contact {

/// What of a mesh lies on one side of every plane that it was cut by.
struct CutPart {
    std::vector<glm::vec3> points;
    std::vector<std::uint32_t> indices; ///< three a face; faces end at the planes
    Mesh cell;                          ///< the convex space between the planes
    std::vector<glm::vec3> deep;        ///< corners of the cell that lie inside the mesh
    std::vector<glm::vec4> inside; ///< points spread over what is inside the mesh, with the volume of each
    double insideVolume = 0;
    Mesh hull;
    double hullVolume = 0;

    /// What the hull fills and the mesh does not.
    double excess() const { return hullVolume - insideVolume; }
};

struct CutGoal {
    std::size_t parts = 40;
    double least = 0.0003; ///< a share of the first hull: parts whose hulls fill less that is not there stay
    /// What a plane along the longest side is preferred by, as a share of the hull: without it, what is flat
    /// or long falls into ever thinner slices of the same shape.
    double across = 0.1;
    /// Cuts go on from faces past the edges where the surface folds inward, as long as there are such and not
    /// too many: what is made of boxes comes apart into just those.
    bool alongFaces = false;
};

/// Cuts a mesh of about size 1 apart: the part whose hull fills most that is not there, where the hulls of
/// both halves are smallest together, again and again, until the goal is reached. Planes stand on the axes
/// and on the part's principal axes; of those, on places where a corner is. All hulls together hold all that
/// the mesh encloses. Where its surface is open nothing is known of the inside, and its volume counts as
/// none. Empty for a mesh without a hull.
std::vector<CutPart> cutApart(const Mesh& mesh, const CutGoal& goal, const Progress& progress = {});

} // namespace zl::contact
