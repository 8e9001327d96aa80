// Pictures resized and packed as a sheet says: against closed forms worked out here.
#include "core/base/error.h"
#include "core/deliver/deliver.h"
#include "core/deliver/packed_pictures.h"
#include "core/geometry/world.h"
#include "core/texture/pack_channels.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"
#include "support/ball_in_pictures.h"
#include "support/quickest.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <squish.h>
#include <toml++/toml.h>

#include <random>

using namespace zl;
using texture::PixelKind;

namespace {

double light(double byte) {
    const double v = byte / 255;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}
double kept(double v) {
    return 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055);
}

double meanLight(const Pixels& pixels, std::size_t channel) {
    double sum = 0;
    for (std::size_t p = channel; p < pixels.rgba.size(); p += 4) sum += light(pixels.rgba[p]);
    return sum / (double(pixels.rgba.size()) / 4);
}

const std::string saltSheet = R"(id = "salt"
name = "Salt"
kind = "k"
[unit]
name = "m"
metres = 1
[axes]
up = "Y"
front = "+Z"
[figure]
height = 1.7
)";
const std::string oneRule = R"(
[[rule]]
id = "triangles"
label = "T"
most = 9
message = "m"
)";

platform::Sheet salt(const TemporaryFolder& folder, const std::string& sections) {
    return platform::readSheet(folder.write("salt.toml", saltSheet + sections + oneRule),
                               deliver::sheetWords({}));
}

} // namespace

TEST_CASE("a picture made smaller keeps its light, whatever its sides are") {
    std::mt19937 random(7);
    for (int round = 0; round < 40; ++round) {
        const Pixels whole = noise(20 + int(random() % 90), 20 + int(random() % 90), random());
        const Pixels small = texture::resized(whole, 1 + int(random() % unsigned(whole.width)),
                                              1 + int(random() % unsigned(whole.height)), PixelKind::Colours);
        // Rounding to a byte is up to half of 1/255 a pixel, and evens out over many.
        const double rounding = 0.004 / std::sqrt(double(small.width * small.height));
        INFO(whole.width << " x " << whole.height << " to " << small.width << " x " << small.height);
        for (std::size_t k = 0; k < 3; ++k)
            CHECK(std::abs(meanLight(small, k) - meanLight(whole, k)) <=
                  0.002 * meanLight(whole, k) + rounding);
    }
}

TEST_CASE("half as large is the mean of two by two, colours as light, numbers as they are") {
    const Pixels whole = noise(64, 32, 3);
    for (const auto kind : {PixelKind::Colours, PixelKind::Numbers}) {
        const Pixels half = texture::halved(whole, kind);
        REQUIRE(half.width == 32);
        REQUIRE(half.height == 16);
        int worst = 0;
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 32; ++x)
                for (int k = 0; k < 4; ++k) {
                    double sum = 0;
                    for (const int at : {0, 1, 64, 65}) {
                        const double byte = whole.rgba[std::size_t(4 * (128 * y + 2 * x + at) + k)];
                        sum += kind == PixelKind::Colours && k < 3 ? light(byte) : byte;
                    }
                    const double wanted = kind == PixelKind::Colours && k < 3 ? kept(sum / 4) : sum / 4;
                    worst = std::max(worst, int(std::abs(std::lround(wanted) -
                                                         half.rgba[std::size_t(4 * (32 * y + x) + k)])));
                }
        CHECK(worst <= 1);
    }
}

TEST_CASE("normals have length 1 after they were made smaller, and larger") {
    Pixels whole{48, 48, {}};
    for (int i = 0; i < 48 * 48; ++i) {
        const double x = 0.8 * std::sin(i * 0.7), y = 0.55 * std::cos(i * 0.31),
                     z = std::sqrt(1 - x * x - y * y);
        for (const double v : {x, y, z}) whole.rgba.push_back(std::uint8_t(std::lround(127.5 * (v + 1))));
        whole.rgba.push_back(200);
    }
    for (const int edge : {7, 24, 31, 100}) {
        const Pixels other = texture::resized(whole, edge, edge, PixelKind::Normals);
        for (std::size_t p = 0; p < other.rgba.size(); p += 4) {
            glm::dvec3 n;
            for (int k = 0; k < 3; ++k) n[k] = other.rgba[p + std::size_t(k)] / 127.5 - 1;
            REQUIRE(glm::length(n) == Approx(1).epsilon(0.01));
            REQUIRE(other.rgba[p + 3] == 200);
        }
    }
}

TEST_CASE("a channel of a delivered picture is what the sheet says, to one of 255") {
    const TemporaryFolder folder;
    std::mt19937 random(11);
    constexpr const char* keys[] = {"red", "green", "blue", "alpha"};
    struct Rule {
        std::string text;
        std::function<double(const Model&, std::size_t)> wanted; ///< of a pixel, as a byte
    };
    const auto byteOf = [](const Model& m, PictureRole role, std::size_t p, std::size_t k) {
        return double(m.images[std::size_t(m.materials[0].image(role))]->pixels->rgba[4 * p + k]);
    };
    const std::vector<Rule> rules{
        {"\"roughness\"",
         [&](const Model& m, std::size_t p) {
             return byteOf(m, PictureRole::Roughness, p, 1) * m.materials[0].roughness;
         }},
        {"\"1 - roughness\"",
         [&](const Model& m, std::size_t p) {
             return 255 - byteOf(m, PictureRole::Roughness, p, 1) * m.materials[0].roughness;
         }},
        {"\"gloss\"",
         [&](const Model& m, std::size_t p) {
             return 255 - byteOf(m, PictureRole::Roughness, p, 1) * m.materials[0].roughness;
         }},
        {"\"metalness\"",
         [&](const Model& m, std::size_t p) {
             return byteOf(m, PictureRole::Metalness, p, 1) * m.materials[0].metalness;
         }},
        {"\"height\"", [&](const Model& m, std::size_t p) { return byteOf(m, PictureRole::Height, p, 1); }},
        {"\"1 - occlusion\"",
         [&](const Model& m, std::size_t p) { return 255 - byteOf(m, PictureRole::Occlusion, p, 1); }},
        {"\"normal.green\"",
         [&](const Model& m, std::size_t p) { return byteOf(m, PictureRole::Normal, p, 1); }},
        {"\"1 - normal.red\"",
         [&](const Model& m, std::size_t p) { return 255 - byteOf(m, PictureRole::Normal, p, 0); }},
        {"\"colour.blue\"",
         [&](const Model& m, std::size_t p) {
             return kept(
                 std::min(1.0, light(byteOf(m, PictureRole::Colour, p, 2)) * m.materials[0].baseColour.b));
         }},
        {"\"emission.red\"",
         [&](const Model& m, std::size_t p) {
             return kept(
                 std::min(1.0, light(byteOf(m, PictureRole::Emission, p, 0)) * m.materials[0].emission.r));
         }},
        {"\"specular.red\"", [&](const Model&, std::size_t) { return 255.0; }},
        {"\"opacity\"", [&](const Model& m, std::size_t) { return 255.0 * m.materials[0].baseColour.a; }},
        {"0.25", [&](const Model&, std::size_t) { return 63.75; }},
    };
    for (int round = 0; round < 60; ++round) {
        Model model = ballInPictures(5 + int(random() % 9), random());
        Material& material = model.materials[0];
        const auto part = [&] { return float(random() % 1000) / 999; };
        if (round % 2) {
            material.roughness = part(), material.metalness = part(),
            material.emission = {part(), part(), part()};
            material.baseColour = {part(), part(), part(), part()};
        }
        std::array<const Rule*, 4> chosen{};
        std::string section = "[[picture]]\nname = \"{material}-x\"\n";
        for (std::size_t k = 0; k < 4; ++k) {
            if (k == 3 && random() % 2) continue;
            chosen[k] = &rules[random() % rules.size()];
            section += fmt::format("{} = {}\n", keys[k], chosen[k]->text);
        }
        INFO(section);
        const auto packed = deliver::packedFor(salt(folder, section).surface.pictures.at(0), material, model);
        CHECK(packed.alpha == (chosen[3] != nullptr));
        int worst = 0;
        for (std::size_t p = 0; p < packed.pixels.rgba.size() / 4; ++p)
            for (std::size_t k = 0; k < 4; ++k) {
                const double wanted = chosen[k] ? chosen[k]->wanted(model, p) : 255;
                worst =
                    std::max(worst, int(std::ceil(std::abs(wanted - packed.pixels.rgba[4 * p + k]) - 0.5)));
            }
        CHECK(worst <= 1);
    }
}

TEST_CASE("pictures of several sizes come to the largest, or to what the sheet allows") {
    const TemporaryFolder folder;
    Model model = ballInPictures(32, 5);
    model.images[std::size_t(model.materials[0].image(PictureRole::Roughness))] = texture::pictureFromPixels(
        "rough.png", {8, 16, std::vector<std::uint8_t>(std::size_t(4) * 8 * 16, 90)}, false);
    const std::string section =
        "[[picture]]\nname = \"{material}\"\nred = \"roughness\"\ngreen = \"height\"\n";
    const auto whole =
        deliver::packedFor(salt(folder, section).surface.pictures[0], model.materials[0], model);
    CHECK(whole.pixels.width == 32);
    CHECK(whole.pixels.height == 32);
    for (std::size_t p = 0; p < whole.pixels.rgba.size(); p += 4) REQUIRE(whole.pixels.rgba[p] == 90);
    const auto small = deliver::packedFor(salt(folder, section + "most = 8\n").surface.pictures[0],
                                          model.materials[0], model);
    CHECK(small.pixels.width == 8);
    CHECK(small.pixels.height == 8);
}

TEST_CASE("a picture that lies otherwise than the leading one is drawn anew to lie as that does") {
    const TemporaryFolder folder;
    Model model = ballInPictures(16, 21);
    PictureUse& rough = model.materials[0].picture(PictureRole::Roughness);
    rough.placement.offset = {0.25f, 0}; // four pixels of sixteen
    const auto packed = deliver::packedFor(
        salt(folder, "[[picture]]\nname = \"{material}\"\nred = \"roughness\"\n").surface.pictures[0],
        model.materials[0], model);
    const Pixels& from = *model.images[std::size_t(rough.image)]->pixels;
    for (std::size_t y = 0; y < 16; ++y)
        for (std::size_t x = 0; x < 16; ++x) {
            const int wanted = from.rgba[4 * (16 * y + (x + 4) % 16) + 1];
            REQUIRE(std::abs(packed.pixels.rgba[4 * (16 * y + x)] - wanted) <= 1);
        }
    rough.uvSet = 1; // cannot be brought together: left out, with the reason, and the plain value stands
    const auto apart = deliver::packedFor(
        salt(folder, "[[picture]]\nname = \"{material}\"\nred = \"roughness\"\n").surface.pictures[0],
        model.materials[0], model);
    CHECK(apart.assumed == std::vector<std::string>{"roughness is 1"});
    REQUIRE(apart.leftOut.size() == 1);
    CHECK(apart.leftOut[0].find("other UVs") != std::string::npos);
}

TEST_CASE("blocks of DDS come close to squish's best, in less time, and levels are exact") {
    Pixels smooth{256, 256, {}};
    for (int y = 0; y < 256; ++y)
        for (int x = 0; x < 256; ++x)
            for (const double v : {128 + 90 * std::sin(x * 0.11), 128 + 90 * std::cos(y * 0.07 + x * 0.02),
                                   128 + 60 * std::sin((x + y) * 0.23), 128 + 100 * std::sin(x * 0.05)})
                smooth.rgba.push_back(std::uint8_t(v));
    const auto psnr = [&](const Pixels& other, std::size_t channels) {
        double sum = 0;
        for (std::size_t p = 0; p < smooth.rgba.size(); p += 4)
            for (std::size_t k = 0; k < channels; ++k)
                sum += std::pow(double(smooth.rgba[p + k]) - other.rgba[p + k], 2);
        return 10 * std::log10(255.0 * 255 * double(smooth.rgba.size() / 4 * channels) / sum);
    };
    for (const bool alpha : {false, true}) {
        const int kind = alpha ? squish::kDxt5 : squish::kDxt1;
        Pixels opaque = smooth;
        if (!alpha)
            for (std::size_t p = 3; p < opaque.rgba.size(); p += 4) opaque.rgba[p] = 255;
        std::string best(std::size_t(squish::GetStorageRequirements(256, 256, kind)), '\0');
        squish::CompressImage(opaque.rgba.data(), 256, 256, best.data(),
                              kind | squish::kColourIterativeClusterFit);
        Pixels back{256, 256, std::vector<std::uint8_t>(smooth.rgba.size())};
        squish::DecompressImage(back.rgba.data(), 256, 256, best.data(), kind);
        const Pixels ours = texture::readDds(alpha ? texture::writeDdsBc3(smooth, true)
                                                   : texture::writeDdsBc1(smooth, false));
        CHECK(psnr(ours, 3) > psnr(back, 3) - 0.3);
    }
    CHECK(psnr(texture::readDds(texture::writeDdsBc4(smooth, false)), 1) > 40);
    CHECK(psnr(texture::readDds(texture::writeDdsBc5(smooth, false)), 2) > 40);
    // The levels of a plain one are there to be read off: 256, 128, 64 … each the mean of the one before.
    const std::string plain = texture::writeDdsPlain(smooth, true, PixelKind::Numbers);
    CHECK(plain.size() == 128 + 4 * (65536 + 16384 + 4096 + 1024 + 256 + 64 + 16 + 4 + 1));
    const Pixels half = texture::halved(smooth, PixelKind::Numbers);
    CHECK(std::uint8_t(plain[128 + 4 * 65536 + 2]) == half.rgba[0]); // blue, green, red
    CHECK(std::uint8_t(plain[128 + 4 * 65536 + 1]) == half.rgba[1]);
    CHECK(std::memcmp(texture::writeDdsBc5(smooth, false).data() + 84, "ATI2", 4) == 0);
}

TEST_CASE("a sheet's pictures are checked with line and word") {
    const TemporaryFolder folder;
    const auto wrong = [&](const std::string& section, const std::string& why) {
        INFO(section);
        std::string said;
        try {
            salt(folder, section);
        } catch (const Error& error) {
            said = error.whole();
        }
        CHECK(said.find(why) != std::string::npos);
        CHECK(said.find("salt.toml:") != std::string::npos);
    };
    const std::string head = "[[picture]]\nname = \"{material}-a\"\n";
    wrong("[[picture]]\nname = \"base\"\nred = 1\n", "the same for every material");
    wrong(head, "holds nothing");
    wrong(head + "red = \"roughnes\"\n", "\"roughness\" perhaps");
    wrong(head + "red = \"roughness.red\"\n", "is one number");
    wrong(head + "red = \"normal\"\n", "a direction has no mean");
    wrong(head + "red = \"colour.grey\"\n", "there is no part of a colour \"grey\"");
    wrong(head + "red = 1.5\n", "a number from 0 to 1");
    wrong(head + "red = 1\nformat = \"pn\"\n", "\"png\" perhaps");
    wrong(head + "red = 1\nmost = 0\n", "1 to 32768");
    wrong(head + "red = 1\nflags = { a = [1] }\n", "is not a number");
    wrong(head + "red = 1\npurple = 1\n", "not known here");
    wrong("[material]\nname = \"metal\"\n", "called the same");
    const auto one = salt(folder, head + "red = 1\n"), other = salt(folder, head + "red = \"1 - gloss\"\n");
    CHECK(platform::hashOf(one) != platform::hashOf(other));
    CHECK(textOf(*other.surface.pictures[0].channels[0]) == "1 - gloss");
    CHECK(one.surface.materialFor("rope") == "rope");
}

TEST_CASE("a corner that differently placed pictures share becomes one for each") {
    Mesh two; // a square of two triangles, the first's picture moved
    two.positions = {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}};
    two.uvSets = {{{0, 0}, {1, 0}, {1, 1}, {0, 1}}};
    two.indices = {0, 1, 2, 0, 2, 3};
    two.runs = {{0, 1, 0}, {1, 1, 1}};
    std::vector<Material> materials(2);
    for (Material& m : materials) m.wear(PictureRole::Colour, {.image = 0});
    materials[0].picture(PictureRole::Colour).placement.offset = {0.5f, 0};
    const Mesh placed = geometry::withPlacedUvs(two, materials);
    CHECK(placed.vertexCount() == 6);
    for (std::size_t c = 0; c < 6; ++c) {
        const glm::vec2 wanted = two.uvSets[0][two.indices[c]] + glm::vec2(c < 3 ? 0.5f : 0.0f, 0);
        CHECK(glm::distance(placed.uvSets[0][placed.indices[c]], wanted) < 1e-6f);
        CHECK(placed.positions[placed.indices[c]] == two.positions[two.indices[c]]);
    }
    CHECK(triangleMaterials(placed) == std::vector<int>{0, 1});
    materials[0] = materials[1];
    CHECK(geometry::withPlacedUvs(two, materials).vertexCount() == 4);
}

TEST_CASE("three pictures of 4096 pixels are packed, and one of 8192 is shrunk, in a moment") {
    const Pixels large = noise(2048, 2048, 9); // a quarter, so that the tests stay small
    const texture::PackedChannel red{&large, PictureChannel::Red};
    const double packing = quickestOfThree([&] { texture::packedChannels({red, red, red, red}); });
    const double shrinking = quickestOfThree([&] { texture::resized(large, 512, 512, PixelKind::Colours); });
    WARN("packed " << 12 * packing << " s for three of 4096, shrunk " << 16 * shrinking
                   << " s for 8192 to 2048");
    CHECK(12 * packing < secondsAllowed(1.5));
    CHECK(16 * shrinking < secondsAllowed(0.8));
}
