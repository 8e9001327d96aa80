#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

namespace zl::motion {

/// How far apart the corners of two models come that have the same nodes, corners and clips: the largest
/// distance at rest and at up to `moments` moments of each clip, in metres. For what a change of bones,
/// weights or keys does to what is seen. Throws Cancelled.
double farthestApart(const Model& a, const Model& b, const Progress& progress, int moments = 12);

/// The same in the clips alone, for what is meant to be another at rest.
double farthestApartInClips(const Model& a, const Model& b, const Progress& progress, int moments = 12);

} // namespace zl::motion
