#pragma once
#include "standins/region/scene_text.h"

namespace zl::standins::region {

/// All builds that stand in a region ("test" or "main"), as its server gives them to one who has logged in.
/// Throws Refused with the server's reason, Error for an answer that is none, and Cancelled.
std::vector<DeliveredScene> visited(Visit visit, const Progress& progress);

/// The same, to walk about in.
std::unique_ptr<world::Arena> visit(Visit visit, TryReport& report, const Progress& progress);

} // namespace zl::standins::region
