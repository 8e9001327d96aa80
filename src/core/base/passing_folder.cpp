#include "core/base/passing_folder.h"

#include <fmt/format.h>

#include <cstdlib>

namespace fs = std::filesystem;

namespace zl {

PassingFolder::PassingFolder(std::string_view kind) {
    std::string pattern = (fs::temp_directory_path() / fmt::format("zest-loom-{}-XXXXXX", kind)).string();
    if (mkdtemp(pattern.data())) path_ = pattern;
}

PassingFolder::~PassingFolder() {
    std::error_code ignored;
    if (!path_.empty()) fs::remove_all(path_, ignored);
}

} // namespace zl
