#pragma once
#include "core/model/mesh.h"

namespace zl::geometry {

/// Corners moved each by its weight (0 to 1): by `move`, and scaled by `scale` about `centre`. Normals and
/// tangents turn as the faces around them do, so that hard edges stay hard; morph offsets stay. All in the
/// mesh's own space. `weights` has one for each corner.
Mesh reshaped(const Mesh& mesh, const std::vector<double>& weights, const glm::dvec3& move,
              const glm::dvec3& scale, const glm::dvec3& centre);

/// 1 from `low` to `high`, and from there on down to 0 at `falloff` beyond, smoothly (3t² - 2t³).
double rangeWeight(double value, double low, double high, double falloff);

} // namespace zl::geometry
