#pragma once
#include "core/solids/scene.h"

#include <set>

/// What people do with what they have chosen in a scene. Numbers of things that are not there are passed
/// over.
namespace zl::solids {

using Numbers = std::set<Number>;

/// Those of them that are solids.
Numbers solidsAmong(const Scene& scene, const Numbers& chosen);

/// Solids and lights once more, so far aside; their numbers.
Numbers copy(Scene& scene, const Numbers& chosen, const glm::dvec3& aside);
/// Groups that have nothing left go too.
void remove(Scene& scene, const Numbers& chosen);
void move(Scene& scene, const Numbers& chosen, const glm::dvec3& by);

/// Solids as a new group, within the one that all of them came from. Groups that have nothing left go.
void group(Scene& scene, const Numbers& chosen);
/// The groups that they are in fall apart into those that these are within.
void ungroup(Scene& scene, const Numbers& chosen);
/// The others of its group go by this one.
void lead(Scene& scene, Number solid);
void rename(Scene& scene, Number part, const std::string& name);

} // namespace zl::solids
