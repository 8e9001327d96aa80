#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// A bone of one skeleton and the one of another that does the same.
struct BoneMatch {
    enum class By { Name, Hierarchy, Place };
    int from = -1, to = -1; ///< nodes
    By by = By::Name;
};

/// Which bones of two skeletons go together, those by name first.
struct BoneMap {
    std::vector<BoneMatch> matches;
    std::vector<int> leftFrom, leftTo; ///< bones without one

    int toOf(int from) const;
    /// Matches that rest on more than a name, and are to be looked at.
    std::size_t guessed() const;
};

/// What a name of a bone comes to when case, separators, numbers of copies and words that mean the same are
/// taken out of it: "UpperArm_L", "upperarm.left" and "leftUpperArm" are one. Empty for a name without
/// letters.
std::string plainBoneName(std::string_view name);

/// The bones of a model: joints of its skins with what is above them; without skins, every node that a clip
/// moves with all above it.
std::vector<int> bonesOf(const Model& model);

/// Bones go together by the same plain name; then where each of two that do has one bone left between itself
/// and the next ones; then where they stand at rest, each in its own skeleton's height, if both are nearest
/// to each other and no farther apart than a twelfth of it.
BoneMap mappedBones(const Model& from, const Model& to);

} // namespace zl::motion
