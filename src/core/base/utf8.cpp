#include "core/base/utf8.h"

namespace zl {

namespace {

unsigned byteAt(std::string_view text, std::size_t i) {
    return static_cast<unsigned char>(text[i]);
}

/// Bytes of the letter that begins at `at`; 0 when none does.
std::size_t lengthAt(std::string_view text, std::size_t at) {
    const unsigned first = byteAt(text, at);
    if (first < 0x80) return 1;
    const std::size_t length = first >= 0xc2 && first < 0xe0   ? 2
                               : (first & 0xf0) == 0xe0        ? 3
                               : first >= 0xf0 && first < 0xf5 ? 4
                                                               : 0;
    if (length == 0 || at + length > text.size()) return 0;
    for (std::size_t k = 1; k < length; ++k)
        if ((byteAt(text, at + k) & 0xc0) != 0x80) return 0;
    const unsigned second = byteAt(text, at + 1);
    const bool wrong = (first == 0xe0 && second < 0xa0) || (first == 0xed && second >= 0xa0) ||
                       (first == 0xf0 && second < 0x90) || (first == 0xf4 && second >= 0x90);
    return wrong ? 0 : length;
}

} // namespace

bool isUtf8(std::string_view bytes) {
    for (std::size_t at = 0; at < bytes.size();) {
        const std::size_t length = lengthAt(bytes, at);
        if (length == 0) return false;
        at += length;
    }
    return true;
}

std::string asUtf8(std::string_view bytes) {
    if (isUtf8(bytes)) return std::string(bytes);
    std::string out;
    for (const char c : bytes) appendUtf8(out, static_cast<unsigned char>(c));
    return out;
}

std::string asUtf8FromZip(std::string_view bytes) {
    static constexpr std::u32string_view upper = U"ÇüéâäàåçêëèïîìÄÅÉæÆôöòûùÿÖÜ¢£¥₧ƒ"
                                                 U"áíóúñÑªº¿⌐¬½¼¡«»░▒▓│┤╡╢╖╕╣║╗╝╜╛┐"
                                                 U"└┴┬├─┼╞╟╚╔╩╦╠═╬╧╨╤╥╙╘╒╓╫╪┘┌█▄▌▐▀"
                                                 U"αßΓπΣσµτΦΘΩδ∞φε∩≡±≥≤⌠⌡÷≈°∙·√ⁿ²■ ";
    static_assert(upper.size() == 128);
    if (isUtf8(bytes)) return std::string(bytes);
    std::string out;
    for (const char c : bytes) {
        const auto byte = static_cast<unsigned char>(c);
        appendUtf8(out, byte < 128 ? char32_t(byte) : upper[byte - 128u]);
    }
    return out;
}

void appendUtf8(std::string& out, char32_t c) {
    if (c < 0x80) {
        out += static_cast<char>(c);
    } else if (c < 0x800) {
        out += static_cast<char>(0xc0 | c >> 6);
        out += static_cast<char>(0x80 | (c & 0x3f));
    } else if (c < 0x10000) {
        out += static_cast<char>(0xe0 | c >> 12);
        out += static_cast<char>(0x80 | (c >> 6 & 0x3f));
        out += static_cast<char>(0x80 | (c & 0x3f));
    } else {
        out += static_cast<char>(0xf0 | c >> 18);
        out += static_cast<char>(0x80 | (c >> 12 & 0x3f));
        out += static_cast<char>(0x80 | (c >> 6 & 0x3f));
        out += static_cast<char>(0x80 | (c & 0x3f));
    }
}

std::string shortened(std::string_view text, std::size_t most) {
    if (text.size() <= most) return std::string(text);
    std::size_t end = most;
    while (end > 0 && (byteAt(text, end) & 0xc0) == 0x80) --end;
    return std::string(text.substr(0, end)) + "…";
}

} // namespace zl
