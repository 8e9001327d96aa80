// Light baked into a scene of solids: against closed forms, dark where it is closed, the same bytes again,
// and only anew what a change touches.
#include "core/base/error.h"
#include "core/solids/lamplight.h"
#include "core/solids/light_bake.h"
#include "core/solids/lit_scene.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_cache.h"

#include <catch2/catch.hpp>
#include <glm/gtc/constants.hpp>

#include <atomic>
#include <random>

using namespace zl;

namespace light_tests {

using namespace zl::solids;
using zl::solids::Kind;

Solid box(glm::dvec3 size, glm::dvec3 at) {
    Solid out;
    out.shape.size = size, out.at = at;
    out.look.colour = glm::vec3(1);
    return out;
}

/// A floor of 4 by 4 metres whose upper side is at height 0.
Scene floorWith(const Light& light) {
    Scene scene;
    scene.solids[1] = box({4, 0.1, 4}, {0, -0.05, 0});
    scene.lights[2] = light;
    return scene;
}

Light lamp(glm::dvec3 at, double strength, double size = 0) {
    Light out;
    out.kind = LightKind::Lamp, out.at = at, out.strength = strength, out.size = {size, size};
    return out;
}

BakeSettings plain(int pixels = 64) {
    BakeSettings out;
    out.pixels = pixels, out.bounces = 0, out.sky = glm::vec3(0);
    out.samples = 64, out.rays = 64;
    return out;
}

struct Result {
    Model model;
    Baked baked;
    std::map<std::pair<Number, int>, std::shared_ptr<const Image>> pictures;

    glm::u8vec3 at(Number solid, int face, int x, int y) const {
        const auto pixels = texture::pixelsOf(pictures.at({solid, face}));
        const std::size_t i = 4 * (std::size_t(y) * std::size_t(pixels->width) + std::size_t(x));
        return {pixels->rgba[i], pixels->rgba[i + 1], pixels->rgba[i + 2]};
    }
    int brightest(Number solid, int face) const {
        const auto pixels = texture::pixelsOf(pictures.at({solid, face}));
        int most = 0;
        for (std::size_t i = 0; i < pixels->rgba.size(); ++i)
            if (i % 4 != 3) most = std::max(most, int(pixels->rgba[i]));
        return most;
    }
};

Result bake(const Scene& scene, const BakeSettings& settings, LightStore& store) {
    Result out;
    out.model = modelOf(scene, "test");
    const Shown& shown = *shownBy(out.model);
    out.baked = bakeLight(out.model, shown, settings, store, {});
    const LitScene lit(out.model, shown);
    for (std::size_t f = 0; f < lit.faces().size(); ++f) {
        const LitFace& face = lit.faces()[f];
        out.pictures[{shown.parts[face.part].solid, face.face}] = out.baked.pictures[f];
    }
    return out;
}
Result bake(const Scene& scene, const BakeSettings& settings) {
    LightStore store(1u << 28);
    return bake(scene, settings, store);
}

constexpr std::size_t roomy = 1u << 28;

/// Six walls around a room of 2 metres.
Scene room(double thick) {
    Scene scene;
    const double half = 1 + thick / 2, wide = 2 + 2 * thick;
    scene.solids[1] = box({wide, thick, wide}, {0, -half, 0});
    scene.solids[2] = box({wide, thick, wide}, {0, half, 0});
    scene.solids[3] = box({thick, 2, wide}, {-half, 0, 0});
    scene.solids[4] = box({thick, 2, wide}, {half, 0, 0});
    scene.solids[5] = box({2, 2, thick}, {0, 0, -half});
    scene.solids[6] = box({2, 2, thick}, {0, 0, half});
    return scene;
}

TEST_CASE("a lamp over a plane: the closed form within 1 % at every pixel", "[light]") {
    const double height = 1.5, strength = 1.8;
    const Result result = bake(floorWith(lamp({0.3, height, -0.2}, strength)), plain(128));
    for (int y = 3; y < 128; y += 8)
        for (int x = 3; x < 128; x += 8) {
            // The head's picture: to the right is +X, up is +Z.
            const glm::dvec3 at(-2 + 4 * (x + 0.5) / 128, 0, 2 - 4 * (y + 0.5) / 128);
            const glm::dvec3 way = glm::dvec3(0.3, height, -0.2) - at;
            const double near = std::min(1.0, strength * height / std::pow(glm::length(way), 3));
            const std::uint8_t byte = result.at(1, HeadFace, x, y).r;
            const double found = texture::lightOf(byte);
            // Half a step of a byte is no error of the light.
            const double step = texture::lightOf(std::uint8_t(std::min(255, byte + 1))) - found;
            CHECK(std::abs(found - near) <= 0.01 * near + step / 2 + 1e-4);
        }
}

TEST_CASE("lamps and areas fall off as their closed forms say", "[light]") {
    const glm::dvec3 up(0, 1, 0);
    SECTION("a ball of any size is as bright as a point of its strength") {
        const Lamplight ball(lamp({0, 2, 0}, 3, 0.5));
        CHECK(ball.on({0, 0, 0}, up).r == Approx(3.0 / 4));
        CHECK(ball.on({2, 0, 0}, up).r == Approx(3 * (1 / std::sqrt(2.0)) / 8));
        CHECK(ball.on({0, 4, 0}, up).r == 0);
    }
    SECTION("half below the surface it is between none and all of it, rising") {
        const Lamplight ball(lamp({1, 0, 0}, 1, 0.5));
        double last = -1;
        for (int k = -20; k <= 20; ++k) {
            const double tilt = k * 0.02;
            const float light = ball.on({0, 0, 0}, glm::normalize(glm::dvec3(tilt, 1, 0))).r;
            CHECK(light >= last);
            last = light;
        }
        CHECK(ball.on({0, 0, 0}, up).r > 0);
    }
    SECTION("a square right above: Lambert's corner to corner formula against a sum of small pieces") {
        Light light;
        light.kind = LightKind::Area, light.at = {0, 1, 0}, light.size = {1.2, 0.8}, light.strength = 2;
        const Lamplight area(light);
        std::mt19937 random(5);
        std::uniform_real_distribution<double> any(-1.5, 1.5);
        for (int n = 0; n < 40; ++n) {
            const glm::dvec3 at(any(random), any(random) * 0.6, any(random));
            const glm::dvec3 normal = glm::normalize(glm::dvec3(any(random), any(random), any(random)));
            double sum = 0;
            constexpr int steps = 400;
            for (int i = 0; i < steps; ++i)
                for (int j = 0; j < steps; ++j) {
                    const glm::dvec3 point((i + 0.5) / steps * 1.2 - 0.6, 1, (j + 0.5) / steps * 0.8 - 0.4);
                    const glm::dvec3 way = point - at;
                    const double d = glm::length(way), mine = glm::dot(way, normal) / d, theirs = way.y / d;
                    if (mine > 0 && theirs > 0) sum += mine * theirs / (d * d);
                }
            CHECK(area.on(at, normal).r == Approx(2 * sum / (steps * steps)).epsilon(0.01).margin(1e-4));
        }
    }
}

TEST_CASE("a sphere under the open sky, and a floor, as bright as the sky says", "[light]") {
    Scene scene;
    scene.solids[1] = box({4, 0.1, 4}, {0, -0.05, 0});
    BakeSettings settings = plain();
    settings.sky = glm::vec3(0.5f), settings.rays = 256;
    const Result result = bake(scene, settings);
    // Nothing is in the way: half of all light, in every pixel.
    const int expected = texture::toSrgbByte(0.5f);
    for (int y = 0; y < 64; y += 7)
        for (int x = 0; x < 64; x += 7) CHECK(std::abs(int(result.at(1, HeadFace, x, y).r) - expected) <= 1);
    CHECK(result.brightest(1, FootFace) == 0);
    // A wall sees the upper half of what a floor sees.
    CHECK(std::abs(int(result.at(1, FirstSide, 32, 32).r) - int(texture::toSrgbByte(0.25f))) <= 3);
}

TEST_CASE("a closed room is dark, however thin its walls are", "[light]") {
    for (const double thick : {0.2, 0.01, 0.001}) {
        INFO("walls of " << thick << " m");
        Scene scene = room(thick);
        scene.lights[7] = lamp({0, 4, 0}, 50, 0.2);
        Light sun;
        sun.kind = LightKind::Sun, sun.turn = {40, 20, 0}, sun.size = {2, 2};
        scene.lights[8] = sun;
        BakeSettings settings = plain();
        settings.sky = glm::vec3(1), settings.bounces = 3;
        const Result result = bake(scene, settings);
        CHECK(result.brightest(1, HeadFace) == 0); // the floor's upper side
        CHECK(result.brightest(2, FootFace) == 0); // the ceiling
        CHECK(result.brightest(3, FirstSide + 1) == 0);
        CHECK(result.brightest(4, FirstSide + 3) == 0);
        CHECK(result.brightest(2, HeadFace) > 200); // the roof
    }
}

TEST_CASE("a floor that goes on outside a room is dark inside", "[light]") {
    Scene scene = room(0.001);
    scene.solids[1] = box({6, 0.1, 6}, {0, -1.05, 0});
    Light sun;
    sun.kind = LightKind::Sun, sun.turn = {10, 0, 0}, sun.size = {0.5, 0.5};
    scene.lights[8] = sun;
    BakeSettings settings = plain(96);
    settings.sky = glm::vec3(1), settings.bounces = 2;
    const Result result = bake(scene, settings);
    // Pixels of 6.25 cm; the room is from the 32nd to the 63rd.
    for (int y = 33; y < 63; ++y)
        for (int x = 33; x < 63; ++x) REQUIRE(result.at(1, HeadFace, x, y) == glm::u8vec3(0));
    CHECK(result.at(1, HeadFace, 5, 48).r > 200);
    CHECK(result.brightest(3, FirstSide + 1) == 0);
}

TEST_CASE("light goes from wall to wall, and takes their colour along", "[light]") {
    Scene scene = room(0.1);
    scene.solids[3].look.colour = {1, 0, 0};
    scene.lights[7] = lamp({0, 0.5, 0}, 0.4, 0.2);
    BakeSettings settings = plain();
    settings.rays = 256;
    const Result straight = bake(scene, settings);
    settings.bounces = 2;
    const Result thrown = bake(scene, settings);
    const auto before = straight.at(1, HeadFace, 4, 32), after = thrown.at(1, HeadFace, 4, 32);
    CHECK(after.r > before.r);
    CHECK(after.r > after.g + 5); // beside the red wall
    // In a white room all comes back again and again: E = E0 / (1 - a) for a ball around a lamp; here the
    // walls throw back less than all, and two rounds are less than endlessly many.
    CHECK(thrown.at(1, HeadFace, 32, 32).g > straight.at(1, HeadFace, 32, 32).g);
}

TEST_CASE("a shadow of a box under a small sun ends where its edges are", "[light]") {
    Scene scene;
    scene.solids[1] = box({4, 0.1, 4}, {0, -0.05, 0});
    scene.solids[2] = box({1, 1, 1}, {0, 1.5, 0});
    Light sun;
    sun.kind = LightKind::Sun, sun.size = {0, 0};
    scene.lights[3] = sun;
    const Result result = bake(scene, plain(128));
    for (int y = 1; y < 128; y += 3)
        for (int x = 1; x < 128; x += 3) {
            const glm::dvec2 at(-2 + 4 * (x + 0.5) / 128, -2 + 4 * (y + 0.5) / 128);
            const bool under = std::abs(at.x) < 0.5 && std::abs(at.y) < 0.5;
            CHECK(int(result.at(1, HeadFace, x, y).r) == (under ? 0 : 255));
        }
}

TEST_CASE("soft shadows are as in a reference with 64 times the rays, to 2 of 255", "[light]") {
    Scene scene;
    scene.solids[1] = box({4, 0.1, 4}, {0, -0.05, 0});
    scene.solids[2] = box({0.8, 0.8, 0.1}, {0.2, 0.4, 0});
    scene.solids[3] = box({0.06, 1.4, 0.06}, {-0.7, 0.7, 0.3});
    scene.lights[4] = lamp({-0.4, 1.6, 1.2}, 1.2, 0.3);
    Light area;
    area.kind = LightKind::Area, area.at = {1.2, 1.7, -0.8}, area.size = {0.8, 0.5}, area.strength = 0.8;
    scene.lights[5] = area;
    BakeSettings settings;
    settings.pixels = 64, settings.bounces = 2, settings.samples = 128, settings.rays = 256;
    const Result result = bake(scene, settings);
    settings.samples *= 64, settings.rays *= 64, settings.seed = 9;
    const Result reference = bake(scene, settings);
    double squares = 0;
    std::size_t count = 0;
    for (const auto& [of, picture] : result.pictures) {
        const auto a = texture::pixelsOf(picture), b = texture::pixelsOf(reference.pictures.at(of));
        for (std::size_t i = 0; i < a->rgba.size(); ++i) {
            const double off = double(a->rgba[i]) - double(b->rgba[i]);
            squares += off * off;
            ++count;
        }
    }
    const double noise = std::sqrt(squares / double(count) * 4 / 3); // the fourth channel is always alike
    INFO("noise " << noise);
    CHECK(noise <= 2);
    CHECK(noise > 0);
}

TEST_CASE("the same seed gives the same bytes, whatever is known already", "[light]") {
    Scene scene = floorWith(lamp({0, 1, 0}, 1, 0.2));
    scene.solids[3] = box({0.5, 0.5, 0.5}, {0.6, 0.25, 0});
    scene.solids[4] = box({0.5, 0.5, 0.5}, {-0.6, 0.25, 0});
    scene.solids[4].shape.kind = Kind::Ball;
    BakeSettings settings;
    settings.pixels = 32, settings.rays = 64, settings.samples = 32;
    LightStore store(roomy);
    const Result first = bake(scene, settings, store), again = bake(scene, settings),
                 known = bake(scene, settings, store);
    CHECK(first.baked.anew == first.baked.pictures.size());
    CHECK(known.baked.anew == 0);
    for (const auto& [of, picture] : first.pictures) {
        CHECK(texture::pixelsOf(picture)->rgba == texture::pixelsOf(again.pictures.at(of))->rgba);
        CHECK(known.pictures.at(of) == picture);
    }
    settings.seed = 2;
    const Result other = bake(scene, settings);
    bool differs = false;
    for (const auto& [of, picture] : first.pictures)
        differs |= texture::pixelsOf(picture)->rgba != texture::pixelsOf(other.pictures.at(of))->rgba;
    CHECK(differs);
}

TEST_CASE("a change bakes anew what it touches and leaves what it does not", "[light]") {
    // Two rooms' worth of things, a hundred metres apart, each with a lamp too weak to reach the other.
    Scene scene;
    for (const int k : {0, 1}) {
        scene.solids[10 * k + 1] = box({4, 0.1, 4}, {100.0 * k, -0.05, 0});
        scene.solids[10 * k + 2] = box({0.5, 0.5, 0.5}, {100.0 * k + 0.6, 0.25, 0});
    }
    scene.lights[100] = lamp({0, 1, 0}, 1, 0.1);
    BakeSettings settings;
    settings.pixels = 32, settings.rays = 64, settings.samples = 32;
    LightStore store(roomy);
    const Result first = bake(scene, settings, store);
    scene.solids[2].at.x = 0.7;
    const Result second = bake(scene, settings, store);
    CHECK(second.baked.anew == 12); // both solids of the near place
    for (const auto& [of, picture] : first.pictures)
        CHECK((second.pictures.at(of) == picture) == (of.first > 10));
    const Result whole = bake(scene, settings);
    for (const auto& [of, picture] : second.pictures)
        CHECK(texture::pixelsOf(picture)->rgba == texture::pixelsOf(whole.pictures.at(of))->rgba);
    scene.solids[2].name = "another name";
    CHECK(bake(scene, settings, store).baked.anew == 0);
}

TEST_CASE("what a step made of a material is baked anew, too", "[light]") {
    const Model model = modelOf(floorWith(lamp({0, 1, 0}, 1)), "worn");
    LightStore store(roomy);
    bakeLight(model, *shownBy(model), plain(16), store, {});
    Model other = model;
    other.materials[0].baseColour = {0.2f, 0.1f, 0, 1};
    CHECK(facesToBake(model, *shownBy(model), plain(16), store) == 0);
    CHECK(facesToBake(other, *shownBy(other), plain(16), store) == 6);
}

TEST_CASE("another sky is another picture", "[light]") {
    const Model model = modelOf(floorWith(lamp({0, 1, 0}, 1)), "sky");
    LightStore store(roomy);
    BakeSettings settings = plain(16);
    bakeLight(model, *shownBy(model), settings, store, {});
    settings.sky = glm::vec3(0.5f);
    CHECK(facesToBake(model, *shownBy(model), settings, store) == 6);
}

TEST_CASE("a bake that is stopped keeps the faces that are done", "[light]") {
    Scene scene;
    for (int k = 0; k < 24; ++k)
        scene.solids[k + 1] = box({0.4, 0.4, 0.4}, {0.5 * (k % 6), 0.2, 0.5 * (k / 6)});
    scene.lights[100] = lamp({1, 2, 1}, 1, 0.2);
    BakeSettings settings;
    settings.pixels = 64, settings.bounces = 0, settings.sky = glm::vec3(0);
    LightStore store(roomy);
    const Model model = modelOf(scene, "stopped");
    std::atomic<bool> stop{false};
    const Progress progress(
        [&](double, std::string_view what) { stop = what.starts_with("pictures: face 30"); }, &stop);
    CHECK_THROWS_AS(bakeLight(model, *shownBy(model), settings, store, progress), Cancelled);
    const Baked rest = bakeLight(model, *shownBy(model), settings, store, {});
    CHECK(rest.anew < rest.pictures.size());
    CHECK(rest.anew > 0);
}

TEST_CASE("a lit model shows its pictures and nothing beside them", "[light]") {
    Scene scene = floorWith(lamp({0, 1, 0}, 1));
    scene.solids[3] = box({0.5, 0.5, 0.5}, {0.6, 0.25, 0});
    scene.solids[3].faces[HeadFace].stuff = Stuff::Glass;
    const Model model = modelOf(scene, "lit");
    LightStore store(roomy);
    const Baked baked = bakeLight(model, *shownBy(model), plain(16), store, {});
    const Model lit = litModel(model, *shownBy(model), baked);
    REQUIRE(shownBy(lit));
    CHECK(shownBy(lit)->lit);
    CHECK(lit.images.size() == 11); // 12 faces, one of glass
    for (const Part& part : shownBy(lit)->parts)
        for (std::size_t r = 0; r < part.faces.size(); ++r) {
            const Material& worn = lit.materials[std::size_t(part.mesh->runs[r].material)];
            if (part.solid == 3 && part.faces[r] == HeadFace) {
                CHECK(worn.alpha == Material::Alpha::Blend);
                continue;
            }
            CHECK(worn.image(PictureRole::Emission) >= 0);
            CHECK(glm::vec3(worn.baseColour) == glm::vec3(0));
        }
}

} // namespace light_tests
