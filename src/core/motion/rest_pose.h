#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::motion {

/// Another pose as the one at rest: what the nodes have at one moment of a clip becomes their own, skinned
/// parts take the shape that they have then, and their binds are made anew for it. What a clip leaves alone
/// was held at rest, and is held there by keys of its own from now on, so that every clip plays as before:
/// exactly where a corner hangs on one bone, and else but for what bending twice differs from bending once.
/// `moment` is in seconds.
Model withRestFrom(const Model& model, const Clip& clip, double moment);

/// The bones as they were bound: rest becomes what the binds of the first skin that names them say; parts
/// stay as they are, and clips play exactly as before.
Model withRestAsBound(const Model& model);

/// How far any joint stands at rest from where it was bound: metres, and the turn in radians; with a node
/// that is off.
struct OffBind {
    double place = 0, turn = 0;
    int node = -1;
};
OffBind offBind(const Model& model);

} // namespace zl::motion
