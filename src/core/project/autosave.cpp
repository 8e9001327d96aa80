#include "core/project/autosave.h"

#include "core/base/file_set.h"
#include "core/base/json_text.h"

#include <fmt/format.h>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

constexpr std::string_view ending = ".autosave", basedOn = "goes-on-from",
                           unsavedDocuments = "unsaved-documents";

/// What an autosave says of the file it goes on from.
std::string versionOf(const fs::path& file) {
    std::error_code error;
    return file.empty() || !fs::exists(file, error) ? "" : fmt::format("{:016x}", hashFile(file));
}

} // namespace

fs::path autosavePath(const fs::path& file) {
    return fs::path(file.string() + std::string(ending));
}

void autosave(const Project& project, const Documents& documents, const fs::path& path) {
    auto json = toJson(project);
    json[std::string(basedOn)] = versionOf(project.file);
    if (auto unsaved = documents.unsavedJson(); !unsaved.empty())
        json[std::string(unsavedDocuments)] = std::move(unsaved);
    writeFile(path, jsonText(json, 2) + "\n");
}

void takeUpDocuments(const fs::path& path, Documents& documents) {
    if (const auto json = parsedJson(readText(path)); json.contains(unsavedDocuments))
        documents.takeUp(json[std::string(unsavedDocuments)]);
}

bool hasUnsavedWork(const fs::path& file) {
    const fs::path path = autosavePath(file);
    std::error_code error;
    if (!fs::exists(path, error)) return false;
    try {
        const auto json = parsedJson(readText(path));
        const std::string version = json.value(std::string(basedOn), "");
        if (version.empty() || version != versionOf(file)) return false;
        return json.contains(unsavedDocuments) || toJson(load(path)) != toJson(load(file));
    } catch (const std::exception&) {
        return false;
    }
}

} // namespace zl::project
