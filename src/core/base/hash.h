#pragma once
#include <cstdint>
#include <filesystem>
#include <string_view>

namespace zl {

/// A 64-bit content hash (XXH3): for caches and change detection, not for security.
using Hash = std::uint64_t;

Hash hashBytes(const void* data, std::size_t size, Hash seed = 0);
inline Hash hashText(std::string_view text, Hash seed = 0) {
    return hashBytes(text.data(), text.size(), seed);
}
/// Hash of a file's bytes; throws Error when it cannot be read.
Hash hashFile(const std::filesystem::path& path, Hash seed = 0);

} // namespace zl
