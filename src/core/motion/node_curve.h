#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// What a node does in the course of a clip, at even moments from its beginning to its end.
struct NodeCurve {
    std::vector<glm::dvec3> ways; ///< from where it begins, in the world: right, up, forward; metres
    std::vector<double> turns;    ///< degrees from how it begins, in its parent
};

/// `samples` moments, at least two. Empty for a clip without length. Looks only at the channels of the node
/// and of those above it, so that it is quick however many bones there are.
NodeCurve curveOf(const Model& model, const Clip& clip, int node, int samples = 241);

} // namespace zl::motion
