#pragma once
#include <array>
#include <cstdint>
#include <initializer_list>
#include <optional>
#include <string_view>

namespace zl::formats {

/// What people care about when a model goes from one format to the next.
enum class Aspect {
    Scale,
    Up,
    Objects,
    Names,
    Hierarchy,
    Materials,
    Pictures,
    Uvs,
    UvPlacement,
    Normals,
    Colours,
    Bones,
    Clips,
    Morphs
};
inline constexpr std::size_t aspectCount = 14;

std::string_view aspectId(Aspect aspect);   ///< "uv-placement"
std::string_view aspectName(Aspect aspect); ///< "UV placement"
std::optional<Aspect> aspectNamed(std::string_view id);
inline std::array<Aspect, aspectCount> allAspects() {
    std::array<Aspect, aspectCount> all{};
    for (std::size_t i = 0; i < aspectCount; ++i) all[i] = static_cast<Aspect>(i);
    return all;
}

/// A set of aspects.
class Aspects {
public:
    constexpr Aspects() = default;
    constexpr Aspects(std::initializer_list<Aspect> list) {
        for (const Aspect aspect : list) add(aspect);
    }
    constexpr void add(Aspect aspect) { bits_ |= 1u << static_cast<unsigned>(aspect); }
    constexpr bool has(Aspect aspect) const { return bits_ >> static_cast<unsigned>(aspect) & 1u; }

private:
    std::uint32_t bits_ = 0;
};

} // namespace zl::formats
