#pragma once
#include "core/base/file_bytes.h"
#include "core/base/progress.h"
#include "core/files/limits.h"

#include <memory>
#include <optional>
#include <string>

struct archive;
struct archive_entry;

namespace zl::files {

/// Goes through an archive from its start, as libarchive reads it, in the words and limits of this program.
class ArchiveReader {
public:
    /// What the head of an entry says.
    struct Head {
        std::string name; ///< as it stands there, in UTF-8
        std::uint64_t bytes = 0;
        bool file = false; ///< neither a folder nor a link nor a device
        bool locked = false;
    };

    /// On the disk.
    ArchiveReader(const std::filesystem::path& file, const Limits& limits);
    /// In memory, which must outlive it; `where` names it in messages.
    ArchiveReader(const FileBytes& bytes, std::string where, const Limits& limits);
    ~ArchiveReader();

    /// The next entry; nothing at the end. Throws Error when the archive is broken there.
    std::optional<Head> next();
    /// The bytes of the entry whose head came last. Throws Error when it is locked, broken or over a limit.
    FileBytes bytes(const Head& head, const Progress& progress);

private:
    void open(int result);
    [[noreturn]] void fail(const std::string& what, const std::string& mend) const;

    std::string where_;
    Limits limits_;
    std::uint64_t packed_ = 0;   ///< bytes of the archive
    std::uint64_t promised_ = 0; ///< bytes of the entries so far, by their heads
    archive* archive_ = nullptr;
    archive_entry* entry_ = nullptr;
};

} // namespace zl::files
