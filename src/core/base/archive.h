#pragma once
#include "core/base/file_set.h"

namespace zl {

/// The files as one zip archive, in their order, always the same bytes for the same files.
/// Throws Refused when the archive cannot be put together.
std::string zipped(const std::vector<OutFile>& files);

} // namespace zl
