#pragma once
#include "core/deliver/deliver.h"
#include "core/project/companions.h"

namespace zl::project {

/// The sizes of a piece besides its first, read, each with what its steps may take in. All that is given must
/// outlive them. Throws Error as SourceCache::load does.
std::vector<deliver::OtherSize> otherSizes(const Project& project, const Piece& piece,
                                           const platform::Sheet& sheet, SourceCache& sources,
                                           recipe::EvaluationCache* cache, const Progress& progress = {});

/// The files behind them, for whoever follows what changes.
std::vector<std::filesystem::path> filesOf(const std::vector<deliver::OtherSize>& sizes);

} // namespace zl::project
