#pragma once
#include "standins/world/shape.h"

namespace zl::standins::world {

/// A picture and its smaller levels, each half as wide and high as the one before (a side of 1 stays), down
/// to one pixel: what a graphics card reads when a surface is small on the screen.
struct PictureLevels {
    std::vector<Picture> pictures; ///< the whole one first
};

/// Every pixel of a level is the mean of the four (two, one) above it; of `colours` the mean of their light.
PictureLevels levelsOf(Picture picture, bool colours);

/// Bytes that all levels take.
std::size_t bytesOf(const PictureLevels& levels);

/// The value at a UV (origin top left, repeated), 0–1 a channel as it is kept, mixed linearly between pixels
/// and between levels as OpenGL's trilinear filter does (OpenGL 3.3, section 3.8.11).
glm::vec4 sampledAt(const PictureLevels& levels, glm::vec2 uv, float level);

} // namespace zl::standins::world
