#pragma once
#include "core/base/file_set.h"
#include "core/project/project.h"

namespace zl::project {

/// A project's yardsticks as they go along with a sheet that is given away: a file each below `yardsticks/`,
/// and what they are called. Those that lie in archives, or are gone, stay.
std::vector<OutFile> yardstickFiles(const Project& project);

/// Those that came with a sheet, whose files lie in `folder`; paths are whole. Throws Error for a list that
/// cannot be read, or names files that are not there.
std::vector<YardstickSource> yardsticksIn(const std::filesystem::path& folder);

} // namespace zl::project
