#pragma once
#include "core/base/unique_names.h"

#include <string>
#include <string_view>

namespace zl::files {

/// A relative path that every system can have below a folder: a part that is a device's name, ends in dots or
/// blanks, or holds colons, quotes, question marks or control letters is written otherwise. `path` is in
/// normal form; so is what comes back, with as many parts, each at most 200 bytes long.
std::string safePath(std::string_view path);

/// Names that are given out once each, without regard to case, as some disks have it.
class UniquePaths {
public:
    /// One that is taken already.
    void take(std::string_view path);
    /// `path`, or the same with a number before its ending when that is taken.
    std::string given(const std::string& path);

private:
    static std::string beforeEnding(const std::string& path, int number);

    UniqueNames known_{beforeEnding}; ///< in small letters
};

} // namespace zl::files
