#pragma once
#include "core/model/model.h"

#include <map>
#include <set>

namespace torture {

/// What a model holds, by the word that a note must name it with when some of it goes.
using Inventory = std::map<std::string, std::size_t>;

Inventory inventoryOf(const zl::Model& model);

/// The words of what there is less of in `after` than in `before` and that no note names.
std::set<std::string> lostInSilence(const Inventory& before, const Inventory& after,
                                    const std::vector<std::string>& notes);

} // namespace torture
