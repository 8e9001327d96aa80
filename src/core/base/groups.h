#pragma once
#include <algorithm>
#include <cstdint>
#include <numeric>
#include <vector>

namespace zl {

/// Numbers that are put together into groups (disjoint sets with path halving, Tarjan and van Leeuwen 1984).
class Groups {
public:
    explicit Groups(std::size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), 0u); }
    /// The least number of the group that `i` is in.
    std::uint32_t of(std::uint32_t i) {
        while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
        return i;
    }
    void join(std::uint32_t a, std::uint32_t b) {
        a = of(a), b = of(b);
        parent_[std::max(a, b)] = std::min(a, b);
    }

private:
    std::vector<std::uint32_t> parent_;
};

} // namespace zl
