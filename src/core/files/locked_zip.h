#pragma once
#include "core/files/terms.h"

#include "core/base/file_bytes.h"
#include "core/base/progress.h"

#include <functional>
#include <map>
#include <string_view>

struct zip;
struct zip_error;
struct zip_source;

namespace zl::files {

/// The locked files of a zip (AES, or the format's old cipher), as libzip opens them: unlike the library that
/// lists archives it wipes the key, and tells a wrong key from a broken file.
class LockedZip {
public:
    LockedZip(const std::filesystem::path& file, const Terms& terms);
    /// In memory, which must outlive it; `where` names it in messages.
    LockedZip(const FileBytes& bytes, std::string where, const Terms& terms);
    ~LockedZip();
    LockedZip(const LockedZip&) = delete;

    /// `path` in normal form. Throws KeyNeeded without the right key, Error when it is broken or over a
    /// limit.
    FileBytes open(std::string_view path, const Progress& progress);

private:
    void openFrom(const std::function<zip_source*(zip_error&)>& made);
    void list();
    [[noreturn]] void fail(std::string_view path, const std::string& why) const;

    std::string where_;
    Terms terms_;
    zip* zip_ = nullptr;
    std::map<std::string, std::uint64_t, std::less<>> places_;
};

} // namespace zl::files
