#pragma once
#include "core/model/model.h"

#include <map>

namespace zl::avatar {

/// Which morph targets of another model do what those of one do, by name; `guessed` ones by what they move.
struct MorphMatches {
    struct To {
        std::string name;
        bool guessed = false;
    };
    std::map<std::string, To> of; ///< by the one's names
};

/// `ratio` is how much taller the other figure is. Targets of other names are compared by the middle of what
/// they move in the world, weighed by how far, and by the mean way: no more apart than a twentieth of the
/// figure and less than 40° in direction, each the other's nearest.
MorphMatches matchedMorphs(const Model& from, const Model& to, double ratio);

} // namespace zl::avatar
