#pragma once
#include "core/model/model.h"

#include <functional>

namespace zl::geometry {

/// How many levels of detail a model has: 1 for one without coarser copies.
int levelCount(const Model& model);

/// The model with the nodes of one level alone, as the level of all; what stood above them stays for its
/// place. A part without a copy at that level is left out.
Model atLevel(const Model& model, int level);

/// The model without its coarser copies.
Model withoutLevels(const Model& model);

/// All levels as parts of one model, for files that hold them as nodes.
struct LevelNodes {
    Model model;                                 ///< every node at level 0
    std::vector<std::vector<std::string>> names; ///< of the nodes of each level, the whole first
};

/// Every part of the whole and every coarser copy called as `nameFor` makes of the part's name and a level,
/// none twice. Copies stand beside what they stand for, so that hiding one hides nothing else, and clips move
/// them with it.
LevelNodes levelsAsNodes(const Model& model,
                         const std::function<std::string(const std::string& part, int level)>& nameFor);

} // namespace zl::geometry
