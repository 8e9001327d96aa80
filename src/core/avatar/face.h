#pragma once
#include "core/model/avatar.h"
#include "core/model/model.h"

#include <map>

namespace zl::avatar {

/// What an avatar's face does at a moment.
struct Face {
    std::map<std::string, double> expressions; ///< how much of each, 0 to 1
    glm::dvec2 look{0};                        ///< degrees to its left and up
    bool operator==(const Face&) const = default;
};

/// How much of each expression is really shown: binary ones wholly or not, eyes and mouth out of the way of
/// those that override them, the look as expressions where the avatar's eyes follow so.
std::map<std::string, double> shownExpressions(const Model& model, const Face& face);

/// A face as a clip of one moment, over morph targets and eye bones. Weights are summed and held from 0 to 1,
/// as the standard says.
Clip clipOf(const Model& model, const Face& face);

/// A moment of a clip with a face on top of it, as a clip of that one moment.
Clip withFace(const Model& model, const Clip& clip, double seconds, const Face& face);

} // namespace zl::avatar
