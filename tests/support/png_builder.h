#pragma once
#include <cstdint>
#include <string>
#include <vector>

/// PNG files of every kind of pixel, put together by hand (PNG 1.2; deflate's stored blocks, RFC 1950 and
/// 1951).
namespace pngs {

inline std::string big(std::uint32_t value, int bytes = 4) {
    std::string out;
    for (int i = bytes - 1; i >= 0; --i) out += char(value >> (8 * i) & 255);
    return out;
}

inline std::string chunk(const std::string& name, const std::string& body) {
    std::uint32_t crc = ~0u;
    for (const char c : name + body) {
        crc ^= static_cast<unsigned char>(c);
        for (int k = 0; k < 8; ++k) crc = crc & 1 ? 0xedb88320u ^ crc >> 1 : crc >> 1;
    }
    return big(std::uint32_t(body.size())) + name + body + big(~crc);
}

inline std::string stored(const std::string& raw) {
    std::string out("\x78\x01");
    for (std::size_t at = 0; at < raw.size() || at == 0; at += 65535) {
        const std::size_t size = std::min<std::size_t>(65535, raw.size() - at);
        out += char(at + size >= raw.size());
        out += {char(size & 255), char(size >> 8), char(~size & 255), char(~size >> 8 & 255)};
        out += raw.substr(at, size);
    }
    std::uint32_t a = 1, b = 0;
    for (const char c : raw) a = (a + static_cast<unsigned char>(c)) % 65521, b = (b + a) % 65521;
    return out + big(b << 16 | a);
}

struct Kind {
    int width, height, depth, colour; ///< bits a channel; 0 grey, 2 RGB, 3 palette, 4 grey and alpha, 6 RGBA
    bool interlaced = false;
    std::string before{}; ///< chunks before the pixels
};

/// `rows` without the byte for a filter in front of each.
inline std::string file(const Kind& kind, const std::vector<std::string>& rows) {
    std::string raw;
    for (const std::string& row : rows) raw += '\0' + row;
    return "\x89PNG\r\n\x1a\n" +
           chunk("IHDR", big(std::uint32_t(kind.width)) + big(std::uint32_t(kind.height)) + char(kind.depth) +
                             char(kind.colour) + std::string(2, '\0') + char(kind.interlaced)) +
           kind.before + chunk("IDAT", stored(raw)) + chunk("IEND", {});
}

} // namespace pngs
