// A bollard of the quay, wound with rope: its relief lies on a round post, where parallax swims.
#include "demo_data.h"
#include "solids.h"

#include "core/formats/format.h"
#include "core/texture/picture_file.h"

#include <cmath>

namespace zl::demo {

namespace {

constexpr float turns = 12; // of rope on a picture

/// Where a point lies on the rope that it is on: across it from -1 to 1, and along its strands.
struct OnRope {
    float across, strand;
};
OnRope onRope(float u, float v) {
    const float down = v * turns, across = 2 * (down - std::floor(down)) - 1;
    return {across, std::abs(std::fmod(u * 64 + across * 1.5f + std::floor(down) * 0.37f, 1.0f) * 2 - 1)};
}

template <class Value>
std::shared_ptr<const Image> ropePicture(const char* name, const Value& value) {
    constexpr int edge = 1024;
    Pixels out{edge, edge, {}};
    out.rgba.reserve(std::size_t(4) * edge * edge);
    for (int y = 0; y < edge; ++y)
        for (int x = 0; x < edge; ++x) {
            const glm::vec3 c = value((float(x) + 0.5f) / edge, (float(y) + 0.5f) / edge);
            for (int k = 0; k < 3; ++k)
                out.rgba.push_back(std::uint8_t(std::clamp(c[k], 0.0f, 1.0f) * 255 + 0.5f));
            out.rgba.push_back(255);
        }
    return texture::pictureFromPixels(name, std::move(out), false);
}

float ropeHeight(float u, float v) {
    const OnRope at = onRope(u, v);
    return std::sqrt(std::max(0.0f, 1 - at.across * at.across)) * (0.8f + 0.2f * (1 - at.strand));
}

} // namespace

Model ropeBollard() {
    Model model;
    model.name = "rope-bollard";
    model.materials = {{.name = "wound rope", .roughness = 0.9f},
                       {.name = "cap iron", .metalness = 0.6f, .roughness = 0.45f}};
    model.images = {
        ropePicture("wound-rope.png",
                    [](float u, float v) {
                        const float h = ropeHeight(u, v), n = layeredNoise(u * 16, v * 16, 16, 9);
                        return glm::mix(glm::vec3(0.32f, 0.22f, 0.12f), glm::vec3(0.80f, 0.68f, 0.46f), h) *
                               (0.8f + 0.3f * n);
                    }),
        ropePicture("wound-rope-h.png", [](float u, float v) { return glm::vec3(ropeHeight(u, v)); }),
        texture::pictureFromPixels("cap-iron.png", ironPicture(512), false)};
    model.materials[0].wear(PictureRole::Colour, {.image = 0});
    model.materials[0].wear(PictureRole::Height, {.image = 1});
    model.materials[1].wear(PictureRole::Colour, {.image = 2});
    Solids solids;
    solids.wear(1).turned({{0.34, 0}, {0.34, 0.06}, {0.24, 0.1}}, {0, 0, 0}, 1, 48);
    solids.wear(0).turned({{0.22, 0.1}, {0.23, 0.35}, {0.23, 0.6}, {0.22, 0.8}}, {0, 0, 0}, 1, 64);
    solids.wear(1).turned({{0.24, 0.8}, {0.3, 0.84}, {0.3, 0.93}, {0.16, 1.0}, {0, 1.02}}, {0, 0, 0}, 1, 48);
    solids.wear(0).box({0.62, 0.12, 0.1}, {0.26, 0.12, 0.3}, 0.2); // a coil laid down beside it, squared off
    addNode(model, "bollard", -1, glm::dmat4(1.0), solids.take("bollard"));
    model.frame.unitAssumed = model.frame.upAssumed = false;
    return model;
}

} // namespace zl::demo
