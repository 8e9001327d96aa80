// What an atlas is made of: where tiles lie, and bytes of colours.
#include "core/texture/atlas_layout.h"
#include "core/texture/colour_transfer.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;

TEST_CASE("colours become bytes as the curve says, byte for byte") {
    for (int i = 0; i <= 100000; ++i) {
        const float linear = float(i) / 90000 - 0.05f;
        const int want = texture::toByte(texture::toSrgb(linear)), got = texture::toSrgbByte(linear);
        if (want != got) CHECK(std::abs(want - got) <= 1); // at a border that rounds either way
        if (i % 997 == 0) CHECK(want == got);
    }
    for (int byte = 0; byte < 256; ++byte)
        CHECK(texture::toSrgbByte(texture::lightOf(std::uint8_t(byte))) == byte);
}

TEST_CASE("tiles never overlap, paddings included, and the finest shrink first") {
    std::mt19937 dice(3);
    for (int round = 0; round < 40; ++round) {
        std::vector<texture::AtlasTile> tiles;
        for (int i = int(dice() % 40) + 2; i-- > 0;)
            tiles.push_back({int(dice() % 300) + 1, int(dice() % 300) + 1, double(dice() % 1000 + 1)});
        const int padding = int(dice() % 5);
        const auto layout = texture::layOutAtlas(tiles, 512, padding);
        REQUIRE(layout.width > 0);
        CHECK(layout.width <= 512);
        std::vector<char> taken(std::size_t(layout.width) * layout.height, 0);
        int wrong = 0;
        double kept = 1e9; // densities after: those that were shrunk are all about one
        for (std::size_t i = 0; i < tiles.size(); ++i) {
            const auto& p = layout.places[i];
            for (int y = p.y - padding; y < p.y + p.height + padding; ++y)
                for (int x = p.x - padding; x < p.x + p.width + padding; ++x) {
                    const bool within = x >= 0 && y >= 0 && x < layout.width && y < layout.height;
                    if (!within || taken[std::size_t(y) * layout.width + x]++ > 0) ++wrong;
                }
            if (p.width < tiles[i].width && tiles[i].width > 20)
                kept = std::min(kept, tiles[i].density * p.width / tiles[i].width);
        }
        CHECK(wrong == 0);
        for (std::size_t i = 0; i < tiles.size(); ++i)
            if (tiles[i].density < kept * 0.9) CHECK(layout.places[i].width == tiles[i].width);
    }
}
