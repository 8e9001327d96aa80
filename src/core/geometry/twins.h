#pragma once
#include "core/model/model.h"

#include <array>
#include <optional>

namespace zl::geometry {

/// How one object stands in two models that must be alike corner for corner.
struct TwinObject {
    std::string name; ///< in the first, else in the second
    std::array<std::size_t, 2> corners{}, triangles{};
    std::array<int, 2> order{-1, -1}; ///< which of the objects it is; -1 where it is missing
    std::array<int, 2> node{-1, -1};
    std::optional<std::uint32_t> firstDifference; ///< the first triangle whose corners are numbered otherwise
    bool uvs = false, weights = false;            ///< the same values at every corner

    bool isInBoth() const { return order[0] >= 0 && order[1] >= 0; }
    /// Whether there is a corner for each corner, be it the wrong one: what blending shows.
    bool blends() const { return isInBoth() && corners[0] == corners[1]; }
    /// What a game needs to blend: the same place in the order, the same corners, the same triangles.
    bool isEqual() const {
        return order[0] == order[1] && corners[0] == corners[1] && triangles[0] == triangles[1] &&
               !firstDifference;
    }
};

struct TwinReport {
    bool equal = true;
    std::vector<TwinObject> objects; ///< in the first's order; those that only the second has behind them
    const TwinObject* firstUnequal() const;
    /// What is wrong with it first, in a sentence that names object and counts; `sizes` are what the two are
    /// called. Empty when they are equal.
    std::string why(const std::array<std::string, 2>& sizes) const;
};

/// Holds two models against each other. Objects are found by name, also by one that ends in a size
/// ("apron_slim" and "apron_broad"); those that are left over by their place in the order, where they have as
/// many triangles.
TwinReport comparedTwins(const Model& a, const Model& b);

/// The first model with the corners of each object that `blends` brought `share` of the way to the second's, as
/// games blend between sizes: places, normals and weights linearly. Other objects stay as they are.
Model blendedTwins(const Model& a, const Model& b, const TwinReport& report, double share);

} // namespace zl::geometry
