#pragma once
#include <bit>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace zl::geometry {

/// Open-addressing set of numbers (of corners, of triangles); the caller supplies hash and equality. Fixed
/// size, made for at most `count` entries; ~0 cannot be stored.
class NumberTable {
public:
    explicit NumberTable(std::size_t count) : slots_(std::bit_ceil(count + count / 2 + 16), nobody) {}

    /// The stored number equal to `number`, or `number` itself after storing it.
    template <class Equal>
    std::uint32_t findOrAdd(std::uint64_t hash, std::uint32_t number, const Equal& equal) {
        const std::size_t mask = slots_.size() - 1;
        for (std::size_t at = hash & mask;; at = (at + 1) & mask) {
            if (slots_[at] == nobody) return slots_[at] = number;
            if (equal(slots_[at])) return slots_[at];
        }
    }
    void prefetch(std::uint64_t hash) const { __builtin_prefetch(&slots_[hash & (slots_.size() - 1)]); }

private:
    static constexpr std::uint32_t nobody = ~0u;
    std::vector<std::uint32_t> slots_;
};

/// The finaliser of splitmix64 (Steele, Lea, Flood 2014): every bit of `x` counts in every bit of the result.
inline std::uint64_t mixed(std::uint64_t x) {
    x ^= x >> 30;
    x *= 0xbf58476d1ce4e5b9ull;
    x ^= x >> 27;
    x *= 0x94d049bb133111ebull;
    return x ^ (x >> 31);
}

} // namespace zl::geometry
