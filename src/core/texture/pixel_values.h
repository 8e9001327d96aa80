#pragma once
#include "core/texture/colour_transfer.h"
#include "core/texture/resized.h"

namespace zl::texture {

// A pixel's four bytes as numbers that may be mixed, and back.

/// 0–1 a channel; of colours red, green and blue as light.
inline glm::vec4 valueOf(const std::uint8_t* pixel, PixelKind kind) {
    const bool light = kind == PixelKind::Colours;
    const auto share = [&](std::uint8_t byte) { return light ? lightOf(byte) : float(byte) / 255; };
    return {share(pixel[0]), share(pixel[1]), share(pixel[2]), float(pixel[3]) / 255};
}

/// Directions are brought back to length 1; one of no length becomes straight up.
inline void putValue(std::uint8_t* pixel, glm::vec4 value, PixelKind kind) {
    if (kind == PixelKind::Normals) {
        const glm::vec3 direction = glm::vec3(value) * 2.0f - 1.0f;
        const float length = glm::length(direction);
        value =
            glm::vec4(length > 1e-6f ? direction / length * 0.5f + 0.5f : glm::vec3(0.5f, 0.5f, 1), value.a);
    }
    for (int k = 0; k < 3; ++k)
        pixel[k] = kind == PixelKind::Colours ? toSrgbByte(value[k]) : toByte(value[k]);
    pixel[3] = toByte(value[3]);
}

} // namespace zl::texture
