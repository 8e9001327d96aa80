// Several materials made one: it looks the same, fits the platform, and says what it cannot do.
#include "core/deliver/deliver.h"
#include "core/formats/format.h"
#include "core/model/model_bytes.h"
#include "core/model/promises.h"
#include "core/model/used_only.h"
#include "core/planner/planner.h"
#include "core/recipe/recipe.h"
#include "core/render/snapshot.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/picture_file.h"
#include "support/rich_model.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;

namespace {

/// A picture whose pixel at (x, y) is `of(x, y)`.
std::shared_ptr<const Image> picture(const std::string& name, int width, int height, auto&& of) {
    Pixels pixels{width, height, {}};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const std::array<int, 4> c = of(x, y);
            for (const int k : c) pixels.rgba.push_back(std::uint8_t(k));
        }
    return texture::pictureFromBytes(name, texture::encodePng(pixels));
}

/// A ball whose lower triangles wear a picture of waves that repeats and is turned, the middle ones one of
/// stripes, the upper ones a plain colour.
Model patchwork() {
    Model model = shapes::modelOf(shapes::sphere(24, 12, 0.5), "ball");
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    const auto count = std::uint32_t(mesh->triangleCount());
    mesh->runs = {{0, count / 3, 0}, {count / 3, count / 3, 1}, {count / 3 * 2, count - count / 3 * 2, 2}};
    mesh->normals = mesh->positions;
    for (glm::vec3& n : mesh->normals) n = glm::normalize(n);
    model.meshes[0] = mesh;
    model.images = {picture("waves.png", 64, 64,
                            [](int x, int y) {
                                return std::array{128 + int(100 * std::sin(x * 0.0982)), 60 + 2 * y, 90, 255};
                            }),
                    picture("stripes.png", 32, 128, [](int x, int y) {
                        return std::array{4 * x + 40, y + 60, 200 - y, 255};
                    })};
    model.materials = {{.name = "waves", .baseColour = {1, 1, 1, 1}, .metalness = 0.5f, .roughness = 0.25f},
                       {.name = "stripes", .baseColour = {1, 0.5f, 1, 1}},
                       {.name = "plain", .baseColour = {0.1f, 0.4f, 0.2f, 1}}};
    model.materials[0].picture(PictureRole::Colour) = {.image = 0, .placement = {{0.3f, 0.1f}, {3, 2}, 0.5f}};
    model.materials[1].picture(PictureRole::Colour).image = 1;
    return model;
}

struct Ran {
    Model model;
    std::vector<std::string> notes;
    nlohmann::json facts;
};
Ran ran(const Model& in, const nlohmann::json& params = nlohmann::json::object(),
        const platform::Sheet* sheet = nullptr) {
    const Progress progress;
    steps::StepContext context{progress, sheet};
    Ran out{steps::makeStep("one-material", params)->apply(in, context), {}, {}};
    REQUIRE(brokenPromise(out.model).empty());
    out.notes = context.notes, out.facts = context.facts;
    return out;
}

/// sRGB bytes of the colour at a place within a triangle, worked out here: nearest pixel, repeated.
glm::dvec3 colourAt(const Model& model, const Mesh& mesh, std::size_t t, glm::dvec3 share,
                    std::map<int, Pixels>& pictures) {
    int material = -1;
    for (const MaterialRun& run : mesh.runs)
        if (t >= run.firstTriangle && t < run.firstTriangle + run.triangleCount) material = run.material;
    const Material m = material < 0 ? Material{} : model.materials[std::size_t(material)];
    glm::dvec3 light(m.baseColour);
    if (const PictureUse& use = m.picture(PictureRole::Colour)) {
        auto& p = pictures[use.image];
        if (p.width == 0) p = texture::decode(*model.images[std::size_t(use.image)]);
        glm::dvec2 uv(0);
        for (int k = 0; k < 3; ++k)
            uv += share[k] * glm::dvec2(mesh.uvSets.at(std::size_t(use.uvSet))[mesh.indices[3 * t + k]]);
        const double c = std::cos(use.placement.turn), s = std::sin(use.placement.turn);
        uv *= glm::dvec2(use.placement.scale);
        uv = glm::dvec2(c * uv.x + s * uv.y, c * uv.y - s * uv.x) + glm::dvec2(use.placement.offset);
        uv -= glm::floor(uv);
        const std::size_t at = 4 * (std::size_t(std::min(p.height - 1, int(uv.y * p.height))) * p.width +
                                    std::size_t(std::min(p.width - 1, int(uv.x * p.width))));
        for (int k = 0; k < 3; ++k) light[k] *= texture::fromSrgb(p.rgba[at + std::size_t(k)] / 255.0f);
    }
    for (int k = 0; k < 3; ++k) light[k] = 255 * texture::toSrgb(float(light[k]));
    return light;
}

/// Mean difference of colours at the same places of both models' only meshes, which have the same triangles
/// in the same order.
double meanDifference(const Model& a, const Model& b) {
    const Mesh &from = *a.meshes[0], &to = *b.meshes[0];
    REQUIRE(from.triangleCount() == to.triangleCount());
    std::map<int, Pixels> pictures[2];
    std::mt19937 dice(7);
    std::uniform_real_distribution<double> any(0, 1);
    double sum = 0;
    std::size_t count = 0;
    for (std::size_t t = 0; t < from.triangleCount(); ++t)
        for (int i = 0; i < 20; ++i, ++count) {
            double u = any(dice), v = any(dice);
            if (u + v > 1) u = 1 - u, v = 1 - v;
            const glm::dvec3 share(1 - u - v, u, v);
            const glm::dvec3 off =
                glm::abs(colourAt(a, from, t, share, pictures[0]) - colourAt(b, to, t, share, pictures[1]));
            sum += (off.x + off.y + off.z) / 3;
        }
    return sum / double(count);
}

std::string errorOf(const auto& work) {
    try {
        work();
    } catch (const Error& error) {
        return error.what();
    }
    return {};
}

} // namespace

TEST_CASE("one material of three looks the same, triangle for triangle") {
    const Model before = patchwork();
    const Ran after = ran(before);
    REQUIRE(after.model.materials.size() == 1);
    CHECK(after.model.materials[0].name == "stripes"); // it has the most surface
    CHECK(usedMaterials(after.model) == std::vector<int>{0});
    const Mesh &from = *before.meshes[0], &to = *after.model.meshes[0];
    REQUIRE(to.triangleCount() == from.triangleCount());
    for (std::size_t c = 0; c < from.indices.size(); ++c)
        REQUIRE(to.positions[to.indices[c]] == from.positions[from.indices[c]]);
    CHECK(to.vertexCount() > from.vertexCount()); // corners on the borders are two
    CHECK(to.vertexCount() < from.vertexCount() + 60);
    for (const glm::vec2& uv : to.uvSets[0]) {
        CHECK(glm::all(glm::greaterThanEqual(uv, glm::vec2(0))));
        CHECK(glm::all(glm::lessThanEqual(uv, glm::vec2(1))));
    }
    CHECK(meanDifference(before, after.model) < 2);
    const bool same = toBytes(ran(before).model) == toBytes(after.model); // each time
    CHECK(same);
    render::SnapshotOptions options;
    options.width = options.height = 160, options.samples = 16;
    const Pixels a = render::snapshot(before, options), b = render::snapshot(after.model, options);
    double sum = 0;
    for (std::size_t i = 0; i < a.rgba.size(); ++i) sum += std::abs(int(a.rgba[i]) - int(b.rgba[i]));
    CHECK(sum / double(a.rgba.size()) * 4 / 3 < 2);
}

TEST_CASE("roughness and metalness that differ go into channels of one picture, or become means") {
    const Ran after = ran(patchwork());
    const Material& m = after.model.materials[0];
    const PictureUse &rough = m.picture(PictureRole::Roughness), &metal = m.picture(PictureRole::Metalness);
    REQUIRE(rough);
    CHECK(rough.channel == PictureChannel::Green);
    CHECK(metal.channel == PictureChannel::Blue);
    CHECK(metal.image == rough.image);
    CHECK_FALSE(m.picture(PictureRole::Normal)); // nobody had one
    CHECK_FALSE(m.picture(PictureRole::Emission));
    // The first triangle's middle: 0.25 rough, half metal.
    const Mesh& mesh = *after.model.meshes[0];
    glm::vec2 uv(0);
    for (int k = 0; k < 3; ++k) uv += mesh.uvSets[0][mesh.indices[k]] / 3.0f;
    const Pixels p = texture::decode(*after.model.images[rough.image]);
    const std::size_t at = 4 * (std::size_t(uv.y * p.height) * p.width + std::size_t(uv.x * p.width));
    CHECK(int(p.rgba[at + 1]) == 64);
    CHECK(int(p.rgba[at + 2]) == 128);

    const Ran plain = ran(patchwork(), {{"keep", "colour"}});
    const Material& one = plain.model.materials[0];
    CHECK(plain.model.images.size() == 1);
    CHECK_FALSE(one.picture(PictureRole::Roughness));
    CHECK(one.roughness > 0.3f); // between 0.25 and 0.7, by area
    CHECK(one.roughness < 0.7f);
    CHECK(meanDifference(patchwork(), plain.model) < 2);
    // Also of one material that has several pictures.
    const Ran bare = ran(after.model, {{"keep", "colour"}});
    CHECK(bare.model.images.size() == 1);
    CHECK(bare.notes[0] == "left out the roughness picture of \"stripes\"");
    CHECK(meanDifference(patchwork(), bare.model) < 2);
}

TEST_CASE("repeats are unrolled up to the limit; beyond it the part and the number are said") {
    Model model = patchwork();
    model.materials[0].picture(PictureRole::Colour).placement = {{0, 0}, {10, 1}, 0};
    const std::string said = errorOf([&] { ran(model); });
    CHECK(said.find("\"waves\" stands 9.6 × ") != std::string::npos);
    CHECK(said.find("on \"ball\"") != std::string::npos);
    CHECK(said.find("4 at most") != std::string::npos);
    const Ran after = ran(model, {{"repeats", 12}});
    CHECK(meanDifference(model, after.model) <
          3); // 640 px of waves; the nearest pixels of this test are coarse
}

TEST_CASE("parts far from each other in UVs move together by whole repeats, where a picture repeats") {
    Model model = patchwork();
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    for (glm::vec2& uv : mesh->uvSets[0]) uv += glm::vec2(40, -7);
    model.meshes[0] = mesh;
    model.materials[0].picture(PictureRole::Colour).placement = {};
    CHECK(meanDifference(model, ran(model).model) < 2);
    // Held at its edge, it cannot be moved: all of it is the edge.
    model.materials[0].picture(PictureRole::Colour).sampler = {Beyond::Clamp, Beyond::Clamp};
    const Ran held = ran(model);
    const Mesh& to = *held.model.meshes[0];
    const Pixels p = texture::decode(*held.model.images[held.model.materials[0].image(PictureRole::Colour)]);
    std::set<std::uint8_t> reds;
    for (std::size_t c = 0; c < to.indices.size() / 3; ++c) {
        const glm::vec2 uv = to.uvSets[0][to.indices[c]];
        reds.insert(
            p.rgba[4 * (std::size_t(uv.y * (p.height - 1)) * p.width + std::size_t(uv.x * (p.width - 1)))]);
    }
    CHECK(reds.size() == 1);
}

TEST_CASE("a normal picture is turned with its placement, so that light falls as before") {
    Model model = patchwork();
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->tangents.assign(mesh->vertexCount(), glm::vec4(1, 0, 0, 1));
    for (std::size_t v = 0; v < mesh->vertexCount(); ++v) {
        const glm::vec3 side = glm::cross(glm::vec3(0, 1, 0), mesh->normals[v]);
        if (glm::length(side) > 0.01f) mesh->tangents[v] = glm::vec4(glm::normalize(side), 1);
    }
    model.meshes[0] = mesh;
    const int mirrored = GENERATE(1, -1);
    const UvPlacement lie{{0.2f, 0.4f}, {2.0f * float(mirrored), 1}, 0.7f};
    // A normal that leans to +u and a little up on the picture, everywhere.
    model.images.push_back(picture("relief.png", 8, 8, [](int, int) {
        return std::array{200, 150, 220, 255};
    }));
    model.materials[0].picture(PictureRole::Colour).placement = lie;
    model.materials[0].picture(PictureRole::Normal) = {.image = 2, .placement = lie};
    const Ran after = ran(model);
    const Material& m = after.model.materials[0];
    REQUIRE(m.picture(PictureRole::Normal));
    const Pixels p = texture::decode(*after.model.images[m.image(PictureRole::Normal)]);
    const auto normalAt = [](const Mesh& of, std::uint32_t v, glm::vec3 kept) {
        const glm::vec3 n = kept * 2.0f - 1.0f, t(of.tangents[v]);
        return glm::normalize(t * n.x + glm::cross(of.normals[v], t) * of.tangents[v].w * n.y +
                              of.normals[v] * n.z);
    };
    const Mesh& to = *after.model.meshes[0];
    for (const std::size_t c : {30u, 45u, 60u}) {
        const std::uint32_t from = mesh->indices[c], now = to.indices[c];
        const glm::vec2 uv = to.uvSets[0][now];
        const std::size_t at =
            4 * (std::size_t(uv.y * (p.height - 1)) * p.width + std::size_t(uv.x * (p.width - 1)));
        const glm::vec3 kept(p.rgba[at] / 255.0f, p.rgba[at + 1] / 255.0f, p.rgba[at + 2] / 255.0f);
        CHECK(glm::dot(normalAt(*mesh, from, {200 / 255.0f, 150 / 255.0f, 220 / 255.0f}),
                       normalAt(to, now, kept)) > 0.999f);
        // The tangent points along u of the new UVs: also for those who work it out from them.
        CHECK(to.tangents[now].w == float(mirrored));
    }
    // Where nobody had a relief, the surface is as smooth as it was.
    const glm::vec2 uv = to.uvSets[0][to.indices[to.indices.size() - 1]];
    const std::size_t at =
        4 * (std::size_t(uv.y * (p.height - 1)) * p.width + std::size_t(uv.x * (p.width - 1)));
    CHECK(int(p.rgba[at]) == 128);
    CHECK(int(p.rgba[at + 2]) == 255);
}

TEST_CASE("cut-outs, see-through and opaque parts keep their alpha under one material") {
    Model model = patchwork();
    model.images.push_back(picture("leaf.png", 16, 16, [](int x, int) {
        return std::array{90, 150, 60, x < 8 ? 40 : 60};
    }));
    model.materials[0] = {.name = "leaf", .alpha = Material::Alpha::Mask, .alphaCutoff = 0.2f}; // 51 of 255
    model.materials[0].picture(PictureRole::Colour).image = 2;
    model.materials[0].picture(PictureRole::Opacity) = {.image = 2, .channel = PictureChannel::Alpha};
    const auto alphas = [](const Ran& after) {
        const Material& m = after.model.materials[0];
        const Pixels p = texture::decode(*after.model.images[m.image(PictureRole::Colour)]);
        std::set<int> out;
        for (std::size_t i = 3; i < p.rgba.size(); i += 4) out.insert(p.rgba[i]);
        return out;
    };
    const Ran cut = ran(model);
    CHECK(cut.model.materials[0].alpha == Material::Alpha::Mask);
    CHECK(cut.model.materials[0].alphaCutoff == 0.5f);
    CHECK(alphas(cut).contains(100)); // 0.5 · 40 / 51: below the border as before
    CHECK(*alphas(cut).rbegin() == 255);
    model.materials[2].baseColour.a = 0.5f; // glass
    const Ran blended = ran(model);
    CHECK(blended.model.materials[0].alpha == Material::Alpha::Blend);
    CHECK(alphas(blended) == std::set<int>{0, 128, 255});
    CHECK(blended.model.materials[0].picture(PictureRole::Opacity).channel == PictureChannel::Alpha);
}

TEST_CASE("the picture keeps within the platform's edge, and what is lost is said in texels a metre") {
    Model model = patchwork();
    model.images[0] = picture("waves.png", 1024, 1024, [](int x, int y) {
        return std::array{x / 4, y / 4, 90, 255};
    });
    const auto lampwright = sheet("lampwright");
    const Ran after = ran(model, nlohmann::json::object(), lampwright.get());
    const Image& one = *after.model.images[after.model.materials[0].image(PictureRole::Colour)];
    CHECK(one.width == 512);
    CHECK(one.height == 512);
    const auto& waves = after.facts["texels-per-metre"]["waves"];
    CHECK(waves["after"].get<double>() < waves["before"].get<double>());
    // The stripes are coarser from the start, so they lose nothing while the waves are finer than they.
    const auto& stripes = after.facts["texels-per-metre"]["stripes"];
    CHECK(stripes["after"].get<double>() == Approx(stripes["before"].get<double>()).epsilon(0.02));
    CHECK(std::ranges::any_of(after.notes,
                              [](const auto& n) { return n.find("texels a metre") != std::string::npos; }));
    CHECK(meanDifference(model, after.model) < 2);
}

TEST_CASE("each object gets one of its own, others that share its mesh keep theirs, and doing it twice "
          "changes nothing") {
    Model model = patchwork();
    model.nodes.push_back({"second", -1, glm::translate(glm::dmat4(1.0), {2.0, 0.0, 0.0}), 0});
    model.nodes.push_back({"kept", -1, glm::translate(glm::dmat4(1.0), {4.0, 0.0, 0.0}), 0});
    const Ran after = ran(model, {{"scope", "each"}, {"parts", {"ball", "second"}}});
    CHECK(after.model.nodes[0].mesh == after.model.nodes[1].mesh);
    CHECK(after.model.nodes[2].mesh != after.model.nodes[1].mesh);
    CHECK(usedMaterials(after.model).size() == 4);
    // Called after its object, and told apart from materials that stay.
    CHECK(after.model.materials.back().name == "ball");
    Model taken = model;
    taken.materials.push_back({.name = "ball"});
    taken.nodes.push_back({"other", -1, glm::dmat4(1.0), 1});
    auto other = std::make_shared<Mesh>(*model.meshes[0]);
    other->runs = {{0, std::uint32_t(other->triangleCount()), 3}};
    taken.meshes.push_back(other);
    CHECK(ran(taken, {{"scope", "each"}, {"parts", {"ball"}}}).model.materials.back().name == "ball-2");
    const Ran again = ran(after.model, {{"scope", "each"}, {"parts", {"ball", "second"}}});
    CHECK(again.notes == std::vector<std::string>{"there is one material already"});
    const Ran all = ran(model, {{"name", "harbour"}});
    CHECK(all.model.materials.size() == 1);
    CHECK(all.model.materials[0].name == "harbour");
    CHECK(all.model.meshes.size() == 1);
}

TEST_CASE("materials that differ in name only become one without a new picture; faces without one join in") {
    Model model = patchwork();
    model.materials[0] = model.materials[1];
    model.materials[0].name = "other name";
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs[2].material = 1;
    model.meshes[0] = mesh;
    const Ran alike = ran(model);
    CHECK(alike.model.materials.size() == 1);
    CHECK(alike.model.images.size() == 1);
    CHECK(alike.model.images[0]->name == "stripes.png");
    CHECK(alike.model.meshes[0]->uvSets[0][5] == mesh->uvSets[0][5]);
    mesh = std::make_shared<Mesh>(*mesh);
    mesh->runs[2].material = -1;
    model.meshes[0] = mesh;
    const Ran bare = ran(model);
    CHECK(usedMaterials(bare.model) == std::vector<int>{0});
    CHECK(meanDifference(model, bare.model) < 2);
}

TEST_CASE("300 plain colours fit into a small picture, and what does not fit is refused") {
    Model model = patchwork();
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs.clear();
    mesh->uvSets.clear();
    model.materials.clear();
    for (int i = 0; i < 300; ++i) {
        model.materials.push_back(
            {.name = "m" + std::to_string(i), .baseColour = {i / 300.0f, 1 - i / 300.0f, 0.3f, 1}});
        mesh->runs.push_back({std::uint32_t(i), 1, i});
    }
    mesh->runs.push_back({300, std::uint32_t(mesh->triangleCount()) - 300, 0});
    model.meshes[0] = mesh;
    const Ran after = ran(model);
    CHECK(after.model.materials.size() == 1);
    CHECK(after.model.images[0]->width <= 256);
    CHECK(meanDifference(model, after.model) < 1);
    CHECK(errorOf([&] {
              ran(model, {{"edge", 64}});
          }).find("300 materials do not fit into a picture of 64 px") == 0);
}

TEST_CASE("broken pictures, pictures on other UVs and bones do not stop it, and are said") {
    Model model = richModel();
    auto broken = std::make_shared<Image>(*model.images[0]);
    broken->encoded.resize(broken->encoded.size() / 2);
    model.images.push_back(broken);
    model.materials[1].picture(PictureRole::Colour).image = 1;
    model.materials[0].picture(PictureRole::Occlusion) = {.image = 0, .uvSet = 1};
    const Ran after = ran(model);
    CHECK(usedMaterials(after.model) == std::vector<int>{0});
    const auto said = [&](const char* text) {
        return std::ranges::any_of(after.notes,
                                   [&](const auto& n) { return n.find(text) != std::string::npos; });
    };
    CHECK(said("the colour picture of \"rope\", which is broken"));
    CHECK(said("the occlusion picture of \"bronze\", which lies on other UVs"));
    const Mesh& mesh = *after.model.meshes[0];
    CHECK(mesh.morphs.size() == 1);
    CHECK(mesh.weights.size() == mesh.vertexCount());
    CHECK(mesh.colours.size() == mesh.vertexCount());
    CHECK(after.model.clips.size() == 1);
}

TEST_CASE("a plan makes one material where a platform wants one, and keeps the lantern one object") {
    const Model model = patchwork();
    for (const char* id : {"playmeadow", "hearthboard"}) {
        INFO(id);
        const auto plan = planner::plan(model, *sheet(id));
        CHECK(plan.holds);
        CHECK(std::ranges::any_of(plan.steps, [](const auto& s) { return s.entry.step == "one-material"; }));
        CHECK_FALSE(
            std::ranges::any_of(plan.steps, [](const auto& s) { return s.entry.step == "split-parts"; }));
    }
    Model repeating = model;
    repeating.materials[0].picture(PictureRole::Colour).placement.scale = {10, 9};
    CHECK(planner::plan(repeating, *sheet("hearthboard")).holds); // unrolled further
}

TEST_CASE("an object's file in a pack carries its own materials only, also where a run of no triangles names "
          "others") {
    Model model = patchwork();
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs = {{0, 0, 2}, {0, std::uint32_t(mesh->triangleCount()), 1}};
    model.meshes[0] = mesh;
    const Model own = withUsedMaterialsOnly(model);
    REQUIRE(own.materials.size() == 1);
    CHECK(own.materials[0].name == "stripes");
    CHECK(own.materials[0].image(PictureRole::Colour) == 0);
    REQUIRE(own.images.size() == 1);
    CHECK(own.images[0]->name == "stripes.png");
    CHECK(brokenPromise(own).empty());
}
