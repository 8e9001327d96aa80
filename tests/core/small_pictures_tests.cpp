// Pictures of few bytes: what formats take and hold, and which one loses least.
#include "core/base/error.h"
#include "core/texture/fitted_picture.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "support/ran_step.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"

#include <set>

using namespace zl;
using texture::SmallFormat;

namespace {

Pixels painted(int width, int height, const std::function<glm::ivec4(int, int)>& colour) {
    Pixels out{width, height, {}};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int k = 0; k < 4; ++k) out.rgba.push_back(std::uint8_t(colour(x, y)[k]));
    return out;
}

Model wearing(Pixels pixels, const std::string& name = "sail.png") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    Mesh mesh = *model.meshes[0];
    mesh.uvSets = {std::vector<glm::vec2>(mesh.vertexCount())};
    mesh.runs[0].material = 0;
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    model.images = {texture::pictureFromPixels(name, std::move(pixels), true)};
    model.materials.push_back({.name = "sail"});
    model.materials[0].picture(PictureRole::Colour).image = 0;
    return model;
}

} // namespace

TEST_CASE("What a picture takes: bits a pixel, and palettes of 16 bits a colour") {
    CHECK(texture::bytesHeld(SmallFormat::Colour16, 32, 32) == 2048);
    CHECK(texture::bytesHeld(SmallFormat::GreyAlpha8, 64, 32) == 2048);
    CHECK(texture::bytesHeld(SmallFormat::Grey4, 64, 64) == 2048);
    CHECK(texture::bytesHeld(SmallFormat::Palette256, 32, 64) == 2048 + 512);
    CHECK(texture::bytesHeld(SmallFormat::Palette16, 64, 64) == 2048 + 32);
    CHECK(texture::bytesHeld(SmallFormat::Grey4, 1, 1) == 1);
}

TEST_CASE("The smallest format is the one of fewest bytes that changes nothing") {
    const auto smallest = [](const std::function<glm::ivec4(int, int)>& colour) {
        return texture::smallestFor(painted(64, 64, colour));
    };
    CHECK(smallest([](int x, int) {
              return glm::ivec4(17 * (x % 16)) * glm::ivec4(1, 1, 1, 0) + glm::ivec4(0, 0, 0, 255);
          }) == SmallFormat::Grey4);
    CHECK(smallest([](int x, int y) { return glm::ivec4(glm::ivec3(17 * (x % 16)), 17 * (y % 16)); }) ==
          SmallFormat::GreyAlpha8);
    CHECK(smallest([](int x, int) {
              return x % 2 ? glm::ivec4(255, 0, 0, 255) : glm::ivec4(0, 0, 255, 0);
          }) == SmallFormat::Palette16);
    CHECK(smallest([](int x, int y) { return glm::ivec4((x % 16) * 255 / 31, 0, y * 0, 255); }) !=
          SmallFormat::Grey4);
    // Colours that no word of 16 bits holds.
    CHECK(smallest([](int x, int y) { return glm::ivec4(x * 3 + 1, y * 3 + 2, 100, 255); }) ==
          SmallFormat::Colour16);
}

TEST_CASE("A picture as held stays as it is when it is held again") {
    const Pixels source =
        painted(32, 16, [](int x, int y) { return glm::ivec4(x * 8, y * 15, 255 - x * 5, x < 3 ? 0 : 255); });
    for (const auto& info : texture::allSmallFormats())
        for (const bool dithered : {false, true}) {
            const Pixels once = texture::asHeld(source, info.format, dithered);
            CHECK(once.rgba.size() == source.rgba.size());
            const SmallFormat smallest = texture::smallestFor(once);
            CHECK(texture::bytesHeld(smallest, 32, 16) <= texture::bytesHeld(info.format, 32, 16));
            if (info.colours == 0) CHECK(texture::asHeld(once, info.format, false).rgba == once.rgba);
            std::set<std::array<std::uint8_t, 4>> colours;
            for (std::size_t p = 0; p < once.rgba.size(); p += 4)
                colours.insert({once.rgba[p], once.rgba[p + 1], once.rgba[p + 2], once.rgba[p + 3]});
            if (info.colours > 0) CHECK(colours.size() <= std::size_t(info.colours));
        }
}

TEST_CASE("Dithering keeps the mean where rounding would move it") {
    const Pixels even = painted(64, 64, [](int, int) { return glm::ivec4(100, 100, 100, 255); });
    const auto meanOf = [](const Pixels& pixels) {
        double sum = 0;
        for (std::size_t p = 0; p < pixels.rgba.size(); p += 4) sum += pixels.rgba[p];
        return sum / double(pixels.rgba.size() / 4);
    };
    CHECK(meanOf(texture::asHeld(even, SmallFormat::Grey4, false)) == Approx(102)); // the nearest of 16
    CHECK(meanOf(texture::asHeld(even, SmallFormat::Grey4, true)) == Approx(100).margin(0.3));
}

TEST_CASE("Choices keep to the bytes, and a picture of few colours is not shrunk for nothing") {
    const Progress progress;
    const Pixels flag = painted(64, 64, [](int x, int y) {
        return (x / 8 + y / 8) % 2 ? glm::ivec4(255, 0, 0, 255) : glm::ivec4(0, 0, 255, 255);
    });
    const auto choices = texture::smallChoices(flag, 3072, true, progress);
    REQUIRE(choices.size() == texture::allSmallFormats().size());
    for (const auto& choice : choices) CHECK(choice.bytes <= 3072);
    CHECK(choices[0].format == SmallFormat::Palette16);
    CHECK(choices[0].width == 64);
    CHECK(choices[0].error == 0);
    // Nothing fits into a few bytes but what has no palette.
    for (const auto& choice : texture::smallChoices(flag, 40, true, progress))
        CHECK(texture::infoOf(choice.format).colours <= 16);
    CHECK(texture::smallChoices(flag, 1, true, progress).empty());
    const Pixels strip = painted(300, 5, [](int x, int) { return glm::ivec4(x % 256, 0, 0, 255); });
    for (const auto& choice : texture::smallChoices(strip, 3072, false, progress)) {
        CHECK((choice.width & (choice.width - 1)) == 0);
        CHECK(choice.height == 4);
    }
}

TEST_CASE("Picture bytes: takes the platform's limit, offers others, and keeps what was chosen") {
    const Model model =
        wearing(painted(128, 128, [](int x, int y) { return glm::ivec4(x * 2, y * 2, 128, 255); }));
    const auto sheet = sheetWith("id = \"texture-bytes\"\nmost = 3072");
    const auto ran = ranStep(model, "picture-bytes", nlohmann::json::object(), &sheet);
    CHECK(ruleResult(model, "id = \"texture-bytes\"\nmost = 3072").state == platform::State::Broken);
    CHECK(ruleResult(ran.model, "id = \"texture-bytes\"\nmost = 3072").state == platform::State::Fits);
    CHECK(ran.facts["pictures"][0]["choices"].size() == 5);
    REQUIRE(ran.facts["offers"].size() == 2);
    const auto other =
        ranStep(model, "picture-bytes", {{"choices", ran.facts["offers"][0]["params"]["choices"]}}, &sheet);
    CHECK(other.facts["pictures"][0]["choices"] != ran.facts["pictures"][0]["choices"]); // another is taken
    const auto small =
        ranStep(model, "picture-bytes",
                {{"choices", {{{"picture", "sail*"}, {"as", "grey-4"}, {"edge", 16}}}}}, &sheet);
    CHECK(small.model.images[std::size_t(small.model.materials[0].image(PictureRole::Colour))]->width == 16);
    // Again, nothing is left to do.
    CHECK(ranStep(ran.model, "picture-bytes", nlohmann::json::object(), &sheet).notes ==
          std::vector<std::string>{"every picture takes at most 3072 bytes"});
    CHECK_THROWS_AS(ranStep(model, "picture-bytes", nlohmann::json::object()), Error);
}
