#pragma once
#include "core/model/model.h"

#include <span>

namespace zl::figure {

/// A figure of a household life game: a life stage and a build.
struct Kind {
    std::string_view id;   ///< "grown-a"
    std::string_view name; ///< "grown-up, build A"
    double height;         ///< metres
    double girth;          ///< how thick trunk and limbs are, 1 for build A
    double head;           ///< height of the head against the whole's, 1 for a grown-up
    double legs;           ///< length of the legs against the whole's, 1 for a grown-up
};

std::span<const Kind> allKinds();
/// Throws Error listing the kinds when there is none of this id.
const Kind& kindNamed(std::string_view id);

/// The figure, standing on the floor with its arms a little aside, facing +Z, its left at +X: one closed
/// surface of about five thousand triangles, skinned to 24 bones named as in "forearm.left", whose axes at
/// rest are the world's. The same bytes each time.
Model figureOf(const Kind& kind);

/// A joint of the figure and where it is at rest.
struct Joint {
    std::string_view name;
    int parent; ///< place in the list; -1 for the root
    glm::dvec3 place;
    std::optional<TurnLimits> turns; ///< about its own axes
};
std::vector<Joint> jointsOf(const Kind& kind);

} // namespace zl::figure
