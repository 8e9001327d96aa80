#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// Whether anything is a bone or moved by a clip.
bool hasRig(const Model& model);

/// The model with every bone, everything that clips move, and every node above these at scale 1, and the
/// whole where its placement scales it alike along all axes: what they were scaled by goes into the places of
/// what is below them, into clips and binds; what hangs on a bone, or on nothing, and is no bone takes it
/// upon itself, in its mesh where nothing hangs below it and no clip scales it. Everything is seen where it
/// was, at rest and at every moment of every clip, exactly: a scale that is the same along all axes commutes
/// with turns. Throws Error naming the first such node whose scale differs between its axes, or is none.
Model withRigScaleBaked(const Model& model);

/// What the placement of a model with a rig scales it by; 1 where that is not one number, or it has no
/// rig.
double scaleOfWhole(const Model& model);

/// The nodes it is about whose scale is not 1.
std::vector<int> scaledRigNodes(const Model& model);

} // namespace zl::motion
