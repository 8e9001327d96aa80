#include "core/files/address.h"

namespace fs = std::filesystem;

namespace zl::files {

Address addressOf(const fs::path& path) {
    std::error_code error;
    if (fs::exists(path, error)) return {path, {}};
    for (fs::path file = path.parent_path(); file.has_relative_path(); file = file.parent_path()) {
        const fs::file_status status = fs::status(file, error);
        if (fs::is_directory(status)) break;
        if (fs::is_regular_file(status)) return {file, path.lexically_relative(file).generic_string()};
    }
    return {path, {}};
}

} // namespace zl::files
