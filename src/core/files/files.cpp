#include "core/files/files.h"

#include "core/base/letters.h"
#include "core/base/utf8.h"
#include "core/files/containers.h"
#include "core/files/sqlite.h"

#include <fmt/ranges.h>

#include <algorithm>

namespace zl::files {

std::optional<std::string> normalPath(std::string_view path) {
    std::vector<std::string_view> parts;
    while (!path.empty()) {
        const std::size_t end = std::min(path.find_first_of("/\\"), path.size());
        const std::string_view part = path.substr(0, end);
        path.remove_prefix(std::min(end + 1, path.size()));
        if (part.empty() || part == ".") continue;
        if (part != "..") {
            parts.push_back(part);
        } else if (parts.empty()) {
            return std::nullopt;
        } else {
            parts.pop_back();
        }
    }
    if (parts.empty()) return std::nullopt;
    return fmt::format("{}", fmt::join(parts, "/"));
}

std::optional<std::string> Files::find(std::string_view folder, std::string_view name) const {
    const std::string wanted = asUtf8(name), bare = wanted.substr(wanted.find_last_of("/\\") + 1);
    const std::string start = folder.empty() ? std::string() : std::string(folder) + "/";
    std::vector<std::string> candidates;
    for (const std::string& candidate : {start + wanted, start + bare})
        if (auto path = normalPath(candidate)) candidates.push_back(std::move(*path));
    if (bySmallLetters_.empty())
        for (const Entry& entry : list()) bySmallLetters_.emplace(lowerCase(entry.path), &entry);
    const Entry* other = nullptr;
    for (const std::string& candidate : candidates)
        for (auto [at, end] = bySmallLetters_.equal_range(lowerCase(candidate)); at != end; ++at) {
            if (at->second->path == candidate) return candidate;
            if (!other) other = at->second;
        }
    return other ? std::optional(other->path) : std::nullopt;
}

std::unique_ptr<Files> filesIn(const std::filesystem::path& file, const Terms& terms) {
    return isSqlite(file) ? packageFiles(file, terms) : archiveFiles(file, terms);
}

std::unique_ptr<Files> filesIn(FileBytes bytes, std::string where, const Terms& terms) {
    return archiveFiles(std::move(bytes), std::move(where), terms);
}

} // namespace zl::files
