#include "core/base/stamp.h"

#include "core/base/letters.h"

#include <fmt/format.h>

#include <algorithm>
#include <sys/stat.h>

namespace fs = std::filesystem;

namespace zl {

fs::path withoutRegardToCase(const fs::path& folder, const fs::path& name) {
    const std::string wanted = lowerCase(name.filename().string());
    if (wanted.empty()) return {};
    std::error_code error;
    std::vector<fs::path> found; // the same one in every run, whatever the order of the folder
    for (const auto& entry : fs::directory_iterator(folder.empty() ? fs::path(".") : folder, error))
        if (lowerCase(entry.path().filename().string()) == wanted && entry.is_regular_file(error))
            found.push_back(entry.path());
    return found.empty() ? fs::path() : *std::ranges::min_element(found);
}

std::string stampOf(const fs::path& file) {
    struct stat status {};
    if (::stat(file.c_str(), &status) != 0) {
        const fs::path there = withoutRegardToCase(file.parent_path(), file);
        if (there.empty() || ::stat(there.c_str(), &status) != 0) return "missing";
    }
    return fmt::format("{}.{}:{}:{}", status.st_mtim.tv_sec, status.st_mtim.tv_nsec, status.st_size,
                       status.st_ino);
}

const std::string& Stamps::of(const fs::path& file) {
    const auto [entry, fresh] = known_.try_emplace(file);
    if (fresh) {
        auto held = held_ ? held_(file) : std::nullopt;
        entry->second = held ? std::move(*held) : stampOf(file);
    }
    return entry->second;
}

std::string Stamps::of(const std::vector<fs::path>& files) {
    std::string out;
    for (const fs::path& file : files) out += fmt::format("{}={}\n", file.string(), of(file));
    return out;
}

} // namespace zl
