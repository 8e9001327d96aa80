#include "demo_data.h"

#include <algorithm>
#include <cmath>

namespace zl::demo {

namespace {

float lattice(int x, int y, unsigned seed) {
    unsigned h = unsigned(x) * 374761393u + unsigned(y) * 668265263u + seed * 2246822519u;
    h = (h ^ (h >> 13)) * 1274126177u;
    return float((h ^ (h >> 16)) & 0xffffff) / 16777215.0f;
}

float smooth(float low, float high, float v) {
    const float t = std::clamp((v - low) / (high - low), 0.0f, 1.0f);
    return t * t * (3 - 2 * t);
}

} // namespace

Pixels painted(int edge, const std::function<glm::vec3(float u, float v)>& colour) {
    Pixels p{edge, edge, std::vector<std::uint8_t>(std::size_t(4) * edge * edge, 255)};
    for (int y = 0; y < edge; ++y)
        for (int x = 0; x < edge; ++x) {
            const glm::vec3 c = colour((float(x) + 0.5f) / float(edge), (float(y) + 0.5f) / float(edge));
            for (int k = 0; k < 3; ++k)
                p.rgba[4 * (std::size_t(y) * edge + x) + k] =
                    std::uint8_t(std::clamp(c[k], 0.0f, 1.0f) * 255 + 0.5f);
        }
    return p;
}

float noise(float x, float y, int period, unsigned seed) {
    const int x0 = int(std::floor(x)), y0 = int(std::floor(y));
    const float tx = x - float(x0), ty = y - float(y0), sx = tx * tx * (3 - 2 * tx),
                sy = ty * ty * (3 - 2 * ty);
    const auto at = [&](int i, int j) {
        return lattice(((i % period) + period) % period, ((j % period) + period) % period, seed);
    };
    return glm::mix(glm::mix(at(x0, y0), at(x0 + 1, y0), sx),
                    glm::mix(at(x0, y0 + 1), at(x0 + 1, y0 + 1), sx), sy);
}

float layeredNoise(float x, float y, int period, unsigned seed, int octaves) {
    float sum = 0, weight = 0.5f;
    for (int o = 0; o < octaves; ++o, x *= 2, y *= 2, period *= 2, weight *= 0.5f)
        sum += weight * noise(x, y, period, seed + unsigned(o));
    return sum / (1 - std::pow(0.5f, float(octaves)));
}

Pixels woodPicture(int edge, unsigned seed, float warmth) {
    const glm::vec3 light = glm::mix(glm::vec3(0.70f, 0.60f, 0.46f), glm::vec3(0.76f, 0.56f, 0.34f), warmth);
    const glm::vec3 dark = glm::mix(glm::vec3(0.42f, 0.34f, 0.25f), glm::vec3(0.47f, 0.29f, 0.15f), warmth);
    return painted(edge, [&](float u, float v) {
        const float plank = std::floor(v * 6), shift = lattice(int(plank), 3, seed) * 7;
        const float bend = layeredNoise(u * 4 + shift, v * 4, 4, seed, 3);
        const float grain = 0.5f + 0.5f * std::sin((v * 26 + bend * 5 + shift) * 6.2832f);
        const float fibre = layeredNoise(u * 8, v * 128, 128, seed + 9, 2);
        glm::vec3 c = glm::mix(dark, light, 0.35f + 0.35f * grain * bend + 0.3f * fibre);
        c *= 0.86f + 0.22f * lattice(int(plank), 11, seed);
        const float gap = std::abs(v * 6 - plank - 0.5f);
        return c * (1 - 0.65f * smooth(0.475f, 0.498f, gap));
    });
}

Pixels clothPicture(int edge) {
    return painted(edge, [&](float u, float v) {
        const bool stripe = int(std::floor(u * 8)) % 2 == 0;
        glm::vec3 c = stripe ? glm::vec3(0.93f, 0.62f, 0.12f) : glm::vec3(0.96f, 0.93f, 0.84f);
        const float weave = 0.94f + 0.06f * std::sin(u * 6.2832f * 128) * std::sin(v * 6.2832f * 128);
        return c * weave * (0.86f + 0.2f * layeredNoise(u * 6, v * 6, 6, 21));
    });
}

Pixels fruitPicture(int edge) {
    return painted(edge, [&](float u, float v) {
        // Four kinds of fruit in the quarters: orange, lemon, apple, plum.
        const int kind = (u >= 0.5f ? 1 : 0) + (v >= 0.5f ? 2 : 0);
        const glm::vec3 base[] = {
            {0.95f, 0.52f, 0.10f}, {0.96f, 0.82f, 0.20f}, {0.78f, 0.18f, 0.14f}, {0.42f, 0.18f, 0.38f}};
        const glm::vec3 blush[] = {
            {0.85f, 0.35f, 0.06f}, {0.72f, 0.74f, 0.22f}, {0.86f, 0.66f, 0.24f}, {0.28f, 0.16f, 0.42f}};
        const float pores = noise(u * 96, v * 96, 96, 5);
        return glm::mix(base[kind], blush[kind], 0.8f * layeredNoise(u * 8, v * 8, 8, 31)) *
               (0.9f + 0.14f * pores);
    });
}

Pixels ironPicture(int edge) {
    return painted(edge, [&](float u, float v) {
        const float rust = smooth(0.52f, 0.72f, layeredNoise(u * 5, v * 5, 5, 77, 5));
        const float wear = layeredNoise(u * 24, v * 24, 24, 41);
        return glm::mix(glm::vec3(0.30f, 0.34f, 0.36f) * (0.75f + 0.5f * wear),
                        glm::vec3(0.52f, 0.29f, 0.15f) * (0.7f + 0.5f * wear), 0.75f * rust);
    });
}

Pixels bronzePicture(int edge) {
    return painted(edge, [&](float u, float v) {
        const float patina = smooth(0.45f, 0.75f, layeredNoise(u * 6, v * 6, 6, 13, 6));
        const float wear = layeredNoise(u * 40, v * 40, 40, 19, 3);
        return glm::mix(glm::vec3(0.66f, 0.47f, 0.22f) * (0.75f + 0.45f * wear),
                        glm::vec3(0.30f, 0.50f, 0.43f) * (0.8f + 0.3f * wear), 0.8f * patina);
    });
}

} // namespace zl::demo
