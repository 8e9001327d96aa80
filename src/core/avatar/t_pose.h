#pragma once
#include "core/model/model.h"

#include <optional>
#include <string>

namespace zl::avatar {

/// How far a figure's rest pose is from standing straight with its arms out to both sides.
struct OffTPose {
    double armDegrees =
        0; ///< the worse arm's, off its side's axis, X: seen from the front, from above, or both
    double legDegrees = 0; ///< the worse leg's, off straight down
    std::string arm, leg;  ///< "left" or "right": whose
};

/// Measured from the upper arm to the hand and from the upper leg to the foot, in the world, the figure
/// facing +Z. Nothing for a model whose set-up lacks one of these bones.
std::optional<OffTPose> offTPose(const Model& model);

/// A clip of one moment in which the figure stands so: upper arms and forearms out to both sides, legs and
/// shins straight down. Throws Error naming the bone that is missing.
Clip tPose(const Model& model);

} // namespace zl::avatar
