#pragma once
#include "core/package/package.h"

namespace zl::package {

/// What is wrong with how a package's resources refer to one another and to other packages.
struct ReferenceCheck {
    struct Finding {
        std::string where; ///< the resource, in words: 'material "barrel-wood"'
        std::string what;  ///< what it says: a key, a name
        std::string why;   ///< the whole as one sentence
    };
    std::vector<Finding> dangling;   ///< point at what neither the package nor one beside it has
    std::vector<Finding> foreign;    ///< point into another package, by number or by an old name
    std::vector<Finding> collisions; ///< numbers and names that another package has too, for something else
    std::size_t references = 0;      ///< looked at

    bool isClean() const { return dangling.empty() && foreign.empty() && collisions.empty(); }
};

/// Checks `package` against itself and `others`. `original`, where given, is what it was copied from: not one
/// of its names or numbers may be left, also in resources of kinds that are not known, there as text (8 bit
/// and UTF-16) and as eight bytes in either order.
ReferenceCheck checkReferences(const Package& package, const std::vector<Index>& others,
                               const Index* original = nullptr);

/// Throws Refused with the first finding, and how many more there are, when the check is not clean.
void demandClean(const ReferenceCheck& check);

} // namespace zl::package
