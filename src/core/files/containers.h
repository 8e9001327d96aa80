#pragma once
#include "core/files/files.h"

namespace zl::files {

// The kinds of containers that filesIn() chooses from, each in a file of its own.
std::unique_ptr<Files> archiveFiles(const std::filesystem::path& file, const Terms& terms);
std::unique_ptr<Files> archiveFiles(FileBytes bytes, std::string where, const Terms& terms);
std::unique_ptr<Files> packageFiles(const std::filesystem::path& file, const Terms& terms);
std::unique_ptr<Files> resourceFiles(const std::filesystem::path& file, const Terms& terms);

} // namespace zl::files
