#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// How far a clip's last moment is from its first.
struct LoopError {
    double turn = 0,
           place = 0;  ///< the largest of any node: radians in its parent; metres, as it stands at rest
    double weight = 0; ///< of a morph target
    int turned = -1, placed = -1; ///< the nodes that are off most; -1 where none is

    bool isClosed() const { return turn < 1e-4 && place < 1e-5 && weight < 1e-4; }
};
LoopError loopErrorOf(const Model& model, const Clip& clip);

/// The clip with its end led onto its beginning: what is missing is added over the last `seconds` of it, with
/// no jump in speed where that begins. Curves there become straight lines between samples of `perSecond`.
/// `but` is a node whose place is left alone, as one that is to travel.
Clip looped(const Clip& clip, double seconds, int but = -1, double perSecond = 30);

} // namespace zl::motion
