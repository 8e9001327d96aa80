#pragma once
#include "core/base/file_set.h"

namespace zl::install {

/// All files below a folder, by name, relative to it; none where it is not there. What leads elsewhere, or is
/// too much for an installation, is put into `problems`.
std::vector<OutFile> folderContents(const std::filesystem::path& folder, std::vector<std::string>& problems);

} // namespace zl::install
