#pragma once
#include <algorithm>
#include <bit>
#include <cstdint>
#include <string>
#include <string_view>

namespace zl::formats {

/// Appends numbers, the high byte first.
class KartNumbers {
public:
    KartNumbers& u8(unsigned value) {
        out_ += char(value & 255u);
        return *this;
    }
    KartNumbers& i8(long value) { return u8(unsigned(std::clamp(value, -127l, 127l))); }
    KartNumbers& u16(unsigned value) { return u8(value >> 8).u8(value); }
    KartNumbers& i16(long value) { return u16(unsigned(std::clamp(value, -32768l, 32767l))); }
    KartNumbers& u32(std::uint32_t value) { return u16(value >> 16).u16(value & 65535u); }
    KartNumbers& f32(float value) { return u32(std::bit_cast<std::uint32_t>(value)); }
    KartNumbers& text(std::string_view bytes) {
        out_ += bytes;
        return *this;
    }
    /// A length below 256 and the bytes of a name; a longer one is cut between letters.
    KartNumbers& name(std::string_view name) {
        std::size_t length = std::min<std::size_t>(name.size(), 255);
        while (length < name.size() && length > 0 && (std::uint8_t(name[length]) & 0xc0u) == 0x80u) --length;
        return u8(unsigned(length)).text(name.substr(0, length));
    }
    std::string take() { return std::move(out_); }

private:
    std::string out_;
};

} // namespace zl::formats
