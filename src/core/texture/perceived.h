#pragma once
#include <glm/glm.hpp>

#include <cmath>

namespace zl::texture {

/// A colour of linear light (0 to 1) where equal distances look about equally different: lightness, green to
/// red, blue to yellow (Oklab, Ottosson 2020).
inline glm::vec3 perceived(const glm::vec3& light) {
    const float l = std::cbrt(0.4122214708f * light.r + 0.5363325363f * light.g + 0.0514459929f * light.b),
                m = std::cbrt(0.2119034982f * light.r + 0.6806995451f * light.g + 0.1073969566f * light.b),
                s = std::cbrt(0.0883024619f * light.r + 0.2817188376f * light.g + 0.6299787005f * light.b);
    return {0.2104542553f * l + 0.7936177850f * m - 0.0040720468f * s,
            1.9779984951f * l - 2.4285922050f * m + 0.4505937099f * s,
            0.0259040371f * l + 0.7827717662f * m - 0.8086757660f * s};
}

} // namespace zl::texture
