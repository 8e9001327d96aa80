#pragma once
#include <cstddef>
#include <vector>

namespace zl {

/// Asks the system to back a block of memory with large pages. Touching tens of megabytes for the first time
/// costs more in page faults than in work otherwise. Does nothing for small blocks or where it is not to be
/// had.
void preferHugePages(void* data, std::size_t bytes);

/// `vector.resize(count)` on memory that large pages were asked for.
template <class T>
void resizeBig(std::vector<T>& vector, std::size_t count) {
    vector.reserve(count);
    preferHugePages(vector.data(), count * sizeof(T));
    vector.resize(count);
}

} // namespace zl
