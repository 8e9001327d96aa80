#include "core/files/resource_key.h"

#include <fmt/format.h>

#include <array>
#include <charconv>

namespace zl::files {

namespace {

constexpr std::array<std::string_view, 7> kindWords{"",        "text",  "geometry", "material",
                                                    "picture", "entry", "pose"};

template <class Number>
bool readDigits(std::string_view digits, Number& number) {
    if (digits.find_first_not_of("0123456789abcdefABCDEF") != std::string_view::npos) return false;
    const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), number, 16);
    return error == std::errc() && end == digits.data() + digits.size();
}

} // namespace

bool isKnown(std::uint32_t kind) {
    return kind > 0 && kind < kindWords.size();
}

std::string kindWord(std::uint32_t kind) {
    return isKnown(kind) ? std::string(kindWords[kind]) : fmt::format("kind {}", kind);
}

std::string textOf(const ResourceKey& key) {
    return fmt::format("{:02x}:{:08x}:{:016x}", key.kind, key.group, key.number);
}

std::optional<ResourceKey> keyFrom(std::string_view text) {
    ResourceKey key;
    if (text.size() != 28 || text[2] != ':' || text[11] != ':' || !readDigits(text.substr(0, 2), key.kind) ||
        !readDigits(text.substr(3, 8), key.group) || !readDigits(text.substr(12), key.number))
        return std::nullopt;
    return key;
}

} // namespace zl::files
