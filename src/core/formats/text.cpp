#include "core/formats/text.h"

#include "core/base/utf8.h"

namespace zl::formats {

std::string_view textOf(const FileBytes& file, std::string& storage) {
    const std::string_view bytes = file.text();
    if (bytes.starts_with("\xef\xbb\xbf")) return bytes.substr(3);
    const bool little = bytes.starts_with("\xff\xfe"), big = bytes.starts_with("\xfe\xff");
    if (!little && !big) return bytes;
    storage.clear();
    storage.reserve(bytes.size() / 2);
    const auto unit = [&](std::size_t i) {
        const auto a = static_cast<unsigned char>(bytes[i]), b = static_cast<unsigned char>(bytes[i + 1]);
        return std::uint32_t(little ? a | b << 8 : a << 8 | b);
    };
    for (std::size_t i = 2; i + 1 < bytes.size(); i += 2) {
        std::uint32_t c = unit(i);
        if (c >= 0xd800 && c < 0xdc00 && i + 3 < bytes.size()) {
            const std::uint32_t low = unit(i + 2);
            c = low >= 0xdc00 && low < 0xe000 ? 0x10000 + ((c - 0xd800) << 10) + (low - 0xdc00) : 0xfffd;
            i += 2;
        }
        if (c >= 0xd800 && c < 0xe000) c = 0xfffd; // half of a pair
        appendUtf8(storage, c);
    }
    return storage;
}

} // namespace zl::formats
