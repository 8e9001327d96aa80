#include "core/files/limits.h"

#include "core/base/error.h"
#include "core/base/units.h"

#include <fmt/format.h>

#include <algorithm>

namespace zl::files {

namespace {
constexpr const char* mend = "Unpack it first if you trust it.";
}

void Limits::checkEntries(std::size_t count, const std::string& where) const {
    if (count > entries)
        throw OverLimit(fmt::format("holds more than {}", showCount(long(entries), "file", "files")), where,
                        mend);
}

void Limits::checkBytes(std::uint64_t unpacked, std::string_view name, const std::string& where) const {
    if (unpacked > bytes)
        throw OverLimit(
            fmt::format("holds \"{}\", which unpacks to more than {}", name, showBytes(double(bytes))), where,
            mend);
}

void Limits::checkRatio(std::uint64_t unpacked, std::uint64_t packed, std::string_view name,
                        const std::string& where) const {
    if (unpacked > freeOfRatio && double(unpacked) > ratio * double(std::max<std::uint64_t>(packed, 1)))
        throw OverLimit(
            fmt::format("holds \"{}\", which unpacks to more than {} times its size", name, ratio), where,
            mend);
}

} // namespace zl::files
