// Pictures: told by their bytes, decoded only when looked at, written as they were.
#include "core/base/error.h"
#include "core/formats/picture_beside.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"
#include "core/texture/jpeg_turn.h"
#include "support/png_builder.h"
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
    CHECK(with->format == "png");
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
}

TEST_CASE("a picture's name is its file's, without folders") {
    TemporaryFolder folder;
    folder.write("deep/oak bark.png", texture::encodePng(four()));
    files::SourceFile source(files::addressOf(folder / "model.obj"));
    CHECK(formats::pictureBeside(source, source.beside("deep/oak bark.png").value())->name == "oak bark.png");
    CHECK_FALSE(source.beside("gone.png"));
    CHECK_FALSE(source.beside("deep")); // a folder
}

TEST_CASE("every kind of picture that is written is told by its bytes and read again") {
    Pixels smooth{16, 8, {}};
    for (int y = 0; y < 8; ++y)
        for (int x = 0; x < 16; ++x)
            for (const int c : {4 * x, 8 * y, 128, 255})
                smooth.rgba.push_back(std::uint8_t(std::min(c, 255)));
    for (const auto& format : texture::allPictureFormats()) {
        INFO(format.id);
        REQUIRE(format.write);
        for (const bool alpha : {false, true}) {
            const std::string bytes = format.write(smooth, alpha, texture::PixelKind::Colours);
            const auto image = texture::pictureFromBytes("smooth", bytes);
            CHECK(image->format == format.id.substr(0, format.id.find('-')));
            CHECK(image->width == 16);
            CHECK(image->height == 8);
            const Pixels back = texture::decode(*image);
            REQUIRE(back.rgba.size() == smooth.rgba.size());
            int worst = 0;
            const bool fewColours = !format.id.starts_with("dds") && format.id.find('-') != format.id.npos;
            if (fewColours) continue; // few_colours_tests.cpp
            const std::size_t kept = format.id == "dds-bc4" ? 1 : format.id == "dds-bc5" ? 2 : 4;
            for (std::size_t i = 0; i < back.rgba.size(); ++i)
                if (i % 4 < kept) worst = std::max(worst, std::abs(int(back.rgba[i]) - int(smooth.rgba[i])));
            CHECK(worst <= (format.id.starts_with("dds") && format.id != "dds-plain" ? 24
                            : format.id == "jpeg"                                    ? 16
                                                  : 0)); // blocks and waves lose
        }
        const std::string bytes = format.write(smooth, true, texture::PixelKind::Colours);
        for (std::size_t cut = 0; cut < bytes.size(); cut += 1 + bytes.size() / 40) try {
                texture::decode(*texture::pictureFromBytes("cut", bytes.substr(0, cut)));
            } catch (const Error& error) {
                CHECK(error.whole().find("cut") != std::string::npos);
            }
    }
    CHECK_THROWS_WITH(texture::pictureFormat("gif"), Catch::Contains("gif"));
}

TEST_CASE("DDS in blocks and in plain pixels is read as its reference says, levels and all") {
    Pixels red{4, 4, {}};
    for (int i = 0; i < 16; ++i) red.rgba.insert(red.rgba.end(), {255, 0, 0, 255});
    const std::string blocks = texture::writeDds(red, false);
    CHECK(blocks.size() == 128 + 3 * 8); // 4, 2 and 1 pixels: a block of 8 bytes each
    CHECK(std::memcmp(blocks.data() + 84, "DXT1", 4) == 0);
    CHECK(int(blocks[28]) == 3);
    CHECK(texture::readDds(blocks).rgba == red.rgba);
    CHECK(texture::writeDds(red, true).size() == 128 + 3 * 16);
    // Two plain pixels, blue green red and alpha: B8G8R8A8.
    std::string plain = blocks.substr(0, 128);
    const auto put = [&](std::size_t at, std::uint32_t value) {
        for (int k = 0; k < 4; ++k) plain[at + k] = static_cast<char>(value >> 8 * k);
    };
    put(12, 1), put(16, 2), put(80, 0x41), put(84, 0), put(88, 32);
    put(92, 0xff0000), put(96, 0xff00), put(100, 0xff), put(104, 0xff000000);
    plain += std::string("\x01\x02\x03\x04\xff\x00\x00\x80", 8);
    CHECK(texture::readDds(plain).rgba == std::vector<std::uint8_t>{3, 2, 1, 4, 0, 0, 255, 128});
    put(16, 70000); // claims more than there is
    CHECK_THROWS_AS(texture::readDds(plain), Error);
    put(16, 0xffffffff);
    CHECK_THROWS_AS(texture::pictureFromBytes("x.dds", plain), Error);
}

TEST_CASE("a picture is decoded once while there is room, and one that was made here is encoded once") {
    const auto image = texture::pictureFromBytes("a.png", texture::encodePng(four()));
    const auto first = texture::pixelsOf(image);
    CHECK(first->rgba == four().rgba);
    CHECK(texture::pixelsOf(image) == first);
    CHECK(texture::pictureCacheBytes() <= texture::mostPictureCacheBytes());
    CHECK(*texture::encodedOf(image) == image->encoded);
    const auto made = texture::pictureFromPixels("b.png", four(), true);
    CHECK(texture::pixelsOf(made)->rgba == four().rgba);
    const auto bytes = texture::encodedOf(made);
    CHECK(bytes == texture::encodedOf(made));
    CHECK(texture::decode(*texture::pictureFromBytes("b.png", *bytes)).rgba == four().rgba);
    // A picture that comes to lie where another was is another.
    for (int i = 0; i < 50; ++i) {
        Pixels grey{1, 1, {std::uint8_t(i), 0, 0, 255}};
        const auto one = texture::pictureFromBytes("c.png", texture::encodePng(grey));
        CHECK(texture::pixelsOf(one)->rgba[0] == i);
    }
    CHECK_THROWS_AS(
        texture::pixelsOf(std::make_shared<const Image>(Image{"x", "no picture", "png", 1, 1, 4})), Error);
}

TEST_CASE("the cache of pictures holds bytes, not pictures") {
    const std::size_t most = texture::mostPictureCacheBytes();
    const int edge = 2048; // 16 MB each
    std::vector<std::shared_ptr<const Image>> held;
    const std::string bytes =
        texture::encodePng({edge, edge, std::vector<std::uint8_t>(std::size_t(4) * edge * edge, 9)});
    for (std::size_t i = 0; i < most / (std::size_t(4) * edge * edge) + 3 && i < 80; ++i) {
        held.push_back(texture::pictureFromBytes("grey.png", bytes));
        texture::pixelsOf(held.back());
        CHECK(texture::pictureCacheBytes() <= most);
    }
}

namespace {

std::string fromBase64(std::string_view text) {
    std::string out;
    unsigned bits = 0, count = 0;
    for (const char c : text) {
        static constexpr std::string_view letters =
            "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
        const auto at = letters.find(c);
        if (at == std::string_view::npos) break;
        bits = bits << 6 | unsigned(at), count += 6;
        if (count >= 8) out += char(bits >> (count -= 8) & 255);
    }
    return out;
}

// 16 by 8 pixels, red on the left and blue on the right, with a note that it is to be turned to the right;
// and 8 by 8 of cyan ink. Written by another library.
const std::string turnedJpeg = fromBase64(
    "/9j/4AAQSkZJRgABAQAAAQABAAD/4QAiRXhpZgAATU0AKgAAAAgAAQESAAMAAAABAAYAAAAAAAD/2wBDAAMCAgMCAgMDAwMEAwME"
    "BQgFBQQEBQoHBwYIDAoMDAsKCwsNDhIQDQ4RDgsLEBYQERMUFRUVDA8XGBYUGBIUFRT/2wBDAQMEBAUEBQkFBQkUDQsNFBQUFBQU"
    "FBQUFBQUFBQUFBQUFBQUFBQUFBQUFBQUFBQUFBQUFBQUFBQUFBQUFBQUFBT/wAARCAAIABADASIAAhEBAxEB/8QAFQABAQAAAAAA"
    "AAAAAAAAAAAAAAf/xAAUEAEAAAAAAAAAAAAAAAAAAAAA/8QAFAEBAAAAAAAAAAAAAAAAAAAAB//EABgRAAIDAAAAAAAAAAAAAAAA"
    "AAAHRYPD/9oADAMBAAIRAxEAPwCJJYBJScjVoMrnj7cz/9k=");
const std::string inkJpeg = fromBase64(
    "/9j/7gAOQWRvYmUAZAAAAAAA/9sAQwADAgIDAgIDAwMDBAMDBAUIBQUEBAUKBwcGCAwKDAwLCgsLDQ4SEA0OEQ4LCxAWEBETFBUV"
    "FQwPFxgWFBgSFBUU/8AAFAgACAAIBEMRAE0RAFkRAEsRAP/EABQAAQAAAAAAAAAAAAAAAAAAAAn/xAAUEAEAAAAAAAAAAAAAAAAA"
    "AAAA/9oADgRDAE0AWQBLAAA/ACqKmVMqb//Z");

glm::ivec4 pixelAt(const Pixels& pixels, int x, int y) {
    const std::uint8_t* p = &pixels.rgba[4 * std::size_t(y * pixels.width + x)];
    return {p[0], p[1], p[2], p[3]};
}

} // namespace

TEST_CASE("PNGs of every kind of pixel are read for what they show") {
    const auto decoded = [](const pngs::Kind& kind, const std::vector<std::string>& rows) {
        return texture::decode(*texture::pictureFromBytes("x.png", pngs::file(kind, rows)));
    };
    const auto deep =
        decoded({2, 1, 16, 2}, {std::string("\x12\xff\x80\x00\xfe\x01", 6) + std::string(6, '\0')});
    CHECK(pixelAt(deep, 0, 0) == glm::ivec4(0x12, 0x80, 0xfe, 255));
    const auto deepGrey = decoded({1, 1, 16, 0}, {std::string("\x80\x33", 2)});
    CHECK(pixelAt(deepGrey, 0, 0) == glm::ivec4(0x80, 0x80, 0x80, 255));
    const auto greyAlpha = decoded({2, 1, 8, 4}, {std::string("\x40\x80\xc0\x00", 4)});
    CHECK(pixelAt(greyAlpha, 0, 0) == glm::ivec4(64, 64, 64, 128));
    CHECK(pixelAt(greyAlpha, 1, 0).a == 0);
    const auto bits = decoded({8, 1, 1, 0}, {std::string("\xa0", 1)});
    CHECK(pixelAt(bits, 0, 0).r == 255);
    CHECK(pixelAt(bits, 1, 0).r == 0);
    CHECK(pixelAt(bits, 2, 0).r == 255);
    const std::string palette = pngs::chunk("PLTE", std::string("\x0a\x14\x1e\xc8\x96\x64", 6)) +
                                pngs::chunk("tRNS", std::string("\x30", 1));
    const auto indexed = decoded({4, 1, 2, 3, false, palette}, {std::string("\x10", 1)}); // 0, 1, 0, 0
    CHECK(pixelAt(indexed, 0, 0) == glm::ivec4(10, 20, 30, 48));
    CHECK(pixelAt(indexed, 1, 0) == glm::ivec4(200, 150, 100, 255));
    // Interlaced: of 3 by 3 the passes hold the corner, then column 2 of row 0 …
    const auto grey = [](std::initializer_list<int> values) {
        std::string row;
        for (const int v : values) row += char(v);
        return row;
    };
    const auto woven = decoded({3, 3, 8, 0, true}, {grey({0}), grey({20}), grey({60, 80}), grey({10}),
                                                    grey({70}), grey({30, 40, 50})});
    for (int i = 0; i < 9; ++i) CHECK(pixelAt(woven, i % 3, i / 3).r == 10 * i);
    CHECK_THROWS_WITH(texture::pictureFromBytes("b.png", pngs::file({100000, 100000, 8, 6}, {"x"})),
                      Catch::Contains("100000 by 100000"));
    CHECK_THROWS_WITH(texture::pictureFromBytes("b.png", pngs::file({30000, 30000, 8, 6}, {"x"})),
                      Catch::Contains("30000 by 30000"));
    CHECK_THROWS_AS(texture::decode(*texture::pictureFromBytes("c.png", pngs::file({64, 64, 8, 2}, {"cut"}))),
                    Error);
}

TEST_CASE("a JPEG that says how it is to be shown is shown so, and one of inks has its colours") {
    CHECK(texture::jpegTurn(turnedJpeg) == 6);
    const auto shown = texture::pictureFromBytes("photo.jpg", turnedJpeg);
    CHECK(shown->width == 8);
    CHECK(shown->height == 16);
    CHECK(texture::jpegTurn(shown->encoded) == 1);
    const Pixels pixels = texture::decode(*shown);
    const auto near = [](glm::ivec4 a, glm::ivec3 b) {
        return glm::length(glm::dvec3(glm::ivec3(a) - b)) < 25;
    };
    CHECK(near(pixelAt(pixels, 4, 2), {220, 30, 30})); // turned to the right, its left is on top
    CHECK(near(pixelAt(pixels, 4, 13), {30, 40, 210}));
    const Pixels ink = texture::decode(*texture::pictureFromBytes("ink.jpg", inkJpeg));
    CHECK(near(pixelAt(ink, 3, 3), {0, 255, 255}));
    for (std::size_t cut = 0; cut < turnedJpeg.size();
         ++cut) { // whatever is left of it, nothing is read beyond
        const int turn = texture::jpegTurn(std::string_view(turnedJpeg).substr(0, cut));
        CHECK((turn == 1 || turn == 6));
    }
    // All eight: a picture of 2 by 3, its pixels numbered along its rows.
    Pixels numbered{2, 3, {}};
    for (int i = 0; i < 6; ++i) numbered.rgba.insert(numbered.rgba.end(), {std::uint8_t(i), 0, 0, 255});
    const std::vector<std::vector<int>> wanted{{0, 1, 2, 3, 4, 5}, {1, 0, 3, 2, 5, 4}, {5, 4, 3, 2, 1, 0},
                                               {4, 5, 2, 3, 0, 1}, {0, 2, 4, 1, 3, 5}, {4, 2, 0, 5, 3, 1},
                                               {5, 3, 1, 4, 2, 0}, {1, 3, 5, 0, 2, 4}};
    for (int turn = 1; turn <= 8; ++turn) {
        const Pixels turned = texture::shownTurned(numbered, turn);
        CAPTURE(turn);
        CHECK(turned.width == (turn < 5 ? 2 : 3));
        std::vector<int> found;
        for (std::size_t p = 0; p < turned.rgba.size(); p += 4) found.push_back(turned.rgba[p]);
        CHECK(found == wanted[std::size_t(turn - 1)]);
    }
}
