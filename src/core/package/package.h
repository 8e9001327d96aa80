#pragma once
#include "core/base/progress.h"
#include "core/files/limits.h"
#include "core/files/resource_key.h"
#include "core/files/sqlite.h"

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

/// Row packages: resources of a game's item that refer to one another (docs/formats/row-package.md).
namespace zl::package {

using files::ResourceKey;
using files::ResourceKind;

struct Resource {
    ResourceKey key;
    std::string name;
    std::shared_ptr<const std::string> bytes; ///< shared, for most stay as they are
};

/// A package with all its bytes.
struct Package {
    std::filesystem::path file;
    std::string maker;  ///< who made this package
    std::string credit; ///< whom it was made after, and on what terms; empty for nobody
    std::vector<Resource> resources;

    const Resource* resource(const ResourceKey& key) const;
    Resource* resource(const ResourceKey& key);
    /// The first of the kind; null when there is none.
    const Resource* first(ResourceKind kind) const;
};

/// Reads all of it. Throws Error for what is no package or cannot be read, OverLimit when it holds more bytes
/// than a package may: half a gigabyte, unless the limits are those for archives that are trusted.
Package readPackage(const std::filesystem::path& file, const files::Limits& limits,
                    const Progress& progress = {});

/// An item of a package or a catalogue: the resource, the entry that refers to it, and everything that these
/// refer to, in the file's order.
Package readItem(const std::filesystem::path& file, const ResourceKey& key, const files::Limits& limits,
                 const Progress& progress = {});

/// The package as the bytes of a file.
std::string bytesOf(const Package& package);
/// Makes its tables in an empty database.
void writeInto(const files::Database& database, const Package& package);

/// What other packages must not use again.
struct Index {
    std::filesystem::path file;
    std::vector<std::pair<ResourceKey, std::string>> resources; ///< keys and names
};
Index indexOf(const Package& package);
/// Without reading the resources themselves; throws as readPackage does.
Index readIndex(const std::filesystem::path& file, const files::Limits& limits,
                const Progress& progress = {});
/// Whether the file has a resource of this key that is the same to the byte: the same one, and not another that
/// took its number.
bool hasSame(const std::filesystem::path& file, const Resource& resource);
/// Of all packages and catalogues in a folder but `file`; what cannot be read is left out.
std::vector<Index> indicesBeside(const std::filesystem::path& file, const Progress& progress = {});

} // namespace zl::package
