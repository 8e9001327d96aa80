#pragma once
#include "core/motion/bone_map.h"

namespace zl::motion {

/// A clip of `from` as the bones of `to` make it: each turns in the world as its match does, from how it
/// stands at rest (so that bones may have other axes), and the places of those that move go as far as their
/// skeleton is tall beside the other. Where both are at rest alike, turns come over exactly. Straight lines
/// between all moments at which any bone of `from` has a key; splines are taken 30 times a second.
Clip takenClip(const Model& from, const Clip& clip, const Model& to, const BoneMap& bones);

/// How tall a skeleton is beside another at rest: from its lowest matched bone to its highest.
double heightRatio(const Model& from, const Model& to, const BoneMap& bones);

} // namespace zl::motion
