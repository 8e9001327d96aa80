#pragma once
#include "core/model/model.h"

#include <functional>

namespace zl::geometry {

struct BakeResult {
    Model model;
    std::vector<std::string> baked;  ///< nodes whose transform went into their corners
    std::vector<std::string> moving; ///< nodes that keep one because a clip or a bone moves them
};

/// What of a transform goes into the corners: all of it, or its scale and shear alone. In the second case the
/// move and the turn stay on the node, and a mirrored node's corners are mirrored along its X.
enum class Baked { All, ScaleOnly };

/// Puts the transforms of nodes, and the model's placement, into the corners, so that every node that nothing
/// moves rests at identity. World space stays as it is: positions, normals (by cofactors, so that a flattened
/// part does no harm), winding under mirroring, bind matrices, and the keys of clips whose parent was baked.
/// A node above a moving one is baked only when its transform is a turn, a move and an even scale, because
/// keys of another sort cannot carry it. `chosen` says which nodes to bake; the others keep their place
/// through a transform of their own.
BakeResult baked(const Model& model, const std::function<bool(const Node&)>& chosen = {},
                 Baked what = Baked::All);

/// Whether a node's own transform is more than rounding away from none; zero and NaN scales count too.
bool carriesTransform(const glm::dmat4& local, double tolerance = 1e-6);

} // namespace zl::geometry
