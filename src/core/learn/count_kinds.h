#pragma once
#include "core/learn/property.h"

namespace zl::learn {

/// A property that is a number of something.
struct CountKind {
    const char *id, *label, *one, *many;
    std::optional<double> (*of)(const FileFacts& file); ///< nothing where a file has none
    const char* check;                                  ///< kind of rule that limits it; null: none does
    const char* limit = "most";
    std::map<std::string, double> more{}; ///< other limits of the rule
    bool offers = true;
    bool ofObjects = false; ///< of a game that has a file for each object it is each object's
};

const std::vector<CountKind>& countKinds();
/// Null where none is called so.
const CountKind* countKind(std::string_view id);

/// "4 096 corners".
std::string showCounted(const CountKind& count, double value);

/// A limit between what was accepted and, where it is known, the least that was refused; nothing where it is
/// no limit, or what was accepted has none of it. `property` is summarised.
std::optional<Offer> limitOffer(const CountKind& count, const Property& property,
                                std::optional<double> refused, bool perObject);

} // namespace zl::learn
