#pragma once
#include <compare>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace zl::files {

/// What a resource of a row package is (docs/formats/row-package.md); others are kept as they are.
enum class ResourceKind : std::uint32_t {
    Text = 1,
    Geometry = 2,
    Material = 3,
    Picture = 4,
    Entry = 5, ///< of a catalogue: title, code, pack, place, maker
    Pose = 6
};

/// "text", "geometry" …; "kind 17" for one that is not known.
std::string kindWord(std::uint32_t kind);
bool isKnown(std::uint32_t kind);

/// What resources call one another by.
struct ResourceKey {
    std::uint32_t kind = 0;
    std::uint32_t group = 0;
    std::uint64_t number = 0;

    auto operator<=>(const ResourceKey&) const = default;
    bool is(ResourceKind wanted) const { return kind == std::uint32_t(wanted); }
};

/// As texts have it: kind, group and number in hexadecimal, of 2, 8 and 16 digits:
/// "04:00000000:00c0ffee00000001".
std::string textOf(const ResourceKey& key);
/// Nothing when `text` is anything else.
std::optional<ResourceKey> keyFrom(std::string_view text);

} // namespace zl::files
