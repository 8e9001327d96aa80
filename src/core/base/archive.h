#pragma once
#include "core/base/file_set.h"

namespace zl {

/// The files as one zip archive, in their order, always the same bytes for the same files; with a key they
/// are locked (AES-256) and differ each time. Throws Refused when the archive cannot be put together.
std::string zipped(const std::vector<OutFile>& files, const std::string& key = {});

/// The files as one 7z archive. Throws Refused when it cannot be put together.
std::string sevenZipped(const std::vector<OutFile>& files);

} // namespace zl
