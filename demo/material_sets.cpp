// What goes with a colour picture: relief as normals and as height, and roughness, metalness and dirt in
// corners packed into one picture; all drawn from the colours, as a photograph's are.
#include "demo_data.h"

#include "core/texture/picture_file.h"

#include <algorithm>
#include <cmath>

namespace zl::demo {

namespace {

/// Heights in 0–1 of a picture that repeats: bright is high, softened by its neighbours.
std::vector<float> heightsOf(const Pixels& colour) {
    const int w = colour.width, h = colour.height;
    const auto bright = [&](int x, int y) {
        const std::size_t p = 4 * (std::size_t((y + h) % h) * std::size_t(w) + std::size_t((x + w) % w));
        return 0.3f * colour.rgba[p] + 0.6f * colour.rgba[p + 1] + 0.1f * colour.rgba[p + 2];
    };
    std::vector<float> out(std::size_t(w) * std::size_t(h));
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            float sum = 0;
            for (int j = -1; j <= 1; ++j)
                for (int i = -1; i <= 1; ++i) sum += bright(x + i, y + j) * float((2 - i * i) * (2 - j * j));
            out[std::size_t(y) * std::size_t(w) + std::size_t(x)] = sum / 16;
        }
    const auto [least, most] = std::ranges::minmax(out);
    for (float& value : out) value = most > least ? (value - least) / (most - least) : 0.5f;
    return out;
}

template <class Value>
Pixels painted(int w, int h, const Value& value) {
    Pixels out{w, h, {}};
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const glm::vec3 c = value(x, y);
            for (int k = 0; k < 3; ++k)
                out.rgba.push_back(std::uint8_t(std::clamp(c[k], 0.0f, 1.0f) * 255 + 0.5f));
            out.rgba.push_back(255);
        }
    return out;
}

} // namespace

std::vector<OutFile> materialSet(const std::string& name, const Pixels& colour, const SetLook& look) {
    const int w = colour.width, h = colour.height;
    const auto heights = heightsOf(colour);
    const auto at = [&](int x, int y) {
        return heights[std::size_t((y + h) % h) * std::size_t(w) + std::size_t((x + w) % w)];
    };
    const Pixels normal = painted(w, h, [&](int x, int y) {
        const glm::vec3 n(-look.depth * (at(x + 1, y) - at(x - 1, y)),
                          look.depth * (at(x, y + 1) - at(x, y - 1)), 1);
        return glm::normalize(n) * 0.5f + 0.5f;
    });
    const Pixels height = painted(w, h, [&](int x, int y) { return glm::vec3(at(x, y)); });
    const Pixels packed = painted(w, h, [&](int x, int y) {
        const std::size_t p = 4 * (std::size_t(y) * std::size_t(w) + std::size_t(x));
        const bool bare =
            look.metal && colour.rgba[p + 2] >= colour.rgba[p]; // rust is redder than it is blue
        return glm::vec3(0.55f + 0.45f * at(x, y),
                         look.rough + 0.25f * (0.5f - at(x, y)) + (look.metal && !bare ? 0.3f : 0),
                         bare ? 1 : 0);
    });
    std::vector<OutFile> out;
    for (const auto& [ending, pixels] : {std::pair("-n", &normal), {"-h", &height}, {"-orm", &packed}})
        out.push_back({"kiosk-sets/" + name + ending + ".png", texture::encodePng(*pixels, false)});
    return out;
}

} // namespace zl::demo
