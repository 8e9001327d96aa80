#pragma once
#include "core/formats/aspect.h"
#include "core/geometry/world.h"

#include <map>
#include <string>
#include <vector>

namespace zl::chain {

/// How an aspect came through.
enum class Fate { None, Kept, Changed, Lost, PutBack };
std::string_view fateId(Fate fate); ///< "none", "kept", "changed", "lost", "put-back"

struct Verdict {
    Fate fate = Fate::None; ///< None: there was nothing of it
    std::string words;      ///< what was found, where it is worth a word
};
using Verdicts = std::map<formats::Aspect, Verdict>;

/// What can be compared of a model, whatever order its parts come in. Lengths in metres, in world space.
struct Facts {
    geometry::Bounds bounds;
    std::size_t triangles = 0, objects = 0;
    std::vector<std::string> names;               ///< of objects, sorted
    std::vector<std::string> paths;               ///< of objects with their groups, sorted
    std::map<std::string, std::size_t> materials; ///< triangles by material name
    std::size_t plainTriangles = 0;               ///< those that wear no material
    std::map<std::string, std::string> pictures;  ///< colour picture (its size in pixels) by material name
    double uvArea = 0, uvSum = 0;                 ///< over all triangles, with placement
    bool uvs = false;
    std::size_t placements = 0; ///< materials with a UV placement
    bool normals = false;
    double normalAgreement = 0; ///< area-weighted mean of normal · face normal
    bool colours = false;
    glm::dvec4 colourMean{0.0};                    ///< area-weighted
    std::vector<std::string> bones, clips, morphs; ///< names, sorted
};
Facts factsOf(const Model& model);

/// How each aspect of `before` stands in `after`.
Verdicts compared(const Facts& before, const Facts& after);

} // namespace zl::chain
