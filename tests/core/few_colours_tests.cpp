// Pictures in few colours: what the files' heads say, what another reader makes of them, and what is lost.
#include "support/panels.h"
#include "support/ran_step.h"

#include "core/texture/palette.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"

#include <catch2/catch.hpp>
#include <stb_image.h>

#include <random>
#include <set>

using namespace zl;

namespace {

/// A slope of colours from corner to corner; `clear` makes the lower half see-through.
Pixels slope(int width, int height, bool clear) {
    Pixels out{width, height, {}};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            out.rgba.insert(out.rgba.end(),
                            {std::uint8_t(255 * x / std::max(1, width - 1)),
                             std::uint8_t(255 * y / std::max(1, height - 1)), std::uint8_t(128),
                             std::uint8_t(clear && y >= height / 2 ? 40 : 255)});
    return out;
}

/// As a reader that knows nothing of us sees them.
Pixels elsewhere(const std::string& bytes) {
    Pixels out;
    int channels = 0;
    stbi_uc* read = stbi_load_from_memory(reinterpret_cast<const stbi_uc*>(bytes.data()), int(bytes.size()),
                                          &out.width, &out.height, &channels, 4);
    REQUIRE(read);
    out.rgba.assign(read, read + std::size_t(4) * out.width * out.height);
    stbi_image_free(read);
    return out;
}

std::size_t coloursIn(const Pixels& pixels) {
    std::set<std::array<std::uint8_t, 4>> seen;
    for (std::size_t p = 0; p < pixels.rgba.size(); p += 4)
        seen.insert({pixels.rgba[p], pixels.rgba[p + 1], pixels.rgba[p + 2], pixels.rgba[p + 3]});
    return seen.size();
}

/// By how much the means of blocks of 8 by 8 pixels are off, on the whole: what dithering is to keep.
double meansOff(const Pixels& a, const Pixels& b) {
    double all = 0;
    int blocks = 0;
    for (int y = 0; y + 8 <= a.height; y += 8)
        for (int x = 0; x + 8 <= a.width; x += 8)
            for (int k = 0; k < 3; ++k, ++blocks) {
                double sum = 0;
                for (int j = 0; j < 8; ++j)
                    for (int i = 0; i < 8; ++i) {
                        const std::size_t at =
                            4 * (std::size_t(y + j) * a.width + std::size_t(x + i)) + std::size_t(k);
                        sum += double(a.rgba[at]) - double(b.rgba[at]);
                    }
                all += std::abs(sum) / 64;
            }
    return all / blocks;
}

std::uint8_t head(const std::string& png, std::size_t at) {
    return std::uint8_t(png.at(at));
}
constexpr std::size_t bitDepth = 24, colourType = 25; // in a PNG's first chunk

} // namespace

TEST_CASE("a palette has as many colours as it may, and pixels take the nearest") {
    for (const bool clear : {false, true})
        for (const auto& [id, most, bits] :
             {std::tuple("png-16", 16u, 4), std::tuple("png-16-dithered", 16u, 4),
              std::tuple("png-256", 256u, 8), std::tuple("png-256-dithered", 256u, 8)}) {
            CAPTURE(id, clear);
            const Pixels from = slope(67, 45, clear); // odd, so that half a byte is left over in each row
            const std::string bytes =
                texture::pictureFormat(id).write(from, clear, texture::PixelKind::Colours);
            CHECK(head(bytes, colourType) == 3);
            CHECK(head(bytes, bitDepth) == bits);
            const Pixels back = elsewhere(bytes);
            REQUIRE(back.width == 67);
            REQUIRE(back.height == 45);
            CHECK(coloursIn(back) <= most);
            CHECK(coloursIn(back) > most / 3);
            if (!clear)
                for (std::size_t p = 3; p < back.rgba.size(); p += 4) REQUIRE(back.rgba[p] == 255);
            else
                CHECK(back.rgba.back() < 100);
            CHECK(bytes == texture::pictureFormat(id).write(from, clear, texture::PixelKind::Colours));
        }
    const Pixels few = [] {
        Pixels out = slope(64, 64, false);
        for (auto& byte : out.rgba) byte = byte < 128 ? 0 : 255;
        return out;
    }();
    CHECK(elsewhere(texture::writePng16(few, false)).rgba ==
          few.rgba); // what fits a palette is kept as it is
}

TEST_CASE("dithering keeps the means that a palette alone loses") {
    const Pixels from = slope(256, 256, false);
    const double plain = meansOff(from, elsewhere(texture::writePng16(from, false))),
                 dithered = meansOff(from, elsewhere(texture::writePng16Dithered(from, false)));
    INFO(plain << " " << dithered);
    CHECK(dithered < 0.7 * plain);
    const double coarse = meansOff(from, elsewhere(texture::writeTga16(from, false))),
                 spread = meansOff(from, elsewhere(texture::writeTga16Dithered(from, false)));
    INFO(coarse << " " << spread);
    CHECK(spread < 0.5 * coarse);
}

TEST_CASE("five bits a channel and one of alpha are the nearest there are") {
    std::mt19937 random(5);
    Pixels from{31, 9, {}};
    for (int i = 0; i < 31 * 9 * 4; ++i) from.rgba.push_back(std::uint8_t(random()));
    for (const bool alpha : {false, true}) {
        const std::string bytes = texture::writeTga16(from, alpha);
        CHECK(bytes.size() == 18 + 31 * 9 * 2);
        CHECK(std::uint8_t(bytes[16]) == 16);
        const Pixels back = elsewhere(bytes), ours = texture::readTga(bytes);
        for (std::size_t p = 0; p < from.rgba.size(); ++p) {
            if (p % 4 == 3) {
                REQUIRE(ours.rgba[p] == (!alpha || from.rgba[p] >= 128 ? 255 : 0));
                continue;
            }
            const int step = int(std::lround(from.rgba[p] * 31 / 255.0)); // of 31
            REQUIRE(std::abs(back.rgba[p] - int(std::lround(step * 255 / 31.0))) <= 1);
            REQUIRE(std::abs(ours.rgba[p] - int(std::lround(step * 255 / 31.0))) <= 1);
        }
        const auto read = texture::pictureFromBytes("x.tga", bytes);
        CHECK(read->hasAlpha() == alpha);
        CHECK_FALSE(texture::readTga16(std::string_view(bytes).substr(0, bytes.size() - 1)));
    }
}

TEST_CASE("greys are Rec. 709's, in 8 bits or in 16 steps, with alpha and without") {
    const Pixels from = slope(21, 13, true);
    for (const auto& [id, alpha, type, bits] :
         {std::tuple("png-grey", false, 0, 8), std::tuple("png-grey", true, 4, 8),
          std::tuple("png-grey-4", false, 0, 4), std::tuple("png-grey-4", true, 4, 8)}) {
        CAPTURE(id, alpha);
        const std::string bytes = texture::pictureFormat(id).write(from, alpha, texture::PixelKind::Numbers);
        CHECK(head(bytes, colourType) == type);
        CHECK(head(bytes, bitDepth) == bits);
        const Pixels back = elsewhere(bytes);
        const bool coarse = std::string_view(id).ends_with("4");
        for (std::size_t p = 0; p < from.rgba.size(); p += 4) {
            double grey = 0.2126 * from.rgba[p] + 0.7152 * from.rgba[p + 1] + 0.0722 * from.rgba[p + 2];
            if (coarse) grey = std::round(grey * 15 / 255) * 17;
            REQUIRE(std::abs(back.rgba[p] - grey) <=
                    (coarse ? 17 : 1)); // a step's border may fall either way
            REQUIRE(back.rgba[p] == back.rgba[p + 2]);
            if (coarse) REQUIRE(back.rgba[p] % 17 == 0);
            REQUIRE(back.rgba[p + 3] == (!alpha   ? 255
                                         : coarse ? int(std::lround(from.rgba[p + 3] * 15 / 255.0)) * 17
                                                  : from.rgba[p + 3]));
        }
    }
}

TEST_CASE("the picture kind says what few colours lose") {
    Model model = shapes::pictured({shapes::uprightSquare(1)});
    model.images = {texture::pictureFromPixels("slope.png", slope(64, 64, false), false)};
    const auto ran = ranStep(model, "picture-kind", {{"kind", "png-16"}});
    REQUIRE(ran.notes.size() == 1);
    CHECK_THAT(ran.notes[0], Catch::Contains("PNG, 16 colours") && Catch::Contains("of 255 on the mean"));
    CHECK(coloursIn(*texture::pixelsOf(
              ran.model.images.at(std::size_t(ran.model.materials[0].image(PictureRole::Colour))))) <= 16);
    CHECK_THAT(ranStep(model, "picture-kind", {{"kind", "tga"}}).notes[0], Catch::Contains("nothing lost"));
}
