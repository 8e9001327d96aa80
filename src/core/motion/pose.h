#pragma once
#include "core/model/model.h"

#include <glm/gtc/quaternion.hpp>

namespace zl::motion {

/// The turn that a channel's four numbers are, x y z w.
glm::dquat quaternion(const std::vector<double>& xyzw);

/// The turn of a matrix, its scale left out; of a mirrored one as if its first axis pointed the other way.
glm::dquat turnIn(const glm::dmat4& matrix);

/// A channel's value at `seconds`: three numbers for a place or a scale, four (x y z w, of length 1) for a
/// turn, one for each morph target for weights. Before the first key it is the first key's, after the last
/// the last's; in between as glTF 2.0 says for the channel's curve (appendix C: spherical linear
/// interpolation for turns, cubic Hermite splines with tangents scaled by the time between keys). Empty
/// when the channel holds no whole key.
std::vector<double> valueAt(const Channel& channel, double seconds);

/// The node's local matrix at `seconds` into the clip. What the clip does not animate stays as it is at
/// rest; a rest matrix with shear loses it, for a clip holds none.
glm::dmat4 localAt(const Model& model, const Clip& clip, int node, double seconds);

/// A node and all above it, from the node upward.
std::vector<int> chainOf(const Model& model, int node);

/// World matrix of the first of a chain at a moment, placement included; what stands above it alone when
/// `withOwn` is false.
glm::dmat4 worldAt(const Model& model, const Clip& clip, const std::vector<int>& chain, double seconds,
                   bool withOwn = true);

/// When a node's pose is to be taken so that straight lines between the poses follow the clip: all keys of
/// its channels, splines also `perSecond` times a second in between, and a step as two times a
/// ten-thousandth of a second apart. In order, each once; empty for a node that the clip leaves alone.
std::vector<double> poseTimes(const Clip& clip, int node, double perSecond = 30);

} // namespace zl::motion
