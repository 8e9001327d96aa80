#pragma once
#include "core/base/hash.h"

#include <glm/glm.hpp>

#include <cstdint>

namespace zl::solids {

/// Shares of 0 to 1 by a number, alike in every run: a well-mixed hash (after Steele and others' SplitMix64,
/// OOPSLA 2014).
inline std::uint64_t mixed(std::uint64_t value) {
    value += 0x9e3779b97f4a7c15ull;
    value = (value ^ value >> 30) * 0xbf58476d1ce4e5b9ull;
    value = (value ^ value >> 27) * 0x94d049bb133111ebull;
    return value ^ value >> 31;
}
inline glm::dvec2 sharesOf(std::uint64_t value) {
    constexpr double one = 1.0 / 4294967296.0;
    const std::uint64_t bits = mixed(value);
    return {double(bits >> 32) * one, double(bits & 0xffffffffu) * one};
}

/// Place `index` of a row that fills the square evenly however far one goes along it (Roberts 2018, from the
/// plastic number), moved around by `start`.
inline glm::dvec2 evenly(int index, const glm::dvec2& start) {
    return glm::fract(start + double(index) * glm::dvec2(0.7548776662466927, 0.5698402909980532));
}

} // namespace zl::solids
