#pragma once
#include "core/package/package.h"

#include <set>

namespace zl::package {

/// What a copy is to be called and whose it is.
struct Mine {
    std::string name;  ///< letters, digits, '-', '_'; takes the place of the item's own name in all others,
                       ///< and goes in front of the rest
    std::string maker; ///< together with the name it decides on the new numbers
    std::vector<std::string> prefixes{}; ///< codes in front of names that stay: "kid-"
};

struct Copied {
    Package package;
    struct Change {
        ResourceKey oldKey, newKey;
        std::string oldName, newName;
    };
    std::vector<Change> changes; ///< one a resource, in their order
    std::size_t references = 0;  ///< rewritten
    std::size_t namesInTexts = 0;
};

/// What the item is called: the name of its entry, else of its geometry, without the longest of `prefixes`
/// that it begins with. Empty where it has neither.
std::string stemOf(const Package& package, const std::vector<std::string>& prefixes);

/// A copy under new names in which nothing points at the original any more: every resource gets a number that
/// is a hash (XXH3, 64 bit, high bit set) of maker, name and its old key, and that is not in `taken`; every
/// name a new stem. Every reference and every occurrence of an old name in geometry, materials, entries,
/// poses and texts follows; all else stays byte for byte. Throws Error for a name that cannot be used, or
/// that would leave the old names as they are.
Copied makeMine(const Package& original, const Mine& mine, const std::set<std::uint64_t>& taken = {});

/// All numbers that the packages use.
std::set<std::uint64_t> numbersOf(const std::vector<Index>& packages);

} // namespace zl::package
