#pragma once
#include <glm/glm.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

namespace zl::texture {

// Between linear light and the curve that sRGB keeps colours in (IEC 61966-2-1).

inline float toSrgb(float linear) {
    return linear <= 0.0031308f ? 12.92f * linear : 1.055f * std::pow(linear, 1 / 2.4f) - 0.055f;
}
inline float fromSrgb(float encoded) {
    return encoded <= 0.04045f ? encoded / 12.92f : std::pow((encoded + 0.055f) / 1.055f, 2.4f);
}

inline glm::vec3 fromSrgb(const glm::vec3& encoded) {
    return {fromSrgb(encoded.r), fromSrgb(encoded.g), fromSrgb(encoded.b)};
}

/// The same for a byte, from a table: pow() for every channel of every pixel would take most of a picture's
/// time.
inline const std::array<float, 256> lightOfBytes = [] {
    std::array<float, 256> out{};
    for (int i = 0; i < 256; ++i) out[std::size_t(i)] = fromSrgb(float(i) / 255);
    return out;
}();
inline float lightOf(std::uint8_t encoded) {
    return lightOfBytes[encoded];
}

/// A share of 0–1 as a byte, to the nearest; what is outside is taken as the end it is beyond, no number as
/// 0.
inline std::uint8_t toByte(float share) {
    return share > 0 ? static_cast<std::uint8_t>(255 * std::min(share, 1.0f) + 0.5f) : std::uint8_t(0);
}

struct SrgbBytes {
    std::array<float, 255> border{}; ///< from which value on the next byte is nearer
    std::array<std::uint8_t, 4097> guess{};
    SrgbBytes() {
        for (int i = 0; i < 255; ++i) border[std::size_t(i)] = fromSrgb((float(i) + 0.5f) / 255);
        for (int i = 0; i <= 4096; ++i) guess[std::size_t(i)] = toByte(toSrgb(float(i) / 4096));
    }
};
inline const SrgbBytes srgbBytes;

/// toByte(toSrgb(linear)) without pow: a guess from a table, mended by where the bytes meet.
inline std::uint8_t toSrgbByte(float linear) {
    if (!(linear > 0)) return 0;
    if (linear >= 1) return 255;
    std::size_t byte = srgbBytes.guess[std::size_t(linear * 4096)];
    while (byte < 255 && linear >= srgbBytes.border[byte]) ++byte;
    while (byte > 0 && linear < srgbBytes.border[byte - 1]) --byte;
    return std::uint8_t(byte);
}

} // namespace zl::texture
