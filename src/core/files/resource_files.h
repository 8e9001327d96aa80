#pragma once
#include "core/files/listing.h"
#include "core/files/resource_key.h"
#include "core/files/sqlite.h"

namespace zl::files {

/// The resources of a row package as files: "geometry/fish-barrel.rowmesh". One refers to another by its key,
/// as text, or by kind and name, "04@fish-barrel-wood": both are found here as if they were names of files.
class ResourceFiles final : public ListedFiles {
public:
    /// Throws Error when the file is no SQLite file with a table of resources.
    ResourceFiles(const std::filesystem::path& file, const Limits& limits);

    FileBytes open(std::string_view path, const Progress& progress = {}) const override;
    std::optional<std::string> find(std::string_view folder, std::string_view name) const override;
    /// The key of the resource at a listed path; nothing when there is none.
    std::optional<ResourceKey> keyAt(std::string_view path) const;

private:
    std::filesystem::path file_;
    Database database_;
    std::map<std::string, std::string, std::less<>> paths_; ///< by key and by kind and name
    std::map<std::string, ResourceKey, std::less<>> keys_;  ///< by path
};

} // namespace zl::files
