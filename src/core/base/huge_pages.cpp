#include "core/base/huge_pages.h"

#include <cstdint>
#include <sys/mman.h>

namespace zl {

void preferHugePages(void* data, std::size_t bytes) {
    constexpr std::uintptr_t page = 2u << 20;
    const auto start = reinterpret_cast<std::uintptr_t>(data);
    const std::uintptr_t first = (start + page - 1) & ~(page - 1), last = (start + bytes) & ~(page - 1);
    if (last > first) ::madvise(reinterpret_cast<void*>(first), last - first, MADV_HUGEPAGE);
}

} // namespace zl
