#include "core/project/autosave.h"

#include "core/base/file_set.h"

#include <algorithm>
#include <cerrno>
#include <charconv>
#include <csignal>
#include <unistd.h>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

constexpr std::string_view ending = ".autosave", basedOn = "goes-on-from";

/// What an autosave says of the file it goes on from.
std::string versionOf(const fs::path& file) {
    std::error_code error;
    return file.empty() || !fs::exists(file, error) ? "" : fmt::format("{:016x}", hashFile(file));
}

/// "piece-1234-0.zestloom.autosave" was made by process 1234.
bool makerRuns(const fs::path& file) {
    const std::string name = file.filename().string();
    const std::size_t dash = name.find('-');
    pid_t process = 0;
    if (dash == std::string::npos ||
        std::from_chars(name.data() + dash + 1, name.data() + name.size(), process).ec != std::errc() ||
        process <= 0)
        return false;
    return ::kill(process, 0) == 0 || errno == EPERM;
}

} // namespace

fs::path autosavePath(const fs::path& file) {
    return fs::path(file.string() + std::string(ending));
}

fs::path unsavedPath(const fs::path& folder) {
    std::error_code error;
    for (int n = 0;; ++n) {
        const fs::path path = folder / fmt::format("unsaved-{}-{}.zestloom{}", ::getpid(), n, ending);
        if (!fs::exists(path, error)) return path;
    }
}

void autosave(const Project& project, const fs::path& path) {
    auto json = toJson(project);
    json[std::string(basedOn)] = versionOf(project.file);
    writeFile(path, json.dump(2) + "\n");
}

bool hasUnsavedWork(const fs::path& file) {
    const fs::path path = autosavePath(file);
    std::error_code error;
    if (!fs::exists(path, error)) return false;
    try {
        const auto json = nlohmann::json::parse(readText(path));
        const std::string version = json.value(std::string(basedOn), "");
        if (version.empty() || version != versionOf(file)) return false;
        return toJson(load(path)) != toJson(load(file));
    } catch (const std::exception&) {
        return false;
    }
}

std::vector<fs::path> unsavedIn(const fs::path& folder) {
    std::error_code error;
    std::vector<std::pair<fs::file_time_type, fs::path>> found;
    for (const auto& entry : fs::directory_iterator(folder, error))
        if (entry.path().filename().string().ends_with(".zestloom.autosave") && !makerRuns(entry.path()))
            found.emplace_back(entry.last_write_time(error), entry.path());
    std::ranges::sort(found, std::greater());
    std::vector<fs::path> out;
    for (auto& [time, path] : found) out.push_back(std::move(path));
    return out;
}

} // namespace zl::project
