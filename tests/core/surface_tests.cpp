// Rules about pictures as they are delivered, and the steps that mend them: tiling, relief, memory, kinds and
// names, colours and normals.
#include "core/base/error.h"
#include "core/geometry/world.h"
#include "core/platform/cost.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_cache.h"
#include "core/texture/tiling.h"
#include "core/uv/relief.h"
#include "support/panels.h"
#include "support/ran_step.h"
#include "support/rich_model.h"
#include "support/rule_sheet.h"

#include <random>

using namespace zl;
using platform::State;

namespace {

Pixels drawn(int width, int height, const std::function<glm::ivec4(int, int)>& at) {
    Pixels out{width, height, {}};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int k = 0; k < 4; ++k) out.rgba.push_back(std::uint8_t(std::clamp(at(x, y)[k], 0, 255)));
    return out;
}

std::shared_ptr<const Image> picture(const std::string& name, Pixels pixels, bool alpha = false) {
    return texture::pictureFromPixels(name, std::move(pixels), alpha);
}

/// Left half flat, right half bent round a post of 10 cm; each shows its half of the picture.
Model halfBent(Pixels heights) {
    const double r = 0.1;
    Model model = shapes::pictured(
        {shapes::panel(
             8, 8, [](double x, double y) { return glm::dvec3(x - 1, y, 0); },
             [](double x, double y) { return glm::dvec2(x / 2, y); }),
         shapes::panel(
             64, 8,
             [&](double x, double y) { return glm::dvec3(r * std::sin(x / r), y, r * std::cos(x / r) - r); },
             [](double x, double y) { return glm::dvec2(0.5 + x / 2, y); })});
    model.images.push_back(picture("cloth-h.png", std::move(heights)));
    model.materials[0].picture(PictureRole::Height).image = 1;
    return model;
}

double meanOf(const Model& model, PictureRole role, int fromX, int toX) {
    const auto pixels = texture::pixelsOf(model.images[std::size_t(model.materials[0].image(role))]);
    double sum = 0;
    for (int y = 0; y < pixels->height; ++y)
        for (int x = fromX; x < toX; ++x) sum += pixels->rgba[4 * std::size_t(y * pixels->width + x)];
    return sum / double(pixels->height * (toX - fromX));
}

} // namespace

TEST_CASE("how a picture goes on at its borders is measured against what is usual within") {
    const Pixels ramp = drawn(64, 32, [](int x, int) { return glm::ivec4(4 * x, 4 * x, 4 * x, 255); });
    const texture::Tiling tiling = texture::tilingOf(ramp);
    CHECK(tiling.across.border == 252);
    CHECK(tiling.across.usual == 4);
    CHECK(tiling.down.seam() == 0);
    const Pixels wave = drawn(64, 64, [](int x, int y) {
        const int v = int(128 + 90 * std::sin(x * shapes::pi / 32) * std::cos(y * shapes::pi / 32));
        return glm::ivec4(v, v, v, 255);
    });
    CHECK(texture::tilingOf(wave).seam() < 1);
    CHECK(texture::tilingOf(drawn(1, 1, [](int, int) { return glm::ivec4(7); })).seam() == 0);
}

TEST_CASE("made to tile, a picture goes on at its borders and is itself in the middle") {
    std::mt19937 dice(5);
    std::uniform_int_distribution<int> noise(0, 60);
    const Pixels ramp =
        drawn(128, 64, [&](int x, int y) { return glm::ivec4(x + noise(dice), 2 * y, 90, 255); });
    for (const auto kind : {texture::PixelKind::Colours, texture::PixelKind::Numbers}) {
        const Pixels tiled = texture::madeToTile(ramp, true, true, 0.2, kind);
        CHECK(texture::tilingOf(ramp).seam() > 40);
        CHECK(texture::tilingOf(tiled).seam() < 3);
        for (int y = 14; y < 50; ++y)
            for (int x = 27; x < 100; ++x)
                for (std::size_t k = 0; k < 4; ++k) {
                    const std::size_t at = 4 * std::size_t(y * 128 + x) + k;
                    REQUIRE(std::abs(int(tiled.rgba[at]) - int(ramp.rgba[at])) <= 1);
                }
    }
    const Pixels across = texture::madeToTile(ramp, true, false, 0.2, texture::PixelKind::Numbers);
    CHECK(texture::tilingOf(across).across.seam() < 3);
    CHECK(texture::tilingOf(across).down.seam() > 40);
    const Pixels bumps =
        drawn(32, 32, [](int x, int) { return glm::ivec4(128 + 3 * (x - 16), 128, 245, 255); });
    const Pixels flat = texture::madeToTile(bumps, true, true, 0.3, texture::PixelKind::Normals);
    for (std::size_t p = 0; p < flat.rgba.size(); p += 4) {
        const glm::dvec3 n(flat.rgba[p] / 127.5 - 1, flat.rgba[p + 1] / 127.5 - 1,
                           flat.rgba[p + 2] / 127.5 - 1);
        REQUIRE(glm::length(n) == Approx(1).margin(0.01));
    }
}

TEST_CASE("pictures are to tile where they repeat, and Seamless mends it") {
    Model model = shapes::pictured({shapes::uprightSquare(1)});
    model.images[0] =
        picture("cloth.png", drawn(64, 64, [](int x, int) { return glm::ivec4(3 * x, 0, 0, 255); }));
    CHECK(ruleResult(model, "id = \"tiles\"").state == State::Fits); // it stands there once
    Mesh wide = *model.meshes[0];
    for (glm::vec2& uv : wide.uvSets[0]) uv.y *= 3;
    model.meshes[0] = std::make_shared<const Mesh>(wide);
    CHECK(ruleResult(model, "id = \"tiles\"").state == State::Fits); // above itself it goes on
    for (glm::vec2& uv : wide.uvSets[0]) uv.x *= 3;
    model.meshes[0] = std::make_shared<const Mesh>(wide);
    const auto broken = ruleResult(model, "id = \"tiles\"");
    CHECK(broken.state == State::Broken);
    CHECK(broken.finding.note.find("\"cloth.png\" shows where it ends") == 0);
    CHECK(broken.finding.materials == std::vector<int>{0});
    const auto mended = ranStep(model, "seamless", nlohmann::json::object());
    CHECK(ruleResult(mended.model, "id = \"tiles\"").state == State::Fits);
    CHECK(mended.notes[0].find("cloth.png: ") == 0);
    // What tiles already is not blurred, unless it lies on a picture that is mended.
    Model two = model;
    const auto checks = [](int x, int y) {
        return glm::ivec4(glm::ivec3((x / 4 + y / 4) % 2 ? 200 : 60), 255);
    };
    two.images.push_back(picture("weave.png", drawn(64, 64, checks)));
    two.materials[0].wear(PictureRole::Height, {.image = 1});
    const auto both = ranStep(two, "seamless", nlohmann::json::object());
    const auto heightOf = [](const Model& m) {
        return m.images[std::size_t(m.materials[0].image(PictureRole::Height))];
    };
    CHECK(heightOf(both.model) != two.images[1]);
    const auto alone = ranStep(two, "seamless", {{"roles", "height"}});
    CHECK(alone.notes[0] == "weave.png goes on already");
    CHECK(heightOf(alone.model) == two.images[1]);
    model.materials[0].picture(PictureRole::Colour).sampler.across = Beyond::Mirror;
    CHECK(ruleResult(model, "id = \"tiles\"").state == State::Fits);
}

TEST_CASE("relief on curves is measured by height and area, and fades there alone") {
    const auto stripes = [](int x, int y) {
        return glm::ivec4(glm::ivec3((x / 2 + y / 2) % 2 ? 200 : 60), 255);
    };
    const Model model = halfBent(drawn(128, 64, stripes));
    const uv::UvFaces faces = uv::uvFaces(model);
    const double bend = glm::radians(60.0);
    CHECK(uv::reliefOf(model, faces, bend).onCurves == Approx(0.5).margin(0.01));
    CHECK(uv::reliefOf(model, faces, 20).onCurves == 0); // a post of 10 cm turns by 10 radians a metre
    CHECK(ruleResult(model, "id = \"relief-on-curves\"\nmost = 20\nbend = 60").state == State::Broken);
    CHECK(ruleResult(model, "id = \"relief-on-curves\"\nmost = 60").state != State::Broken);
    const auto ran = ranStep(model, "relief", {{"strength", 0.5}});
    CHECK(ran.facts["on-curves"]["after"].get<double>() < 0.02);
    const auto pixels = texture::pixelsOf(ran.model.images[2]);
    CHECK(int(pixels->rgba[4 * (64 * 5 + 1)]) != 0);
    const auto at = [&](int x, int y) { return int(pixels->rgba[4 * std::size_t(y * 128 + x)]); };
    CHECK(at(10, 0) == 165); // half of 70 above 130
    CHECK(at(8, 0) == 95);
    CHECK(at(100, 0) == 130);
    CHECK(at(102, 0) == 130);
    CHECK(meanOf(model, PictureRole::Height, 0, 128) == Approx(130));
    CHECK(ranStep(model, "relief", {{"fade", false}, {"strength", 2.0}})
              .facts["on-curves"]["after"]
              .get<double>() == Approx(0.5).margin(0.02));
    CHECK(
        ranStep(shapes::pictured({shapes::uprightSquare(1)}), "relief", nlohmann::json::object()).notes[0] ==
        "no such material has a height picture");
    CHECK(ruleResult(shapes::pictured({shapes::uprightSquare(1)}), "id = \"relief-on-curves\"\nmost = 0")
              .finding.measured == "no height");
    // What flat and curved parts share fades for both, and that is said.
    Model shared = model;
    Mesh flat = *model.meshes[0];
    for (glm::vec2& uv : flat.uvSets[0]) uv.x += 0.5f;
    shared.meshes[0] = std::make_shared<const Mesh>(flat);
    CHECK(ranStep(shared, "relief", nlohmann::json::object()).shortfall.find("100 % of what fades") == 0);
}

TEST_CASE("UVs are inside, apart, and as dense as is wanted") {
    const Model fine = shapes::pictured({shapes::uprightSquare(2)}, 128, 128);
    CHECK(ruleResult(fine, "id = \"uv-inside\"").state == State::Fits);
    CHECK(ruleResult(fine, "id = \"uv-overlap\"").finding.measured == "none");
    CHECK(ruleResult(fine, "id = \"texel-density\"\nleast = 60\nmost = 70").finding.measured == "64 a metre");
    CHECK(ruleResult(fine, "id = \"texel-density\"\nleast = 65\nmost = 70").state == State::Broken);
    Model two = shapes::pictured({shapes::uprightSquare(2), shapes::uprightSquare(8, 3)}, 128, 128);
    const auto density = ruleResult(two, "id = \"texel-density\"\nleast = 30\nmost = 70");
    CHECK(density.state == State::Broken);
    CHECK(density.finding.value == Approx(16));
    CHECK(density.finding.faces.size() == two.meshes[1]->triangleCount());
    CHECK(density.finding.faces[0].node == 1);
    CHECK(density.finding.note ==
          "From \"cloth\" of \"panel 2\" with 16 to \"cloth\" of \"panel 1\" with 64 pixels along a metre");
    const auto overlap = ruleResult(two, "id = \"uv-overlap\"");
    CHECK(overlap.state == State::Broken);
    CHECK(overlap.finding.value == Approx(100));
    CHECK(overlap.finding.faces.size() == 64);
    Mesh out = *two.meshes[1];
    for (glm::vec2& uv : out.uvSets[0]) uv.x += 0.5f;
    two.meshes[1] = std::make_shared<const Mesh>(out);
    const auto inside = ruleResult(two, "id = \"uv-inside\"");
    CHECK(inside.state == State::Broken);
    CHECK(inside.finding.note ==
          "16 triangles reach beyond the picture's borders, by up to 0.5 of its width");
    out.uvSets.clear();
    two.meshes[1] = std::make_shared<const Mesh>(out);
    CHECK(ruleResult(two, "id = \"uv-inside\"").finding.note == "32 triangles have no UVs");
    CHECK(ruleResult(shapes::box({0, 0, 0}, {1, 1, 1}), "id = \"texel-density\"\nleast = 30\nmost = 70")
              .finding.measured == "no picture");
    // Faces that lie on one pixel are plain, however large; a picture that has shrunk to a line is not.
    Mesh dot = *fine.meshes[0];
    for (glm::vec2& uv : dot.uvSets[0]) uv = {0.3f, 0.7f};
    two.meshes[0] = std::make_shared<const Mesh>(dot), two.meshes[1] = fine.meshes[0];
    CHECK(ruleResult(two, "id = \"texel-density\"\nleast = 60\nmost = 70").finding.note ==
          "\"cloth\" of \"panel 2\" with 64 pixels along a metre");
    two.meshes[1] = two.meshes[0];
    CHECK(ruleResult(two, "id = \"texel-density\"\nleast = 60\nmost = 70").finding.measured == "plain");
    for (std::size_t v = 0; v < dot.uvSets[0].size(); ++v) dot.uvSets[0][v].x = float(v);
    two.meshes[1] = std::make_shared<const Mesh>(dot);
    CHECK(ruleResult(two, "id = \"texel-density\"\nleast = 60\nmost = 70").state == State::Broken);
}

TEST_CASE("kinds, names and memory are those of what is delivered") {
    Model model = shapes::pictured({shapes::uprightSquare(2)}, 256, 128);
    CHECK(ruleResult(model, "id = \"picture-format\"\nformats = \"png, tga\"").state == State::Fits);
    const auto kind = ruleResult(model, "id = \"picture-format\"\nformats = \"dds\"");
    CHECK(kind.state == State::Broken);
    CHECK(kind.finding.note == "\"cloth.png\" is PNG");
    const Model dds = ranStep(model, "picture-kind", {{"kind", "dds-bc1"}}).model;
    CHECK(ruleResult(dds, "id = \"picture-format\"\nformats = \"dds\"").state == State::Fits);
    CHECK(dds.images[1]->name == "cloth.dds");
    CHECK(ranStep(model, "picture-kind", {{"kind", "png"}}).notes[0] == "every picture is of that kind");
    const Model alpha = [&] {
        Model out = model;
        out.images[0] =
            picture("cloth.png", drawn(8, 8, [](int x, int) { return glm::ivec4(9, 9, 9, 30 * x); }), true);
        return out;
    }();
    CHECK(ranStep(alpha, "picture-kind", {{"kind", "jpeg"}}).shortfall == "the alpha of cloth.png is lost");
    const auto memory = ruleResult(model, "id = \"texture-memory\"\nmost-megabytes = 1");
    CHECK(memory.finding.value == Approx(256 * 128 * 4 * 4 / 3 / 1e6));
    CHECK(ruleResult(model, "id = \"texture-memory\"\nmost-megabytes = 0.1").state == State::Broken);
    const std::string names = "id = \"file-names\"\npattern = \"[a-z]{1,5}\"\nwanted = \"five letters\"";
    CHECK(ruleResult(model, names).state == State::Fits);
    auto renamed = std::make_shared<Image>(*model.images[0]);
    renamed->name = "Cloth.png";
    model.images[0] = renamed;
    CHECK(ruleResult(model, names).finding.note == "\"Cloth\" cannot be a file's name there");
    const std::string packed =
        "\n[[picture]]\nname = \"{material}-base\"\nred = \"colour.red\"\nformat = \"dds-bc1\"\nmost = 64\n";
    const auto all = platform::check(model, sheetWith(names + packed, {.pictureFormats = {"dds-bc1"}}));
    CHECK(all.rules[0].finding.note == "\"cloth-base\" cannot be a file's name there");
    const auto small =
        platform::check(model, sheetWith("id = \"texture-memory\"\nmost-megabytes = 1" + packed));
    CHECK(small.rules[0].finding.value == Approx(64 * 32 * 0.5 * 4 / 3 / 1e6)); // half a byte a pixel
    CHECK_THROWS_WITH(
        sheetWith("id = \"picture-format\"\nformats = \"png, tgaa\"", {.pictureFormats = {"png", "tga"}}),
        Catch::Contains("tgaa") && Catch::Contains("tga"));
}

TEST_CASE("a plain colour becomes a picture, and a picture a plain colour") {
    Model model = shapes::modelOf(geometry::boxMesh({0, 0, 0}, {1, 1, 1}), "chest");
    Mesh mesh = *model.meshes[0];
    mesh.uvSets.clear();
    mesh.runs[0].material = 0;
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    model.materials = {{.name = "tin", .baseColour = {0.5f, 0.25f, 0.05f, 1}}};
    const auto ran = ranStep(model, "colour-to-picture", {{"edge", 8}});
    const int image = ran.model.materials[0].image(PictureRole::Colour);
    REQUIRE(image == 0);
    CHECK(ran.model.images[0]->name == "tin.png");
    CHECK(ran.model.images[0]->width == 8);
    const auto pixels = texture::pixelsOf(ran.model.images[0]);
    CHECK(int(pixels->rgba[0]) == 188); // 0.5 as sRGB keeps it (IEC 61966-2-1)
    CHECK(int(pixels->rgba[1]) == 137);
    CHECK(int(pixels->rgba[2]) == 63);
    CHECK(ran.model.materials[0].baseColour == glm::vec4(1));
    CHECK(ran.model.meshes[0]->uvSets.size() == 1);
    CHECK(ran.notes[1] == "1 part without UVs lie on its middle");
    const Model back = ranStep(ran.model, "picture-to-colour", nlohmann::json::object()).model;
    CHECK(back.materials[0].image(PictureRole::Colour) < 0);
    for (int k = 0; k < 3; ++k)
        CHECK(back.materials[0].baseColour[k] == Approx(model.materials[0].baseColour[k]).margin(0.004));
    CHECK(ranStep(ran.model, "colour-to-picture", nlohmann::json::object()).notes[0] ==
          "no such material is without a colour picture");
}

TEST_CASE("the mean of a picture is that of what is seen of it, in light") {
    Model model = shapes::pictured({shapes::panel(
        4, 4, [](double x, double y) { return glm::dvec3(x, y, 0); },
        [](double x, double y) { return glm::dvec2(0.25 + x / 2, y); })});
    // Black on the left, white on the right, red where nothing lies.
    model.images[0] = picture("cloth.png", drawn(64, 64, [](int x, int) {
                                  return x < 16 || x >= 48 ? glm::ivec4(255, 0, 0, 255)
                                                           : glm::ivec4(glm::ivec3(x < 32 ? 0 : 255), 255);
                              }));
    const glm::vec4 mean =
        ranStep(model, "picture-to-colour", nlohmann::json::object()).model.materials[0].baseColour;
    for (int k = 0; k < 3; ++k) CHECK(mean[k] == Approx(0.5).margin(0.03));
    const Model corners = ranStep(model, "picture-to-colour", {{"to", "corners"}}).model;
    const Mesh& mesh = *corners.meshes[0];
    REQUIRE(mesh.colours.size() == mesh.vertexCount());
    for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
        if (mesh.positions[v].x > 0.3f && mesh.positions[v].x < 0.45f) CHECK(mesh.colours[v].r == Approx(0));
        if (mesh.positions[v].x > 0.55f && mesh.positions[v].x < 0.9f) CHECK(mesh.colours[v].b == Approx(1));
    }
    // And back: corners' colours drawn where the corners lie.
    const Model drawnAgain = ranStep(corners, "colour-to-picture", {{"from", "corners"}, {"edge", 64}}).model;
    const auto pixels = texture::pixelsOf(drawnAgain.images.back());
    CHECK(int(pixels->rgba[4 * (32 * 64 + 23)]) < 60);
    CHECK(int(pixels->rgba[4 * (32 * 64 + 41) + 1]) > 235);
    CHECK(ranStep(shapes::pictured({}), "colour-to-picture", {{"from", "corners"}}).shortfall.empty());
}

TEST_CASE("normals are smooth up to an angle, hard, weighed, or turned over") {
    const Model box = shapes::box({-2, -1, -0.5}, {2, 1, 0.5});
    const auto normalsOf = [&](nlohmann::json params) {
        return ranStep(box, "normals", params).model.meshes[0];
    };
    CHECK(normalsOf({{"how", "hard"}})->vertexCount() == 24);
    CHECK(normalsOf({{"angle", 80.0}})->vertexCount() == 24);
    const auto smooth = normalsOf({{"angle", 180.0}});
    CHECK(smooth->vertexCount() == 8);
    for (std::size_t v = 0; v < 8; ++v) // three right angles at each corner
        for (int k = 0; k < 3; ++k) CHECK(std::abs(smooth->normals[v][k]) == Approx(std::sqrt(1.0 / 3)));
    // By areas each side counts as much as it is large, whichever of its triangles touch the corner: the
    // sides are 2, 4 and 8 m², of which one or two halves meet there.
    const auto weighed = normalsOf({{"angle", 180.0}, {"weight", "angle-and-area"}});
    for (std::size_t v = 0; v < 8; ++v) {
        const glm::vec3 n = glm::abs(weighed->normals[v]);
        CHECK(n.z > n.y);
        CHECK(n.y > n.x);
    }
    const Mesh& was = *box.meshes[0];
    const auto over = normalsOf({{"how", "turn-over"}});
    CHECK(over->indices[1] == was.indices[2]);
    CHECK(over->indices[2] == was.indices[1]);
    CHECK(geometry::worldBounds(ranStep(box, "normals", {{"how", "turn-over"}}).model).size() ==
          glm::dvec3(4, 2, 1));
    CHECK_THROWS_WITH(ranStep(box, "normals", {{"parts", {"lid*"}}}), Catch::Contains("\"lid*\""));
}

TEST_CASE("copies cost what they are counted to, and break each limit where it is reached") {
    const Model model =
        shapes::pictured({shapes::uprightSquare(1, 0, 10)}, 1024, 512); // 121 corners, 200 triangles
    const auto sheet =
        sheetWith("id = \"triangles\"\nmost = 9999\n"
                  "[cost]\nmemory-megabytes = 10\ncopy-bytes = 1000\nupload-megabytes = 1\n"
                  "frame-milliseconds = 16\ntriangles-a-millisecond = 100\npixels-a-millisecond = 131072\n"
                  "[[quality]]\nname = \"fine\"\npicture-edge = 2048\n"
                  "[[quality]]\nname = \"coarse\"\npicture-edge = 512\nusual = true\n");
    const platform::Cost cost = platform::costOf(model, sheet);
    REQUIRE(cost.qualities.size() == 2);
    CHECK(cost.usual().name == "coarse");
    const double mesh = 121 * 32 + 200 * 12, fine = 1024 * 512 * 4 * 4.0 / 3, coarse = fine / 4;
    CHECK(cost.mesh == mesh);
    CHECK(cost.qualities[0].pictures == Approx(fine));
    CHECK(cost.qualities[1].pictures == Approx(coarse));
    CHECK(cost.memory(1, true, cost.usual(), sheet.cost) == Approx(mesh + coarse));
    CHECK(cost.memory(5, true, cost.usual(), sheet.cost) == Approx(mesh + coarse + 4000));
    CHECK(cost.memory(5, false, cost.qualities[0], sheet.cost) == Approx(5 * (mesh + fine)));
    CHECK(*cost.frame(3, true, cost.usual(), sheet.cost) == Approx(3 * 2 + 1));
    CHECK(*cost.frame(3, false, cost.usual(), sheet.cost) == Approx(3 * 3));
    const auto limits = platform::costLimits(cost, sheet.cost);
    REQUIRE(limits.size() == 3);
    CHECK(limits[0].shared == 1 + (long long)((10e6 - mesh - coarse) / 1000));
    CHECK(limits[0].unique == (long long)(10e6 / (mesh + coarse)));
    CHECK(limits[1].what == "upload");
    CHECK_FALSE(limits[1].shared);
    CHECK(limits[2].shared == 7); // 7 * 2 + 1 = 15 of 16
    CHECK(limits[2].unique == 5);
    const auto silent = sheetWith("id = \"triangles\"\nmost = 9999\n");
    CHECK(platform::costLimits(platform::costOf(model, silent), silent.cost).empty());
    CHECK(platform::costOf(model, silent).usual().pictures == Approx(fine));
    CHECK_THROWS_WITH(sheetWith("id = \"triangles\"\nmost = 9\n[cost]\ncopy-bytes = -1\n"),
                      Catch::Contains("copy-bytes"));
    CHECK_THROWS_WITH(
        sheetWith("id = \"triangles\"\nmost = 9\n[[quality]]\nname = \"x\"\npicture-edge = 1e9\n"),
        Catch::Contains("so large"));
}

TEST_CASE("triangles are counted for each material where a platform draws them so") {
    Model model = shapes::pictured({shapes::uprightSquare(1, 0, 10), shapes::uprightSquare(1, 2, 5)});
    model.materials.push_back({.name = "hem"});
    Mesh hem = *model.meshes[1];
    hem.runs[0].material = 1;
    model.meshes[1] = std::make_shared<const Mesh>(hem);
    const auto found = ruleResult(model, "id = \"triangles\"\nmost = 150\nper-material = 1");
    CHECK(found.state == State::Broken);
    CHECK(found.finding.value == 200);
    CHECK(found.finding.materials == std::vector<int>{0});
    CHECK(found.finding.note.find("\"cloth\"") != std::string::npos);
    CHECK(ruleResult(model, "id = \"triangles\"\nmost = 200\nper-material = 1").state != State::Broken);
    CHECK(ruleResult(model, "id = \"triangles\"\nmost = 200").state == State::Broken);
}

TEST_CASE("tangents that follow UVs or normals go, and that is said") {
    Model model = shapes::pictured({shapes::uprightSquare(1)});
    Mesh mesh = *model.meshes[0];
    mesh.normals.assign(mesh.vertexCount(), glm::vec3(0, 0, 1));
    mesh.tangents.assign(mesh.vertexCount(), glm::vec4(1, 0, 0, 1));
    model.meshes[0] = std::make_shared<const Mesh>(mesh);
    const std::initializer_list<std::pair<const char*, nlohmann::json>> steps{
        {"uv-placement", {{"turn", 30.0}}}, {"uvs-anew", {{"only", "all"}}}, {"normals", {{"how", "hard"}}}};
    for (const auto& [id, params] : steps) {
        const auto ran = ranStep(model, id, params);
        CHECK(ran.model.meshes[0]->tangents.empty());
        CHECK(ran.notes.back() == "tangents of 1 part left out");
    }
    CHECK_FALSE(ranStep(model, "normals", {{"how", "turn-over"}}).model.meshes[0]->tangents.empty());
}
