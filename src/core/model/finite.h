#pragma once
#include <glm/glm.hpp>

#include <cmath>

namespace zl {

template <int n, class T>
bool isFinite(const glm::vec<n, T>& v) {
    for (int k = 0; k < n; ++k)
        if (!std::isfinite(v[k])) return false;
    return true;
}

template <int c, int r, class T>
bool isFinite(const glm::mat<c, r, T>& m) {
    for (int k = 0; k < c; ++k)
        if (!isFinite(m[k])) return false;
    return true;
}

} // namespace zl
