#pragma once
#include "core/base/progress.h"
#include "core/solids/face_texels.h"

namespace zl::solids {

/// Light that falls on each pixel of a face straight from the lights, soft at the edges of shadows where a
/// light has a size; 0 where nothing is covered. `samples` are rays to each light where its shadow is soft.
/// The same `seed` gives the same.
std::vector<glm::vec3> directLight(const LitScene& scene, const LitFace& face, const FaceTexels& texels,
                                   int samples, std::uint64_t seed, const Progress& progress);

/// What directLight() rests on: changes when any of it may come out otherwise.
Hash directKey(const LitScene& scene, const LitFace& face, Hash settings);

} // namespace zl::solids
