#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// Where everything stands at one moment.
struct Pose {
    std::vector<glm::dmat4> world;               ///< of each node, placement included
    std::vector<std::vector<glm::dmat4>> joints; ///< by skin: what takes a corner at rest to the world
    std::vector<std::vector<double>> weights;    ///< by node: of each morph target; empty for none
};

/// The pose of a model `seconds` into a clip, as glTF 2.0 has it (3.7.3.3: a skinned mesh follows its joints
/// and not its node). Seconds before the first and behind the last key are those keys'.
Pose posed(const Model& model, const Clip& clip, double seconds);

/// How long a clip is: the last of its keys, in seconds; 0 for one without.
double lengthOf(const Clip& clip);
/// All keys of all channels.
std::size_t keysOf(const Clip& clip);

/// A node's mesh in a pose: positions and, where there are such, normals in world space, into `out` from its
/// corner `first` on, which has room for them.
void poseMesh(const Model& model, const Pose& pose, int node, const Mesh& mesh, Mesh& out, std::size_t first);

/// What geometry::flattened gives, in a pose: positions and, where there are such, normals in world space.
/// `rest` is that of the same model and decides on everything else. Linear.
void poseFlattened(const Model& model, const Pose& pose, Mesh& rest);

} // namespace zl::motion
