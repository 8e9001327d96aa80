#pragma once
#include "core/base/progress.h"
#include "core/model/mesh.h"

#include <span>

namespace zl::contact {

/// Where bodies and what a mesh encloses differ, as stretches of parallel lines along all three axes, each of
/// two ends: what is within a body and outside the mesh, and what is inside the mesh and within no body.
struct Differences {
    std::vector<glm::vec3> filled, missing;
};

/// `alongLongest` lines over the longest side. Stretches shorter than half of what is between two lines are
/// left out, for a curve and its facets differ everywhere by a little. Where the mesh is open nothing is
/// known, and nothing said.
Differences differencesOf(const Mesh& mesh, std::span<const Mesh> bodies, int alongLongest = 56,
                          const Progress& progress = {});

} // namespace zl::contact
