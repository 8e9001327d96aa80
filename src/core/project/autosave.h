#pragma once
#include "core/project/project.h"

namespace zl::project {

// Work that was not saved, kept for when the program ends unexpectedly. An autosave knows which saved version
// it goes on from: when the project file is another by then, it is stale and not offered.

/// "NAME.zestloom.autosave" beside the project.
std::filesystem::path autosavePath(const std::filesystem::path& file);

/// Writes the project's autosave to `path`. Throws Refused.
void autosave(const Project& project, const std::filesystem::path& path);

/// Whether the autosave of a project file holds work that goes on from that very file and differs from it.
/// False also when either cannot be read.
bool hasUnsavedWork(const std::filesystem::path& file);

} // namespace zl::project
