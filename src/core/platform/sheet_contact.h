#pragma once
#include "core/contact/touch.h"

#include <filesystem>

namespace zl::platform {

class TableReader;

/// Reads `[[surface]]`, `[[mark]]`, `[engine]` and `[holder]`. Throws Error with file and line.
contact::Touch readContact(TableReader& root, const std::filesystem::path& file);

} // namespace zl::platform
