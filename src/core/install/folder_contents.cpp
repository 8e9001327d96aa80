#include "core/install/folder_contents.h"

#include "core/base/units.h"
#include "core/install/game_folder.h"

#include <fmt/format.h>

#include <algorithm>

namespace fs = std::filesystem;

namespace zl::install {

namespace {

constexpr std::size_t mostFiles = 10'000;

} // namespace

std::vector<OutFile> folderContents(const fs::path& folder, std::vector<std::string>& problems) {
    std::vector<OutFile> out;
    std::error_code error;
    std::size_t bytes = 0;
    if (!fs::exists(folder, error)) return out;
    for (auto at = fs::recursive_directory_iterator(folder, error); at != fs::recursive_directory_iterator();
         at.increment(error)) {
        const std::string name = at->path().lexically_relative(folder).generic_string();
        const auto status = at->symlink_status(error);
        if (fs::is_directory(status)) continue;
        if (!fs::is_regular_file(status)) {
            problems.push_back(fmt::format("{} leads elsewhere", at->path().string()));
            continue;
        }
        bytes += at->file_size(error);
        if (out.size() >= mostFiles || bytes > mostGameBytes) {
            problems.push_back(fmt::format("{} holds more than {} files or {}", folder.string(),
                                           showNumber(double(mostFiles), 0),
                                           showBytes(double(mostGameBytes))));
            return out;
        }
        out.push_back({name, readText(at->path(), mostGameBytes)});
    }
    if (error) problems.push_back(fmt::format("{} cannot be read ({})", folder.string(), error.message()));
    std::ranges::sort(out, {}, &OutFile::name);
    return out;
}

} // namespace zl::install
