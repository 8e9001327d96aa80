#pragma once
#include "core/base/error.h"

#include <cstddef>
#include <cstdint>
#include <string>
#include <string_view>

namespace zl::files {

/// A container holds more than is read out of one that nobody vouched for.
class OverLimit : public Error {
public:
    using Error::Error;
};

/// What is read out of archives and packages at most, so that a small hostile file cannot fill the memory.
struct Limits {
    std::size_t entries = 200'000;                ///< of one archive
    std::uint64_t bytes = std::uint64_t(4) << 30; ///< of one file out of it
    double ratio = 250;                    ///< unpacked to packed bytes, of a file that is larger than…
    std::uint64_t freeOfRatio = 64u << 20; ///< … this
    int depth = 4;                         ///< archives within archives

    /// Of an archive that somebody trusts.
    static Limits trusting() {
        return {.entries = 50'000'000,
                .bytes = std::uint64_t(64) << 30,
                .ratio = 1e6,
                .freeOfRatio = std::uint64_t(64) << 30,
                .depth = 32};
    }

    // Each throws OverLimit; `where` names the container, `name` a file in it.
    void checkEntries(std::size_t count, const std::string& where) const;
    void checkBytes(std::uint64_t unpacked, std::string_view name, const std::string& where) const;
    void checkRatio(std::uint64_t unpacked, std::uint64_t packed, std::string_view name,
                    const std::string& where) const;
};

} // namespace zl::files
