#include "standins/console/television.h"

#include <algorithm>
#include <cmath>

namespace zl::standins::console {

namespace {

constexpr glm::vec3 screenLow{-88, 84, 0}, screenHigh{88, 216, 0};
constexpr float front = 60;

/// A bulging sheet in front of the tube.
world::Shape tube() {
    world::Shape out;
    constexpr int across = 24, up = 18;
    for (int j = 0; j <= up; ++j)
        for (int i = 0; i <= across; ++i) {
            const float u = float(i) / across, v = float(j) / up, a = 2 * u - 1, b = 2 * v - 1;
            out.positions.emplace_back(glm::mix(screenLow.x, screenHigh.x, u),
                                       glm::mix(screenLow.y, screenHigh.y, v),
                                       front + 9 * (1 - a * a) * (1 - b * b));
            out.uvs.emplace_back(u, 1 - v);
            out.normals.emplace_back(glm::normalize(glm::vec3(a * 0.1f, b * 0.1f, 1)));
        }
    for (std::uint32_t j = 0; j < up; ++j)
        for (std::uint32_t i = 0; i < across; ++i) {
            const std::uint32_t a = j * (across + 1) + i, c = a + across + 1;
            out.indices.insert(out.indices.end(), {a, a + 1, c + 1, a, c + 1, c});
        }
    return out;
}

world::Item box(const char* name, glm::vec3 low, glm::vec3 high, glm::vec3 colour, float gloss = 0.15f) {
    world::Item item{.name = name, .shape = world::boxShape(low, high), .colour = colour, .gloss = gloss};
    world::makeFlat(item.shape);
    return item;
}

} // namespace

std::vector<world::Item> television() {
    constexpr glm::vec3 wood{0.36f, 0.22f, 0.12f}, dark{0.07f, 0.07f, 0.08f}, brass{0.70f, 0.55f, 0.30f};
    std::vector<world::Item> out;
    world::Item screen{.name = "screen", .shape = tube()};
    screen.gloss = 0, screen.glow = 1;
    screen.picture = world::Picture{2, 2, std::vector<unsigned char>(16, 20)};
    out.push_back(std::move(screen));
    out.push_back(box("cabinet", {-130, 66, -70}, {130, 234, front - 8}, wood, 0.3f));
    // A rim round the screen, and the panel beside it.
    out.push_back(box("rim below", {-100, 72, front - 8}, {100, 84, front + 4}, dark));
    out.push_back(box("rim above", {-100, 216, front - 8}, {100, 228, front + 4}, dark));
    out.push_back(box("rim left", {-100, 84, front - 8}, {-88, 216, front + 4}, dark));
    out.push_back(box("rim right", {88, 84, front - 8}, {100, 216, front + 4}, dark));
    out.push_back(box("tube", {-88, 84, front - 8}, {88, 216, front - 2}, dark));
    for (int k = 0; k < 3; ++k)
        out.push_back(box("knob", {108, 190 - 26.0f * float(k), front - 8},
                          {122, 204 - 26.0f * float(k), front + 4}, brass, 0.5f));
    out.push_back(box("chest", {-150, 8, -80}, {150, 66, 74}, {0.52f, 0.40f, 0.26f}));
    for (const float x : {-138.0f, 126.0f})
        for (const float z : {-70.0f, 52.0f})
            out.push_back(box("foot", {x, 0, z}, {x + 12, 8, z + 12}, dark));
    // The console itself, with the piece in its slot.
    out.push_back(box("console", {-62, 66, 62}, {-2, 76, 108}, {0.80f, 0.78f, 0.72f}));
    out.push_back(box("piece", {-46, 76, 74}, {-18, 88, 84}, {0.86f, 0.52f, 0.14f}));
    return out;
}

std::pair<glm::vec3, glm::vec3> televisionFrame() {
    return {{-150, 60, -40}, {150, 236, 100}};
}

world::Picture onScreen(const std::uint8_t* words) {
    world::Picture out{2 * screenWidth, 2 * screenHeight,
                       std::vector<unsigned char>(std::size_t(16) * screenWidth * screenHeight, 255)};
    for (int y = 0; y < screenHeight; ++y)
        for (int x = 0; x < screenWidth; ++x) {
            const std::uint8_t* at = words + 2 * (std::size_t(y) * screenWidth + std::size_t(x));
            const unsigned word = unsigned(at[0]) << 8 | at[1];
            const unsigned colour[3] = {word >> 11 & 31, word >> 6 & 31, word >> 1 & 31};
            for (int row = 0; row < 2; ++row)
                for (int column = 0; column < 2; ++column) {
                    unsigned char* to = &out.rgba[4 * (std::size_t(2 * y + row) * 2 * screenWidth +
                                                       std::size_t(2 * x + column))];
                    for (int k = 0; k < 3; ++k)
                        to[k] = (unsigned char)(colour[k] * 255 / 31 * (row == 1 ? 205 : 255) / 255);
                }
        }
    return out;
}

} // namespace zl::standins::console
