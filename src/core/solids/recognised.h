#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"
#include "core/solids/scene.h"

#include <span>

namespace zl::solids {

/// A loose part of a mesh, and the box, cylinder or ball that comes nearest to it.
struct Recognised {
    std::string part;   ///< the object's name, with the part's number where it has several
    std::string object; ///< that it is of
    Solid solid;        ///< in the model's world, with the colour that the part has on the whole
    double error = 0;   ///< metres: the furthest that either surface lies from the other
    double share = 0;   ///< the same, of the part's longest side
};

/// One for each loose part (triangles that share no corner by place) of what is shown, in the model's order.
/// Solids stand along the part's own directions: those that most of its faces look to, or that they are
/// square on. Throws Error where there are more parts than a scene takes, Cancelled.
std::vector<Recognised> recognisedIn(const Model& model, const Progress& progress = {});

/// Those that are named as a scene: objects of several parts are groups. None are chosen twice.
Scene sceneOf(std::span<const Recognised> parts);

} // namespace zl::solids
