// Pictures resized and packed as a sheet says: against closed forms worked out here.
#include "core/base/error.h"
#include "core/deliver/deliver.h"
#include "core/deliver/packed_pictures.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"
#include "core/texture/pack_channels.h"
#include "core/texture/picture_file.h"
#include "core/texture/picture_format.h"
#include "standins/shed/asset.h"
#include "standins/shed/shed_arena.h"
#include "support/quickest.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <squish.h>
#include <toml++/toml.h>

#include <cstring>
#include <random>

using namespace zl;
using texture::PixelKind;

namespace {

Pixels noise(int width, int height, unsigned seed) {
    std::mt19937 random(seed);
    Pixels out{width, height, {}};
    for (int i = 0; i < 4 * width * height; ++i) out.rgba.push_back(std::uint8_t(random() % 256));
    return out;
}

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

/// A ball in one material that wears random pictures in all roles that Saltbranch's pictures are made of.
Model ballInPictures(int edge, unsigned seed) {
    Model model = shapes::modelOf(shapes::sphere(12, 8), "ball");
    model.materials = {{.name = "rope"}};
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, std::uint32_t(mesh->triangleCount()), 0}};
    if (mesh->uvSets.empty()) {
        mesh->uvSets.emplace_back();
        for (const glm::vec3& p : mesh->positions) mesh->uvSets[0].push_back({p.x, p.z});
    }
    model.meshes[0] = mesh;
    for (const PictureRole role :
         {PictureRole::Colour, PictureRole::Normal, PictureRole::Height, PictureRole::Roughness,
          PictureRole::Occlusion, PictureRole::Emission, PictureRole::Metalness}) {
        model.materials[0].wear(role,
                                {.image = int(model.images.size()),
                                 .channel = isScalar(role) ? PictureChannel::Green : PictureChannel::Colour});
        model.images.push_back(texture::pictureFromPixels(std::string(roleName(role)) + ".png",
                                                          noise(edge, edge, seed++), false));
    }
    return model;
}

const OutFile* fileIn(const std::vector<OutFile>& files, const std::string& name) {
    for (const OutFile& file : files)
        if (file.name == name) return &file;
    return nullptr;
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

TEST_CASE("an asset folder holds the mesh, three pictures a material and what is in them") {
    const auto sheet = ::sheet("saltbranch");
    Model model = ballInPictures(16, 40);
    model.images.push_back(texture::pictureFromPixels("clear.png", noise(4, 4, 1), true));
    model.materials[0].picture(PictureRole::Colour).image =
        int(model.images.size()) - 1; // has an alpha channel
    model.materials[0].picture(PictureRole::Emission) = {};
    model.materials[0].emission = glm::vec3(0);
    for (const PictureRole role : allPictureRoles)
        if (PictureUse& use = model.materials[0].picture(role); use)
            use.placement = {{0.1f, 0.2f}, {2, 3}, 0.5f};
    const auto files = deliver::deliverableFor(*sheet, {{"sort", "bollard"}, {"words", "rope quay"}})
                           ->make(model, *sheet, {.name = "Rope bollard", .credit = "Mira Quill"}, {});
    const OutFile *base = fileIn(files, "rope-base.png"), *relief = fileIn(files, "rope-relief.png"),
                  *props = fileIn(files, "rope-props.png");
    REQUIRE((base && relief && props));
    CHECK(int(base->bytes[25]) == 2); // PNG's kind of colour: three channels, and no alpha anywhere
    CHECK(int(relief->bytes[25]) == 6);
    CHECK(base->bytes.find("tRNS") == std::string::npos);
    const auto beside = toml::parse(fileIn(files, "rope-props.png.picture.toml")->bytes);
    CHECK(beside["material"].value_or(std::string()) == "rope@metal");
    CHECK(beside["alpha"].value_or(std::string()) == "metalness");
    CHECK(beside["assumed"][0].value_or(std::string()) == "emission is 0");
    CHECK(beside["flags"]["curve"].value_or(std::string()) == "linear");
    const auto about = toml::parse(fileIn(files, "rope-bollard.asset.toml")->bytes);
    CHECK(about["sort"].value_or(std::string()) == "bollard");
    CHECK(about["words"].as_array()->size() == 2);
    CHECK(about["material"][0]["pictures"].as_array()->size() == 3);
    CHECK(fileIn(files, "preview.png"));
    CHECK(model.materials[0].name == "rope"); // the project keeps the plain name
    const TemporaryFolder folder;
    writeAllOrNone(folder.path(), files);
    const Model back = formats::readModel(folder / "rope-bollard.glb");
    CHECK(back.images.empty());
    CHECK(back.materials[0].name == "rope@metal");
    // Corner by corner: those at the seam may be numbered otherwise.
    const Mesh &was = *model.meshes[0], &is = *back.meshes[0];
    const UvPlacement& lies = model.materials[0].picture(PictureRole::Normal).placement;
    REQUIRE(is.indices.size() == was.indices.size());
    for (std::size_t c = 0; c < is.indices.size(); ++c)
        REQUIRE(glm::distance(is.uvSets[0][is.indices[c]], lies.of(was.uvSets[0][was.indices[c]])) < 1e-5);
    auto plain = *::sheet("oxbow");
    plain.deliverable = "asset-folder";
    CHECK_THROWS_WITH(deliver::deliverableFor(plain)->make(model, plain, {}, {}),
                      Catch::Contains("names no pictures"));
}

TEST_CASE("the display shed refuses what the railway world refuses, and says what is harmless") {
    const auto salt = ::sheet("saltbranch");
    Model model = ballInPictures(16, 77);
    model.nodes[0].local = glm::translate(glm::dmat4(1.0), {0, -geometry::worldBounds(model).min.y, 0});
    model.materials[0].picture(PictureRole::Emission) = {};
    const auto files =
        deliver::deliverableFor(*salt, {{"sort", "bollard"}})->make(model, *salt, {.name = "ball"}, {});
    const auto tried = [&](const std::string& name, const std::function<void(std::string&)>& change) {
        const TemporaryFolder folder;
        std::vector<OutFile> other;
        for (OutFile file : files) {
            if (file.name == name && !change) continue;
            if (file.name == name) change(file.bytes);
            other.push_back(std::move(file));
        }
        writeAllOrNone(folder.path(), other);
        return standins::shed::tryFolder(folder.path());
    };
    const auto replaced = [](const char* from, const char* to) {
        return [=](std::string& bytes) {
            const std::size_t at = bytes.find(from);
            REQUIRE(at != std::string::npos);
            bytes.replace(at, std::strlen(from), to);
        };
    };
    const auto whole = tried("", {});
    CHECK(whole.accepted);
    const auto says = [](const standins::TryReport& report, standins::Message::Kind kind, const char* text) {
        return std::ranges::any_of(report.messages, [&](const standins::Message& message) {
            return message.kind == kind && message.text.find(text) != std::string::npos;
        });
    };
    using Kind = standins::Message::Kind;
    CHECK(says(whole, Kind::Odd, "emission is 1"));
    const auto refuses = [&](const standins::TryReport& report, const char* text) {
        INFO(text);
        CHECK_FALSE(report.accepted);
        CHECK(says(report, Kind::Refused, text));
    };
    const Pixels grey{16, 16, std::vector<std::uint8_t>(1024, 90)};
    refuses(tried("rope-base.png", [&](std::string& b) { b = texture::encodePng(grey, true); }),
            "has an alpha channel");
    refuses(tried("rope-relief.png", [&](std::string& b) { b = texture::encodePng(grey, false); }),
            "has no alpha channel");
    refuses(tried("rope-props.png", [&](std::string& b) { b = png(8, 16); }), "it says otherwise");
    refuses(tried("rope-props.png.picture.toml", replaced("rope-props.png", "rope-base.png")),
            "about another picture");
    refuses(tried("rope-props.png.picture.toml", replaced("width = ", "width = = ")), "cannot be read");
    refuses(tried("ball.asset.toml", replaced("rope@metal", "rope")), "does not end in @metal");
    refuses(tried("ball.asset.toml", replaced("rope-props.png", "rope-prop.png")), "has no props picture");
    refuses(tried("ball.asset.toml", replaced("version = 1", "version = 9")), "no description");
    refuses(tried("ball.asset.toml", replaced("rope-base.png", "../a-base.png")), "");
    refuses(tried("ball.asset.toml", {}), "There is no .asset.toml");
    CHECK(says(tried("ball.asset.toml", replaced("sort = \"bollard\"\n", "")), Kind::Odd,
               "what sort of thing"));
    // The same as COLLADA stands in the same place, in the same materials.
    standins::TryReport asGlb, asCollada;
    const TemporaryFolder glb, dae;
    writeAllOrNone(glb.path(), files);
    writeAllOrNone(dae.path(), deliver::deliverableFor(*salt, {{"format", "dae"}, {"sort", "bollard"}})
                                   ->make(model, *salt, {.name = "ball"}, {}));
    CHECK(std::filesystem::exists(dae / "ball.dae"));
    const auto one = standins::shed::loadAsset(glb.path(), asGlb),
               other = standins::shed::loadAsset(dae.path(), asCollada);
    REQUIRE(one);
    REQUIRE(other);
    CHECK(other->triangles == one->triangles);
    CHECK(glm::distance(other->low, one->low) < 1e-5f);
    CHECK(glm::distance(other->high, one->high) < 1e-5f);
    REQUIRE(other->items.size() == one->items.size());
    const auto cornersOf =
        [](const standins::world::Shape& shape) { // place and UV of each triangle's corners
            std::vector<std::array<float, 5>> out;
            for (const std::uint32_t i : shape.indices)
                out.push_back({shape.positions[i].x, shape.positions[i].y, shape.positions[i].z,
                               shape.uvs[i].x, shape.uvs[i].y});
            return out;
        };
    const auto a = cornersOf(one->items[0].shape), b = cornersOf(other->items[0].shape);
    REQUIRE(a.size() == b.size());
    float off = 0;
    for (std::size_t i = 0; i < a.size(); ++i)
        for (std::size_t k = 0; k < 5; ++k) off = std::max(off, std::abs(a[i][k] - b[i][k]));
    CHECK(off < 1e-5f);
    std::string spoilt;
    for (const OutFile& file :
         deliver::deliverableFor(*salt, {{"format", "dae"}})->make(model, *salt, {.name = "ball"}, {}))
        if (file.name == "ball.dae") spoilt = file.bytes;
    spoilt.replace(spoilt.find("Z_UP"), 4, "Y_UP");
    std::ofstream(dae / "ball.dae", std::ios::binary) << spoilt;
    refuses(standins::shed::tryFolder(dae.path()), "declares Y_UP");

    model.nodes[0].local = glm::dmat4(1.0);
    const TemporaryFolder sunk;
    writeAllOrNone(sunk.path(), deliver::deliverableFor(*salt)->make(model, *salt, {.name = "ball"}, {}));
    refuses(standins::shed::tryFolder(sunk.path()), "the ground");
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
