#include "core/uv/layout_picture.h"

#include "core/texture/picture_cache.h"
#include "core/texture/resized.h"
#include "core/uv/layout_parts.h"
#include "core/uv/outline.h"
#include "core/uv/raster.h"

#include <cmath>
#include <cstring>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wunused-function"
#include <stb_easy_font.h>
#pragma GCC diagnostic pop

namespace zl::uv {

namespace {

constexpr int oversampling = 2; // drawn so many times as large and brought down, for smooth edges

/// Pixels that triangles, lines and words are laid onto.
class Canvas {
public:
    Canvas(glm::ivec2 size, std::uint8_t alpha) : size_(size) {
        pixels_ = {
            size.x, size.y,
            std::vector<std::uint8_t>(std::size_t(4) * std::size_t(size.x) * std::size_t(size.y), 255)};
        for (std::size_t p = 3; p < pixels_.rgba.size(); p += 4) pixels_.rgba[p] = alpha;
    }
    explicit Canvas(Pixels pixels) : size_(pixels.width, pixels.height), pixels_(std::move(pixels)) {}

    glm::ivec2 size() const { return size_; }
    void fill(const std::array<glm::dvec2, 3>& at, glm::ivec3 colour, double cover) {
        forEachRow(at, {{0, 0}, size_}, [&](int row, int from, int to) {
            std::uint8_t* pixel =
                &pixels_.rgba[4 * (std::size_t(row) * std::size_t(size_.x) + std::size_t(from))];
            for (int x = from; x < to; ++x, pixel += 4) {
                const double below = pixel[3] / 255.0 * (1 - cover), all = cover + below;
                for (int k = 0; k < 3; ++k)
                    pixel[k] = std::uint8_t(
                        std::lround((colour[k] * cover + pixel[k] * below) / std::max(all, 1e-9)));
                pixel[3] = std::uint8_t(std::lround(255 * all));
            }
        });
    }
    void line(glm::dvec2 a, glm::dvec2 b, double width, glm::ivec3 colour, double cover) {
        const glm::dvec2 along = b - a;
        const double length = glm::length(along);
        if (!(length > 0)) return;
        const glm::dvec2 side = glm::dvec2(-along.y, along.x) * (width / 2 / length),
                         on = along * (width / 4 / length);
        fill({a - side - on, b - side + on, b + side + on}, colour, cover);
        fill({a - side - on, b + side + on, a + side - on}, colour, cover);
    }
    /// `text` about `middle`, letters `height` pixels high, on a light plate.
    void write(glm::dvec2 middle, std::string text, double height) {
        if (text.empty() || !(height > 0)) return;
        std::vector<float> quads(std::size_t(270) * text.size() + 16);
        const int count =
            stb_easy_font_print(0, 0, text.data(), nullptr, quads.data(), int(quads.size() * sizeof(float)));
        const double scale = height / 7;
        const glm::dvec2 wide(stb_easy_font_width(text.data()), 7), corner = middle - wide * scale / 2.0;
        rectangle(corner - glm::dvec2(2 * scale), corner + (wide + 2.0) * scale, {250, 248, 243}, 0.85);
        for (int q = 0; q < count; ++q) { // four corners of x, y, z, colour each
            const float* quad = &quads[std::size_t(16) * std::size_t(q)];
            rectangle(corner + glm::dvec2(quad[0], quad[1]) * scale,
                      corner + glm::dvec2(quad[8], quad[9]) * scale, {32, 48, 58}, 1);
        }
    }
    Pixels finished() const {
        return texture::resized(pixels_, size_.x / oversampling, size_.y / oversampling,
                                texture::PixelKind::Numbers);
    }

private:
    void rectangle(glm::dvec2 a, glm::dvec2 b, glm::ivec3 colour, double cover) {
        fill({a, glm::dvec2(b.x, a.y), b}, colour, cover);
        fill({a, b, glm::dvec2(a.x, b.y)}, colour, cover);
    }
    glm::ivec2 size_;
    Pixels pixels_;
};

/// Letters that the built-in font has; others as `?`.
std::string plainLetters(const std::string& name) {
    std::string out;
    for (const char c : name) {
        if ((c & 0xC0) == 0x80) continue; // the rest of a letter of several bytes
        out += c >= 32 && c < 127 ? c : '?';
    }
    return out.size() > 28 ? out.substr(0, 27) + "." : out;
}

Canvas groundOf(const Model& model, int material, glm::ivec2 size, bool picture) {
    if (picture && material >= 0)
        if (const PictureUse* use = model.materials[std::size_t(material)].leading()) {
            Pixels below = texture::resized(*texture::pixelsOf(model.images[std::size_t(use->image)]), size.x,
                                            size.y, texture::PixelKind::Colours);
            for (std::size_t p = 3; p < below.rgba.size(); p += 4) below.rgba[p] = 255;
            return Canvas(std::move(below));
        }
    return Canvas(size, 0);
}

} // namespace

Pixels layoutPicture(const Model& model, const UvFaces& faces, const std::vector<UvIsland>& islands,
                     int material, const LayoutLook& look) {
    const glm::ivec2 size = layoutSize(model, material, look.size) * oversampling;
    Canvas canvas = groundOf(model, material, size, look.picture);
    const auto parts = layoutParts(islands, material);
    const double thin = std::max(1.0, look.size / 1024.0) * oversampling;
    const auto pixelOf = [&](glm::vec2 uv) { return glm::dvec2(uv) * glm::dvec2(size); };
    for (std::size_t p = 0; p < parts.size(); ++p)
        for (const std::uint32_t i : parts[p].islands)
            for (const std::uint32_t f : islands[i].faces) {
                std::array<glm::dvec2, 3> at;
                for (std::size_t k = 0; k < 3; ++k)
                    at[k] = pixelOf(faces.faces[f].at[k] + toFirstPicture(islands[i]));
                canvas.fill(at, partColour(p), look.picture ? 0.25 : 0.8);
                for (std::size_t k = 0; k < 3; ++k)
                    canvas.line(at[k], at[(k + 1) % 3], thin * 0.6, {32, 48, 58}, 0.25);
            }
    for (std::size_t p = 0; p < parts.size(); ++p)
        for (const std::uint32_t i : parts[p].islands)
            for (const auto& loop : outlineOf(faces, islands[i]))
                for (std::size_t k = 0; k < loop.size(); ++k)
                    canvas.line(pixelOf(loop[k] + toFirstPicture(islands[i])),
                                pixelOf(loop[(k + 1) % loop.size()] + toFirstPicture(islands[i])), thin * 1.6,
                                {32, 48, 58}, 0.9);
    if (look.names)
        for (const LayoutPart& part : parts) {
            const UvIsland& island = islands[part.islands.front()];
            canvas.write(pixelOf(glm::vec2((island.least + island.most) / 2.0) + toFirstPicture(island)),
                         plainLetters(model.nodes[std::size_t(part.node)].name),
                         std::max(9.0, look.size / 90.0) * oversampling);
        }
    return canvas.finished();
}

} // namespace zl::uv
