// Pictures: told by their bytes, decoded only when looked at, written as they were.
#include "core/base/error.h"
#include "core/texture/picture_file.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <cstring>

using namespace zl;

namespace {

/// Four pixels: red, half-clear green, blue, white.
Pixels four() {
    return {2, 2, {255, 0, 0, 255, 0, 255, 0, 128, 0, 0, 255, 255, 255, 255, 255, 255}};
}

/// The same as an uncompressed 24-bit TGA, rows from the bottom (Truevision TGA 2.0).
std::string tga() {
    std::string bytes(18, '\0');
    bytes[2] = 2, bytes[12] = 2, bytes[14] = 2, bytes[16] = 24;
    for (const unsigned char c : {255, 0, 0, 255, 255, 255, 0, 0, 255, 0, 255, 0})
        bytes += static_cast<char>(c);
    return bytes;
}

/// The same as a 24-bit BMP: rows from the bottom, filled up to four bytes.
std::string bmp() {
    std::string bytes = "BM";
    const auto put = [&](std::uint32_t value, int size) {
        for (int k = 0; k < size; ++k) bytes += static_cast<char>(value >> 8 * k);
    };
    put(54 + 16, 4), put(0, 4), put(54, 4), put(40, 4), put(2, 4), put(2, 4), put(1, 2), put(24, 2);
    for (int k = 0; k < 6; ++k) put(k == 1 ? 16 : 0, 4);
    for (const unsigned char c : {255, 0, 0, 255, 255, 255, 0, 0, 0, 0, 255, 0, 255, 0, 0, 0})
        bytes += static_cast<char>(c);
    return bytes;
}

} // namespace

TEST_CASE("a PNG comes back pixel for pixel, with alpha and without") {
    const auto with = texture::pictureFromBytes("a.png", texture::encodePng(four()));
    CHECK(with->width == 2);
    CHECK(with->height == 2);
    CHECK(with->channels == 4);
    CHECK(with->mime == "image/png");
    CHECK(texture::decode(*with).rgba == four().rgba);
    const auto without = texture::pictureFromBytes("a.png", texture::encodePng(four(), false));
    CHECK(without->channels == 3); // no alpha channel sneaks in
    CHECK(texture::decode(*without).rgba[7] == 255);
    CHECK(texture::decode(*without).rgba[5] == 255);
}

TEST_CASE("TGA and BMP are read as their standards say, the first row on top") {
    const std::string bytes = GENERATE(tga(), bmp());
    const auto image = texture::pictureFromBytes("a", bytes);
    CHECK(image->width == 2);
    const auto pixels = texture::decode(*image).rgba;
    CHECK(pixels[0] == 255); // red
    CHECK(pixels[1] == 0);
    CHECK(pixels[4] == 0); // green
    CHECK(pixels[5] == 255);
    CHECK(pixels[10] == 255);       // blue
    CHECK(pixels[12] == 255);       // white
    CHECK(image->encoded == bytes); // kept as it came
}

TEST_CASE("what is no picture is refused with its name, and claims beyond reason too") {
    TemporaryFolder folder;
    for (const std::string& bytes : {std::string(), std::string("hello"), std::string(1000, '\0')}) {
        try {
            texture::pictureFromBytes("bark.png", bytes);
            FAIL("was taken");
        } catch (const Error& error) {
            CHECK(error.whole().find("bark.png") != std::string::npos);
        }
    }
    std::string huge = texture::encodePng(four());
    huge[16] = '\x7f'; // the width's first byte
    CHECK_THROWS_AS(texture::pictureFromBytes("huge.png", huge), Error);
    std::string half = texture::encodePng({64, 64, std::vector<std::uint8_t>(64 * 64 * 4, 77)});
    half.resize(half.size() / 2);
    const auto image = texture::pictureFromBytes("half.png", half); // its head is whole
    CHECK_THROWS_AS(texture::decode(*image), Error);
    CHECK_THROWS_AS(texture::readPicture(folder / "gone.png"), Error);
    CHECK_THROWS_AS(texture::readPicture(folder.path()), Error);
}

TEST_CASE("a picture's name is its file's, without folders") {
    TemporaryFolder folder;
    folder.write("deep/oak bark.png", texture::encodePng(four()));
    CHECK(texture::readPicture(folder / "deep/oak bark.png")->name == "oak bark.png");
}
