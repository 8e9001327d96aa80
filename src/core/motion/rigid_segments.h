#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::motion {

/// How a skinned piece is to come apart.
struct SegmentsWanted {
    bool closed = true;   ///< whether cuts are closed, or left open
    double overlap = 0.8; ///< how far ends are rounded about their joints, of a quarter round
};

/// What came of it.
struct RigidSegments {
    Model model;
    std::size_t segments = 0;       ///< bones that show something now
    std::size_t borders = 0;        ///< cuts between two bones
    std::size_t besideTheirCut = 0; ///< of them, those whose joint lies beside them, so that none was rounded
    long added = 0;                 ///< triangles
    std::size_t morphs = 0;         ///< morph targets that went
    double gap = 0;                 ///< the largest that opens at any border in any clip, metres
    std::string gapAt, gapIn;       ///< bone and clip
};

/// Whether all corners that hang on bones hang on one and the same, so that nothing of it bends.
bool isStiff(const Mesh& mesh);

/// Every triangle goes to the bone that has most of its three corners, so that each bone carries a part that
/// is stiff: a mesh on a node of its own below the bone, called "NAME segment". What is seen at rest is what
/// the skin made of it. Of every cut the side farther down the rig is rounded about its joint. Skins that
/// nothing hangs on any longer go, and so do morph targets. The gap is measured over all clips at up to 60
/// moments each: how far a corner of the other side stands off from the rounded end, its own body and its
/// end left out of it. A model without skins comes back as it is. Throws Cancelled.
RigidSegments rigidSegments(const Model& model, const SegmentsWanted& wanted, const Progress& progress);

} // namespace zl::motion
