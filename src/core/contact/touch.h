#pragma once
#include <glm/glm.hpp>

#include <string>
#include <string_view>
#include <vector>

namespace zl::contact {

/// How the faces of a kind are told apart beside their colour.
enum class Hatch { Plain, Rising, Falling, Level, Upright, Crossed, Dotted, Checked };
inline constexpr std::string_view hatchNames[] = {"plain",   "rising",  "falling", "level",
                                                  "upright", "crossed", "dotted",  "checked"};

/// What faces may be made of on a platform, and what it makes of them.
struct SurfaceKind {
    std::string name;       ///< as files have it
    glm::vec3 colour{0.5f}; ///< it is painted in, sRGB, 0 to 1
    Hatch hatch = Hatch::Plain;
    std::string word;               ///< for people
    std::string sound;              ///< of a step on it, in a word
    std::string throws;             ///< what flies up: dust, sparks; empty for nothing
    double grip = 1;                ///< 1 for what holds as dry stone does
    std::vector<std::string> hints; ///< parts of materials' names that speak for it

    bool operator==(const SurfaceKind&) const = default;
};

/// A word that a platform reads in one numbered place, spelt just so.
struct MarkPlace {
    int place = 0;
    std::string name;
    std::string does; ///< "can be carried"

    bool operator==(const MarkPlace&) const = default;
};

/// What a platform reads about how a thing is touched.
struct Touch {
    std::vector<SurfaceKind> surfaces;
    std::vector<MarkPlace> marks;
    std::string engine;               ///< the version that it runs; empty where it does not ask
    std::vector<std::string> earlier; ///< versions that were
    std::string holderName; ///< of the node around everything, "{name}" for the thing's; empty: none

    const SurfaceKind* surface(std::string_view name) const;
    std::string holderFor(const std::string& name) const;
};

} // namespace zl::contact
