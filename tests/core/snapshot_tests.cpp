// Pictures of models that are drawn without a window.
#include "core/geometry/merge_meshes.h"
#include "core/geometry/solids.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <numeric>

using namespace zl;

namespace snapshot_tests {

TEST_CASE("a snapshot shows the model where it is, in its colour, on its ground") {
    Model ball = shapes::modelOf(shapes::sphere(48, 24, 0.5));
    ball.materials = {{.name = "red", .baseColour = {0.8f, 0.05f, 0.05f, 1}}};
    auto mesh = std::make_shared<Mesh>(*ball.meshes[0]);
    mesh->runs[0].material = 0;
    ball.meshes[0] = mesh;
    render::SnapshotOptions options;
    options.width = 160, options.height = 120, options.samples = 4;
    const Pixels picture = render::snapshot(ball, options);
    const auto at = [&](int x, int y) { return &picture.rgba[4 * (std::size_t(y) * 160 + x)]; };
    CHECK(at(80, 60)[0] > 2 * at(80, 60)[1]);                    // red in the middle
    CHECK(std::abs(at(4, 4)[0] - at(4, 4)[1]) < 30);             // grey in the corner
    CHECK(render::snapshot(ball, options).rgba == picture.rgba); // the same every time
    CHECK(render::snapshot(Model{}, options).rgba.size() == picture.rgba.size());
}

TEST_CASE("a snapshot shows a picture where its UVs put it") {
    Mesh card;
    card.positions = {{-1, 0, 0}, {1, 0, 0}, {1, 2, 0}, {-1, 2, 0}};
    card.uvSets = {{{0, 1}, {1, 1}, {1, 0}, {0, 0}}};
    card.indices = {0, 1, 2, 0, 2, 3};
    card.runs = {{0, 2, 0}};
    Model model = shapes::modelOf(card);
    // Red on the left, blue on the right, and green above too.
    Pixels pixels{8, 8, std::vector<std::uint8_t>(8 * 8 * 4, 0)};
    for (std::size_t i = 0; i < 64; ++i) {
        pixels.rgba[4 * i + (i % 8 < 4 ? 0 : 2)] = pixels.rgba[4 * i + 3] = 255;
        if (i < 32) pixels.rgba[4 * i + 1] = 255;
    }
    model.images = {texture::pictureFromBytes("halves.png", texture::encodePng(pixels))};
    model.materials = {{.name = "card"}};
    model.materials[0].picture(PictureRole::Colour).image = 0;
    render::SnapshotOptions options;
    options.width = options.height = 100, options.samples = 4;
    options.yawRadians = options.pitchRadians = 0, options.ground = false;
    const Pixels drawn = render::snapshot(model, options);
    const auto at = [&](int x, int y) { return &drawn.rgba[4 * (std::size_t(y) * 100 + x)]; };
    const auto lit = [&](int x, int y) {
        const std::uint8_t* c = at(x, y);
        return std::string() + (c[0] > 100 ? "r" : "") + (c[1] > 100 ? "g" : "") + (c[2] > 100 ? "b" : "");
    };
    CHECK(lit(30, 30) == "rg");
    CHECK(lit(70, 30) == "gb");
    CHECK(lit(30, 70) == "r");
    CHECK(lit(70, 70) == "b");
}

TEST_CASE("few rays show shadows and edges nearly as very many do") {
    // A post on a plate: a soft shadow, corners that shut out the sky, and slanted edges.
    const Model post = shapes::modelOf(geometry::merged(
        {geometry::boxMesh({-1, -0.1, -1}, {1, 0, 1}), geometry::boxMesh({-0.2, 0, -0.2}, {0.2, 1.1, 0.2})}));
    render::SnapshotOptions options;
    options.width = 200, options.height = 150;
    const auto drawn = [&](int samples) {
        options.samples = samples;
        return render::snapshot(post, options);
    };
    const Pixels many = drawn(1600);
    const auto away = [&](const Pixels& few) {
        std::vector<int> out;
        for (std::size_t i = 0; i < few.rgba.size(); i += 4)
            out.push_back(std::abs(int(few.rgba[i]) - int(many.rgba[i])));
        std::ranges::sort(out);
        return out;
    };
    const auto usual = away(drawn(16)), one = away(drawn(1));
    const auto mean = [](const std::vector<int>& all) {
        return double(std::accumulate(all.begin(), all.end(), 0)) / double(all.size());
    };
    INFO(mean(usual) << " and " << mean(one) << ", 99 of 100 within " << usual[usual.size() * 99 / 100]);
    CHECK(mean(usual) < 1);
    CHECK(mean(usual) < mean(one) / 3);
    CHECK(usual[usual.size() * 99 / 100] <= 10);
    // What is plain is not left to chance at all.
    CHECK(usual[usual.size() / 2] == 0);
}

} // namespace snapshot_tests
