#pragma once
#include "standins/world/shape.h"

#include <utility>

namespace zl::standins::console {

inline constexpr int screenWidth = 320, screenHeight = 240;
/// Which of the television's items shows the picture.
inline constexpr std::size_t screenItem = 0;

/// An old television on a chest, in the console's units; its screen is dark.
std::vector<world::Item> television();
/// Between which corners it stands.
std::pair<glm::vec3, glm::vec3> televisionFrame();

/// 5-5-5-1 words, the high byte first, as an old screen shows them: twice as large, every second line dim.
world::Picture onScreen(const std::uint8_t* words);

} // namespace zl::standins::console
