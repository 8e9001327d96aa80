// Steps that change pictures, and rules about what their channels hold.
#include "core/base/error.h"
#include "core/platform/check.h"
#include "core/steps/step.h"
#include "core/texture/bled_colours.h"
#include "core/texture/picture_cache.h"
#include "core/texture/picture_file.h"
#include "support/companions.h"
#include "support/ran_step.h"
#include "support/rich_model.h"
#include "support/shapes.h"
#include "support/sheets.h"

using namespace zl;

namespace {

/// Two materials, both in one picture; the first takes its roughness from it, too.
Model twoInOne(Pixels pixels, bool alpha) {
    Model model = richModel();
    model.images = {texture::pictureFromPixels("bronze.png", std::move(pixels), alpha)};
    for (Material& material : model.materials) material.picture(PictureRole::Colour).image = 0;
    model.materials[0].wear(PictureRole::Roughness, {.image = 0, .channel = PictureChannel::Green});
    return model;
}

Pixels stripes(int width, int height) {
    Pixels out{width, height, {}};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (const int v : {x % 2 ? 255 : 0, 100, 50, x < width / 2 ? 0 : 255})
                out.rgba.push_back(std::uint8_t(v));
    return out;
}

const Image& shown(const Model& model, std::size_t material, PictureRole role = PictureRole::Colour) {
    return *model.images[std::size_t(model.materials[material].image(role))];
}
std::vector<std::uint8_t> pixelOf(const Model& model, std::size_t material, std::size_t pixel,
                                  PictureRole role = PictureRole::Colour) {
    const auto pixels = texture::pixelsOf(model.images[std::size_t(model.materials[material].image(role))]);
    return {pixels->rgba.begin() + long(4 * pixel), pixels->rgba.begin() + long(4 * pixel + 4)};
}

} // namespace

TEST_CASE("a picture is shrunk once for each kind of pixels that it is worn for, and said") {
    const Model model = twoInOne(stripes(64, 32), false);
    const auto [out, notes, shortfall, facts] =
        ranStep(model, "picture-size", {{"goal", "number"}, {"number", 32}});
    CHECK(shown(out, 0).width == 32);
    CHECK(shown(out, 0).height == 16);
    CHECK(out.materials[0].image(PictureRole::Colour) == out.materials[1].image(PictureRole::Colour));
    CHECK(out.materials[0].image(PictureRole::Roughness) != out.materials[0].image(PictureRole::Colour));
    CHECK(int(pixelOf(out, 0, 0)[0]) == 188); // half of the light, and not of the byte
    CHECK(int(pixelOf(out, 0, 0, PictureRole::Roughness)[0]) == 128);
    CHECK(model.images.size() == 1);
    REQUIRE(notes.size() == 3);
    CHECK(notes[0] == "bronze.png: 64 × 32 → 32 × 16 px");
    CHECK(notes[2].find("of memory") != std::string::npos);
}

TEST_CASE("sides become powers of two, and stay below the platform's limit") {
    const auto sides = [](int width, int height, nlohmann::json params, const char* on = nullptr) {
        const auto sheet = on ? ::sheet(on) : nullptr;
        params["of"] = {"rope"};
        const Model out =
            ranStep(twoInOne(stripes(width, height), false), "picture-size", params, sheet.get()).model;
        return std::pair(shown(out, 1).width, shown(out, 1).height);
    };
    CHECK(sides(100, 60, {{"goal", "share"}, {"share", 1.0}, {"sides", "up"}}) == std::pair(128, 64));
    CHECK(sides(100, 60, {{"goal", "share"}, {"share", 1.0}, {"sides", "down"}}) == std::pair(64, 32));
    CHECK(sides(181, 182, {{"goal", "share"}, {"share", 1.0}, {"sides", "nearest"}}) == std::pair(128, 256));
    CHECK(sides(1200, 40, {{"goal", "limit"}, {"sides", "up"}}, "lampwright") ==
          std::pair(512, 32)); // 512 there
    CHECK(sides(100, 60, {{"goal", "limit"}}, "lampwright") == std::pair(100, 60));
    CHECK(sides(700, 300, {{"goal", "number"}, {"number", 600}, {"sides", "up"}}) == std::pair(512, 512));
    CHECK(ranStep(twoInOne(stripes(8, 8), false), "picture-size", {{"goal", "limit"}})
              .shortfall.find("nothing") != std::string::npos);
    CHECK_THROWS_WITH(
        ranStep(twoInOne(stripes(8, 8), false), "picture-size", {{"of", {"tin*"}}, {"goal", "share"}}),
        Catch::Contains("\"tin*\""));
}

TEST_CASE("alpha is taken out, put in, and has colours below it") {
    Model model = twoInOne(stripes(8, 4), true);
    model.materials[0].wear(PictureRole::Opacity, {.image = 0, .channel = PictureChannel::Alpha});
    const Model dropped = ranStep(model, "picture-alpha", {{"way", "drop"}}).model;
    CHECK(shown(dropped, 0).channels == 3);
    CHECK(int(pixelOf(dropped, 0, 0)[3]) == 255);
    CHECK(dropped.materials[0].image(PictureRole::Opacity) < 0);
    CHECK(dropped.materials[0].alpha == Material::Alpha::Opaque);
    CHECK(shown(model, 0).channels == 4);
    const auto kept = ranStep(model, "picture-alpha", {{"way", "keep"}, {"bleed", true}});
    CHECK(pixelOf(kept.model, 0, 0) ==
          std::vector<std::uint8_t>{0, 100, 50, 0}); // as the nearest seen one, at x = 4
    CHECK(pixelOf(kept.model, 0, 3) == std::vector<std::uint8_t>{0, 100, 50, 0});
    CHECK(kept.notes.back() ==
          "8 clear pixels got the colour of their neighbours"); // every second of 4 in 4 rows
    model.images.push_back(texture::pictureFromPixels("mask.png", {1, 1, {10, 40, 70, 255}}, false));
    const Model put = ranStep(model, "picture-alpha",
                              {{"way", "from"}, {"picture", {{"picture", "mask.png"}}}, {"of", {"rope"}}})
                          .model;
    CHECK(int(pixelOf(put, 1, 0)[3]) == 40); // the mean
    CHECK(put.materials[1].picture(PictureRole::Opacity).channel == PictureChannel::Alpha);
    CHECK(put.materials[1].image(PictureRole::Opacity) == put.materials[1].image(PictureRole::Colour));
    CHECK(put.materials[0].image(PictureRole::Colour) == 0);
}

TEST_CASE("channels are swapped, turned over, and gloss becomes roughness") {
    const Model model = twoInOne(stripes(4, 1), false);
    const Model turned =
        ranStep(model, "turn-channels",
                {{"roles", "colour"}, {"red", "blue"}, {"green", "1-green"}, {"blue", "black"}})
            .model;
    CHECK(pixelOf(turned, 0, 1) == std::vector<std::uint8_t>{50, 155, 0, 0});
    CHECK(turned.materials[0].image(PictureRole::Roughness) == 0); // not meant
    const Model gloss = ranStep(model, "turn-channels", {{"meaning", "roughness-to-gloss"}}).model;
    CHECK(gloss.materials[0].image(PictureRole::Roughness) < 0);
    CHECK(pixelOf(gloss, 0, 1, PictureRole::Gloss) == std::vector<std::uint8_t>{0, 155, 205, 255});
    const Model back = ranStep(gloss, "turn-channels", {{"meaning", "gloss-to-roughness"}}).model;
    CHECK(int(pixelOf(back, 0, 1, PictureRole::Roughness)[1]) == 100);
    Model rough = model;
    rough.materials[0].roughness = 0.5f;
    CHECK(ranStep(rough, "turn-channels", {{"meaning", "roughness-to-gloss"}}).shortfall.find("0.5") !=
          std::string::npos);
}

TEST_CASE("colours bleed to the nearest clear pixels, all clear stays as it is") {
    Pixels one{5, 1, {}};
    for (int x = 0; x < 5; ++x)
        for (const int v : {x * 10, 0, 0, x == 1 || x == 4 ? 9 : 0}) one.rgba.push_back(std::uint8_t(v));
    CHECK(texture::bleedColours(one) == 3);
    CHECK(int(one.rgba[0]) == 10);
    CHECK(int(one.rgba[8]) == 10);
    CHECK(int(one.rgba[12]) == 40);
    CHECK(int(one.rgba[3]) == 0);
    Pixels clear{3, 2, std::vector<std::uint8_t>(24, 0)};
    CHECK(texture::bleedColours(clear) == 0);
}

TEST_CASE("rules say which alpha nobody asked for and which channels say nothing") {
    const auto salt = ::sheet("saltbranch");
    const auto found = [&](const Model& model, const char* rule) {
        return *platform::check(model, *salt).rule(rule);
    };
    const Model model = twoInOne(stripes(8, 4), true);
    CHECK(found(model, "alpha-unwanted").state == platform::State::Broken);
    CHECK(found(model, "alpha-unwanted").finding.note.find("all 1") == std::string::npos);
    Pixels opaque = stripes(8, 4);
    for (std::size_t p = 3; p < opaque.rgba.size(); p += 4) opaque.rgba[p] = 255;
    CHECK(found(twoInOne(opaque, true), "alpha-unwanted").finding.note.find("says nothing (all 1)") !=
          std::string::npos);
    CHECK(found(twoInOne(opaque, false), "alpha-unwanted").state == platform::State::Fits);
    const auto channels = found(twoInOne(opaque, false), "channels-say-something");
    CHECK(channels.state == platform::State::Broken);
    CHECK(channels.finding.note.find(
              "\"bronze\": no picture of normal, height, occlusion, emission, metalness, one value in "
              "roughness") != std::string::npos);
    Model alike = twoInOne(opaque, false);
    alike.materials[1] = alike.materials[0];
    alike.materials[1].name = "brass";
    CHECK(found(alike, "channels-say-something").finding.note.find("\"bronze\", \"brass\": no picture") !=
          std::string::npos);
    CHECK(found(alike, "channels-say-something").finding.measured == "2");
    platform::RuleSpec rule{"alpha-missing", "alpha-missing", "Alpha"};
    rule.texts["materials"] = "bron*";
    platform::Sheet own = *salt;
    own.rules = {rule};
    CHECK(platform::check(model, own).rules[0].finding.note.find("\"bronze\" has no see-through picture") !=
          std::string::npos);
    Model clear = model;
    clear.materials[0].wear(PictureRole::Opacity, {.image = 0, .channel = PictureChannel::Alpha});
    CHECK(platform::check(clear, own).rules[0].state == platform::State::Fits);
}

TEST_CASE("A picture whose material is gone is kept for when it is back, and said") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    model.materials = {{.name = "rope"}};
    Mesh mesh = *model.meshes[0];
    for (MaterialRun& run : mesh.runs) run.material = 0;
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    TestSurroundings around;
    around.pictures["rope.png"] = texture::pictureFromPixels("rope.png", {1, 1, {9, 9, 9, 255}}, false);
    const auto run = [&](const nlohmann::json& rows) {
        const Progress progress;
        steps::StepContext context{progress, nullptr, &around};
        const Model out = steps::makeStep("set-pictures", {{"pictures", rows}})->apply(model, context);
        return std::pair(out.images.size(), context.shortfall);
    };
    const auto row = [](const char* of) {
        return nlohmann::json{{"picture", {{"file", "rope.png"}}}, {"of", {of}}};
    };
    const auto both = run(nlohmann::json::array({row("rope"), row("sail")}));
    CHECK(both.first == 1);
    CHECK(both.second.find("sail") != std::string::npos);
    CHECK(run(nlohmann::json::array({row("rope")})).second.empty());
    CHECK_THROWS_WITH(run(nlohmann::json::array({row("sail")})),
                      Catch::Contains("no material is called \"sail\""));
}
