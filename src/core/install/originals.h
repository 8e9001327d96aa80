#pragma once
#include "core/install/game_folder.h"

namespace zl::install {

/// Puts back what a game had before: from where it was kept, by its bytes; the kept one goes, unless somebody
/// has changed it. What cannot be put back becomes a problem of the plan.
void restoreOriginals(GameFolder& game, const Journal& journal);

} // namespace zl::install
