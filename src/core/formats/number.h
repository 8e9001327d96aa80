#pragma once
#include <bit>
#include <charconv>
#include <cstdint>
#include <cstring>

namespace zl::formats {

/// Appends the decimal digits at `at` to `sum` and returns the character behind them. Takes up to eight at
/// once: their bytes are added up in pairs, fours and eights within one 64-bit number.
inline const char* appendDigits(const char* at, const char* end, std::uint64_t& sum) {
    static constexpr std::uint64_t powers[] = {1, 10, 100, 1000, 10000, 100000, 1000000, 10000000, 100000000};
    static_assert(std::endian::native == std::endian::little);
    while (end - at >= 8) {
        std::uint64_t eight;
        std::memcpy(&eight, at, 8);
        eight ^= 0x3030303030303030u; // a digit's byte is its value now
        // The top bit of each byte that is no digit; a carry can only spoil bytes behind the first of them.
        const std::uint64_t others = ((eight + 0x7676767676767676u) | eight) & 0x8080808080808080u;
        const int count = others ? std::countr_zero(others) / 8 : 8;
        if (count == 0) return at;
        eight <<= 8 * (8 - count); // as if zeros stood in front
        eight = eight * 10 + (eight >> 8);
        eight = ((eight & 0x000000ff000000ffu) * 0x000f424000000064u +
                 ((eight >> 16) & 0x000000ff000000ffu) * 0x0000271000000001u) >>
                32;
        sum = sum * powers[count] + eight;
        at += count;
        if (count < 8) return at;
    }
    for (unsigned d; at < end && (d = static_cast<unsigned>(*at) - '0') < 10u; ++at) sum = sum * 10 + d;
    return at;
}

/// Reads a decimal number at `at` the short way. Null when the text is not of the simple sort this handles
/// exactly (up to 19 digits, a small exponent); std::from_chars decides then.
///
/// Correctly rounded: with the digits below 2^53 and a power of ten up to 10^22 both exact, one division or
/// multiplication gives the nearest double (Clinger, "How to read floating point numbers accurately", 1990);
/// rounding that once more to float is right unless it lies exactly between two floats, which is passed on.
inline const char* shortFloat(const char* at, const char* end, float& value) {
    static constexpr double powers[] = {1e0,  1e1,  1e2,  1e3,  1e4,  1e5,  1e6,  1e7,
                                        1e8,  1e9,  1e10, 1e11, 1e12, 1e13, 1e14, 1e15,
                                        1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22};
    const char* p = at;
    const bool negative = p < end && *p == '-';
    p += negative;
    std::uint64_t digits = 0;
    const auto run = [&] {
        const char* start = p;
        p = appendDigits(p, end, digits);
        return static_cast<int>(p - start);
    };
    const int whole = run();
    int fraction = 0;
    if (p < end && *p == '.') {
        ++p;
        fraction = run();
    }
    if (whole + fraction == 0 || whole + fraction > 19 || digits > (1ull << 53)) return nullptr;
    int exponent = 0;
    if (p < end && (*p | 0x20) == 'e') {
        const char* sign = ++p;
        if (p < end && (*p == '-' || *p == '+')) ++p;
        const char* start = p;
        for (unsigned d; p < end && (d = static_cast<unsigned>(*p) - '0') < 10u && p - start < 4; ++p)
            exponent = exponent * 10 + static_cast<int>(d);
        if (p == start) return nullptr;
        if (*sign == '-') exponent = -exponent;
    }
    exponent -= fraction;
    if (exponent < -22 || exponent > 22) return nullptr;
    const double exact =
        exponent < 0 ? double(digits) / powers[-exponent] : double(digits) * powers[exponent];
    if (exact != 0 && (exact < 1.2e-38 || exact > 3.4e38)) return nullptr;
    if ((std::bit_cast<std::uint64_t>(exact) & 0x1fffffff) == 0x10000000) return nullptr;
    value = negative ? -static_cast<float>(exact) : static_cast<float>(exact);
    return p;
}

/// The same for whole numbers of up to nine digits.
inline const char* shortInt(const char* at, const char* end, int& value) {
    const char* p = at;
    const bool negative = p < end && *p == '-';
    p += negative;
    std::uint64_t sum = 0;
    const char* after = appendDigits(p, end, sum);
    if (after == p || after - p > 9) return nullptr;
    value = negative ? -static_cast<int>(sum) : static_cast<int>(sum);
    return after;
}

} // namespace zl::formats
