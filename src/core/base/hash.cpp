#include "core/base/hash.h"

#include "core/base/file_bytes.h"

#define XXH_INLINE_ALL
#include <xxhash.h>

namespace zl {

Hash hashBytes(const void* data, std::size_t size, Hash seed) {
    return XXH3_64bits_withSeed(data, size, seed);
}

Hash hashFile(const std::filesystem::path& path, Hash seed) {
    const FileBytes file(path);
    return hashText(file.text(), seed);
}

} // namespace zl
