#pragma once
#include "standins/world/arena.h"

#include "core/platform/file_terms.h"

namespace zl::standins::files {

// The neutral stand-in: it knows no game, and holds files to what their sheet says of them.
TryReport tryFolder(const std::filesystem::path& folder);
std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report);
TryReport tryUnder(const std::filesystem::path& folder, const platform::FileTerms& terms);
std::unique_ptr<world::Arena> openUnder(const std::filesystem::path& folder, const platform::FileTerms& terms,
                                        TryReport& report);

} // namespace zl::standins::files
