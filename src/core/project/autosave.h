#pragma once
#include "core/project/documents.h"
#include "core/project/project.h"

namespace zl::project {

// Work that was not saved, kept for when the program ends unexpectedly. An autosave knows which saved version
// it goes on from: when the project file is another by then, it is stale and not offered.

/// "NAME.zestloom.autosave" beside the project.
std::filesystem::path autosavePath(const std::filesystem::path& file);

/// Writes the project's autosave to `path`, with what its documents hold that is not saved. Throws Refused.
void autosave(const Project& project, const Documents& documents, const std::filesystem::path& path);

/// Takes the documents' edits out of an autosave. Throws Error when one cannot be read.
void takeUpDocuments(const std::filesystem::path& path, Documents& documents);

/// Whether the autosave of a project file holds work that goes on from that very file and differs from it.
/// False also when either cannot be read.
bool hasUnsavedWork(const std::filesystem::path& file);

} // namespace zl::project
