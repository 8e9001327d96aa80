#pragma once
#include "core/base/file_bytes.h"
#include "core/base/progress.h"
#include "core/files/terms.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace zl::files {

/// A file in a folder, an archive or a package.
struct Entry {
    std::string path; ///< below its container: UTF-8, '/' between folders, no "." and ".."
    std::uint64_t bytes = 0;
    bool locked = false; ///< encrypted: it cannot be opened without its key
};

/// One that is not listed, and why.
struct Passed {
    std::string path;
    std::string why;
};

/// Files that lie together: in a folder, an archive or a package. Not for several threads at once.
class Files {
public:
    virtual ~Files() = default;

    /// Every file, folders and links left out, in the container's own order. Looked up once, when first asked
    /// for. Throws Error when the container cannot be read or holds more than the limits allow.
    virtual const std::vector<Entry>& list() const = 0;
    /// What list() leaves out: names that climb out of the container, names that stand there twice.
    virtual const std::vector<Passed>& passedOver() const = 0;

    /// The bytes of a listed file. Throws Error when there is none of this path, when it is locked, broken or
    /// larger than the limits allow, and when the container was changed since it was listed.
    virtual FileBytes open(std::string_view path, const Progress& progress = {}) const = 0;

    /// Changes when the file may have changed; "missing" for one that is not there.
    virtual std::string stamp(std::string_view path) const = 0;

    /// The file that `name` means in a file of `folder`: as written, with '/' for '\', by its bare name, then
    /// the same without regard to case.
    virtual std::optional<std::string> find(std::string_view folder, std::string_view name) const;

private:
    mutable std::multimap<std::string, const Entry*> bySmallLetters_; ///< made when first looked for
};

/// A folder of the disk and all below it.
std::unique_ptr<Files> folderFiles(const std::filesystem::path& folder, const Terms& terms = {});

/// An archive (zip, 7z, tar, also packed) or a package (an SQLite file with the table of files of SQLite's
/// own archives) on the disk. Throws Error when it is neither.
std::unique_ptr<Files> filesIn(const std::filesystem::path& file, const Terms& terms = {});

/// An archive that was itself taken out of something; `where` names it in messages.
std::unique_ptr<Files> filesIn(FileBytes bytes, std::string where, const Terms& terms = {});

/// A path in normal form: '/' for '\', no empty parts, no "."; ".." takes a part away. Nothing when it is
/// empty or climbs out.
std::optional<std::string> normalPath(std::string_view path);

} // namespace zl::files
