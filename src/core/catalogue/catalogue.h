#pragma once
#include "core/base/progress.h"
#include "core/files/resource_key.h"
#include "core/package/package.h"

#include <filesystem>
#include <string>
#include <vector>

/// A game's catalogue: thousands of items with coded names (docs/formats/row-package.md).
namespace zl::catalogue {

/// One item as the catalogue lists it.
struct Entry {
    std::int64_t number = 0;
    std::string code;  ///< the game's own name for it, a prefix in front
    std::string title; ///< for people; the code where there is none
    std::string pack;  ///< what it came with
    std::string kind;  ///< "loose" or "worn"
    std::string place; ///< of a worn one: what it claims, as "shoulder, left"
    std::string bone;  ///< of a worn one: what it hangs on
    std::string maker; ///< empty where the game itself made it
    std::string licence;
    std::string permission;      ///< as the project has it: "allowed", "ask-first" …
    std::string link;            ///< where its maker is found
    std::int64_t added = 0;      ///< seconds since 1970
    std::uint64_t thumbnail = 0; ///< number of a picture resource; 0 for none
    std::uint64_t resource = 0;  ///< number of the entry resource that names its geometry

    /// Who is to be asked and named.
    bool isOthersWork() const { return !maker.empty(); }
};

enum class Order { Name, Pack, Newest };

/// A catalogue, opened for reading. Not for several threads at once.
class Catalogue {
public:
    /// Reads all entries. Throws Error when it has no table of entries, or one that lacks number and code.
    Catalogue(const std::filesystem::path& file, const files::Limits& limits, const Progress& progress = {});

    const std::filesystem::path& file() const { return file_; }
    const std::vector<Entry>& entries() const { return entries_; }

    /// Places of the entries of which each word of `text` begins a word of title, code or pack, without
    /// regard to case and accents; a code is also taken apart at its hyphens and capitals. All for no word.
    /// In rising order.
    std::vector<std::uint32_t> find(std::string_view text) const;
    /// All places in the order that people look for.
    std::vector<std::uint32_t> ordered(Order order) const;

    /// An entry's picture file; empty where there is none.
    std::string thumbnail(const Entry& entry) const;
    /// Its geometry as an address within the catalogue ("geometry/crab-basket.rowmesh"). Throws Error where
    /// the entry's resources are not there.
    std::string geometryOf(const Entry& entry) const;

private:
    void index(const Progress& progress);

    std::filesystem::path file_;
    files::Limits limits_;
    files::Database database_, words_; ///< the file; FTS5 over its words, in memory
    std::vector<Entry> entries_;
};

/// A catalogue as the bytes of a file, with the resources that its entries name.
std::string bytesOf(const std::vector<Entry>& entries, const package::Package& resources);

/// Whether the file is an SQLite file with a table of entries.
bool isCatalogue(const std::filesystem::path& file);

} // namespace zl::catalogue
