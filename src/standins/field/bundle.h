#pragma once
#include "standins/world/files.h"

#include <array>
#include <map>

namespace zl::standins::field {

/// What the field knows a thing can do, where its marks say so.
struct Ability {
    int place;
    std::string_view mark, word;
};
inline constexpr Ability abilities[] = {
    {2, "CarryMe", "can be carried"}, {4, "Wired", "is switched by wires"}, {7, "ClimbOn", "can be climbed"}};

/// A thing of a bundle, in blocks.
struct Thing {
    std::string name, credit;
    std::vector<world::Item> parts; ///< what is seen
    std::vector<world::Shape> bodies;
    std::map<int, std::string> marks; ///< as the holder has them
    glm::vec3 low{0}, high{0};
    std::array<int, 3> blocks{1, 1, 1};

    bool can(const Ability& ability) const {
        const auto there = marks.find(ability.place);
        return there != marks.end() && there->second == ability.mark;
    }
    /// Why it cannot, in words; empty when it can.
    std::string whyNot(const Ability& ability) const;
};

/// Reads the one bundle of a folder. Nothing when there is nothing to show.
std::optional<Thing> loadThing(const std::filesystem::path& folder, TryReport& report);

} // namespace zl::standins::field
