// How models lie on their pictures: rows of pixels, islands, overlaps, and UVs moved, sewn and made anew.
#include "core/base/error.h"
#include "core/uv/islands.h"
#include "core/uv/layout_picture.h"
#include "core/uv/on_surface.h"
#include "core/uv/outline.h"
#include "core/uv/overlap.h"
#include "core/uv/placing.h"
#include "core/uv/raster.h"
#include "core/uv/seam.h"
#include "support/panels.h"
#include "support/ran_step.h"

#include <catch2/catch.hpp>

#include <random>

using namespace zl;

namespace {

std::vector<uv::UvIsland> islandsIn(const Model& model) {
    return uv::islandsOf(model, uv::uvFaces(model));
}

/// Every corner of a node: place in the world, and UV with its material's placement.
std::vector<std::pair<glm::dvec3, glm::dvec2>> cornersIn(const Model& model, int node) {
    std::vector<std::pair<glm::dvec3, glm::dvec2>> out;
    const uv::UvFaces faces = uv::uvFaces(model);
    for (const uv::UvFace& face : faces.faces)
        for (std::size_t k = 0; face.node == node && k < 3; ++k) {
            const Mesh& mesh = *model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)];
            out.emplace_back(mesh.positions[mesh.indices[3 * std::size_t(face.triangle) + k]], face.at[k]);
        }
    return out;
}

nlohmann::json part(const std::string& name) {
    return {{{"parts", {name}}}};
}

} // namespace

TEST_CASE("triangles that share an edge cover every pixel between them once") {
    std::mt19937 dice(7);
    std::uniform_real_distribution<double> anywhere(-2, 66);
    for (int round = 0; round < 200; ++round) {
        // A square cut into triangles about a point within it, corners on whole and half pixels now and then.
        glm::dvec2 middle(anywhere(dice), anywhere(dice));
        middle = glm::clamp(middle, 1.0, 63.0);
        if (round % 3 == 0) middle = glm::floor(middle) + 0.5;
        const glm::dvec2 corner[4] = {{0, 0}, {64, 0}, {64, 64}, {0, 64}};
        std::vector<int> count(64 * 64, 0);
        for (int i = 0; i < 4; ++i) {
            std::array<glm::dvec2, 3> at{corner[i], corner[(i + 1) % 4], middle};
            if (round % 2) std::swap(at[0], at[1]);
            uv::forEachRow(at, {{0, 0}, {64, 64}}, [&](int row, int from, int to) {
                for (int x = from; x < to; ++x) ++count[std::size_t(row * 64 + x)];
            });
        }
        CHECK(std::ranges::count(count, 1) == 64 * 64);
    }
}

TEST_CASE("a pixel is a triangle's when its middle lies within") {
    std::mt19937 dice(11);
    std::uniform_real_distribution<double> anywhere(-20, 60);
    for (int round = 0; round < 100; ++round) {
        std::array<glm::dvec2, 3> at;
        for (glm::dvec2& p : at) p = {anywhere(dice), anywhere(dice)};
        std::vector<char> marked(40 * 40, 0);
        uv::forEachRow(at, {{0, 0}, {40, 40}}, [&](int row, int from, int to) {
            for (int x = from; x < to; ++x) marked[std::size_t(row * 40 + x)] = 1;
        });
        for (int y = 0; y < 40; ++y)
            for (int x = 0; x < 40; ++x) {
                const glm::dvec3 w = uv::weightsAt(at, {x + 0.5, y + 0.5});
                const double least = std::min({w.x, w.y, w.z});
                if (std::abs(least) < 0.02) continue; // near an edge rounding decides
                CHECK((least > 0) == bool(marked[std::size_t(y * 40 + x)]));
            }
    }
    bool any = false;
    const auto note = [&](int, int, int) { any = true; };
    const double nan = std::nan("");
    uv::forEachRow({glm::dvec2(nan, 0), {5, 5}, {0, 9}}, {{0, 0}, {9, 9}}, note);
    uv::forEachRow({glm::dvec2(1e9, 0), {5, 5}, {0, 9}}, {{0, 0}, {9, 9}}, note);
    uv::forEachRow({glm::dvec2(1, 1), {5, 5}, {3, 3}}, {{0, 0}, {9, 9}}, note);
    CHECK_FALSE(any);
}

TEST_CASE("islands know their density, stretch, side and borders") {
    // Two metres wide with 64 px across: 32 px a metre; and one twice as high as its picture is drawn.
    const Mesh tall = shapes::panel(
        2, 2, [](double x, double y) { return glm::dvec3(5 + x, 2 * y, 0); },
        [](double x, double y) { return glm::dvec2(1.5 - x, 1 - y); }); // mirrored, beyond the left border
    const Model model = shapes::pictured({shapes::uprightSquare(2), tall});
    const auto islands = islandsIn(model);
    REQUIRE(islands.size() == 2);
    CHECK(islands[0].density == Approx(32));
    CHECK(islands[0].stretch == Approx(1));
    CHECK_FALSE(islands[0].isMirrored());
    CHECK_FALSE(islands[0].isOutside());
    CHECK(islands[0].faces.size() == 32);
    CHECK(islands[1].stretch == Approx(2));
    CHECK(islands[1].density == Approx(64 / std::sqrt(2.0)));
    CHECK(islands[1].isMirrored());
    CHECK(islands[1].isOutside());
    CHECK(islands[1].area == Approx(2));
}

TEST_CASE("corners that are doubled for their normals do not part an island; a seam does") {
    Mesh square = shapes::exploded(shapes::uprightSquare(1));
    const Mesh joined = shapes::uprightSquare(1);
    square.uvSets.emplace_back();
    for (const std::uint32_t v : joined.indices) square.uvSets[0].push_back(joined.uvSets[0][v]);
    square.runs = joined.runs;
    CHECK(islandsIn(shapes::pictured({square})).size() == 1);
    for (std::size_t c = 3 * 8; c < square.uvSets[0].size(); ++c) square.uvSets[0][c].x += 2;
    CHECK(islandsIn(shapes::pictured({square})).size() == 2);
}

TEST_CASE("what lies twice on a picture is found, also a whole picture apart") {
    const auto at = [](double left, double beyond) {
        return shapes::panel(
            3, 3, [](double x, double y) { return glm::dvec3(x, y, 0); },
            [=](double x, double y) { return glm::dvec2(left + x / 2 + beyond, y / 2 + beyond); });
    };
    const Model apart = shapes::pictured({at(0, 0), at(0.5, 0)});
    CHECK(uv::overlapOf(uv::uvFaces(apart)).faces.empty());
    const Model half = shapes::pictured({at(0, 0), at(0.25, 3)});
    const uv::Overlap overlap = uv::overlapOf(uv::uvFaces(half));
    CHECK(overlap.share == Approx(1.0 / 3).margin(0.005)); // 1/8 of 3/8
    CHECK(overlap.faces.size() > 10);
    Model two = half; // on pictures of two materials they do not meet
    two.materials.push_back(two.materials[0]);
    Mesh other = *two.meshes[1];
    other.runs[0].material = 1;
    two.meshes[1] = std::make_shared<const Mesh>(other);
    CHECK(uv::overlapOf(uv::uvFaces(two)).faces.empty());
    Mesh wide = shapes::uprightSquare(1, 0, 1);
    for (glm::vec2& uv : wide.uvSets[0]) uv *= 2.0f;
    CHECK(uv::overlapOf(uv::uvFaces(shapes::pictured({wide}))).share == 1);
}

TEST_CASE("very many triangles on very many repeats do not take forever") {
    Mesh wide = shapes::uprightSquare(1, 0, 300);
    for (glm::vec2& uv : wide.uvSets[0]) uv *= 10000.0f;
    CHECK(uv::overlapOf(uv::uvFaces(shapes::pictured({wide}))).faces.size() == 180000);
}

TEST_CASE("a picture is moved, turned and sized as it is seen") {
    const auto uvAt = [](const Model& model, glm::dvec2 place) {
        for (const auto& [at, uv] : cornersIn(model, 0))
            if (glm::distance(glm::dvec2(at), place) < 1e-6) return uv;
        return glm::dvec2(99);
    };
    const Model square = shapes::pictured({shapes::uprightSquare(1)}, 64, 32);
    // To the right by a quarter: what was at the left edge is a quarter further right now.
    const Model right = ranStep(square, "uv-placement", {{"across", 0.25}}).model;
    CHECK(glm::distance(uvAt(right, {0.25, 0.5}), glm::dvec2(0, 0.5)) < 1e-6);
    const Model down = ranStep(square, "uv-placement", {{"down", 0.5}}).model;
    CHECK(glm::distance(uvAt(down, {0.5, 0.5}), glm::dvec2(0.5, 0)) < 1e-6);
    // Twice as wide about its middle: the left edge shows what was a quarter in.
    const Model wide = ranStep(square, "uv-placement", {{"wider", 2.0}}).model;
    CHECK(glm::distance(uvAt(wide, {0, 0.5}), glm::dvec2(0.25, 0.5)) < 1e-6);
    // A quarter turn counter-clockwise: what was at the right is at the top. 64 by 32 pixels on a square are
    // drawn out to half their width, so that in pixels the right edge is 32 from the middle and the top 16.
    const Model turned = ranStep(square, "uv-placement", {{"turn", 90.0}}).model;
    CHECK(glm::distance(uvAt(turned, {0.5, 1}), glm::dvec2(0.75, 0.5)) < 1e-6);
    CHECK(islandsIn(turned)[0].stretch == Approx(2));
    const Model corner = ranStep(square, "uv-placement", {{"taller", 2.0}, {"about", "corner"}}).model;
    CHECK(glm::distance(uvAt(corner, {0, 1}), glm::dvec2(0, 0)) < 1e-6);
    CHECK(glm::distance(uvAt(corner, {0, 0}), glm::dvec2(0, 0.5)) < 1e-6);
}

TEST_CASE("a placement of the material's own stays, and what was chosen alone moves") {
    Model model = shapes::pictured({shapes::uprightSquare(1), shapes::uprightSquare(1, 2)});
    model.materials[0].picture(PictureRole::Colour).placement = {{0.3f, 0.1f}, {2, 0.5f}, 0.4f};
    const auto before = cornersIn(model, 0);
    const Model moved =
        ranStep(model, "uv-placement", {{"faces", part("panel 1")}, {"across", 0.25}, {"down", -0.5}}).model;
    const auto after = cornersIn(moved, 0);
    REQUIRE(after.size() == before.size());
    double off = 0;
    for (std::size_t i = 0; i < after.size(); ++i)
        off = std::max(off, glm::distance(after[i].second, before[i].second + glm::dvec2(-0.25, 0.5)));
    CHECK(off < 1e-5);
    CHECK(cornersIn(moved, 1) == cornersIn(model, 1));
    CHECK(moved.materials[0] == model.materials[0]);
    CHECK(ranStep(model, "uv-placement", nlohmann::json::object()).notes[0] ==
          "pictures stay where they are");
    model.materials[0].picture(PictureRole::Colour).placement.scale.x = 0;
    CHECK_THROWS_WITH(ranStep(model, "uv-placement", {{"across", 0.25}}),
                      Catch::Contains("scaled to nothing"));
}

TEST_CASE("each part turns about its own middle, or all about one") {
    const Model model = shapes::pictured({shapes::uprightSquare(1), shapes::uprightSquare(1, 1)});
    Model shifted = model; // the second lies beside the first on the picture
    Mesh second = *model.meshes[1];
    for (glm::vec2& uv : second.uvSets[0]) uv.x += 1;
    shifted.meshes[1] = std::make_shared<const Mesh>(second);
    const auto spread = [&](const char* about) {
        const Model turned = ranStep(shifted, "uv-placement", {{"turn", 180.0}, {"about", about}}).model;
        glm::dvec2 middle(0);
        const auto corners = cornersIn(turned, 1);
        for (const auto& [at, uv] : corners) middle += uv / double(corners.size());
        return middle;
    };
    CHECK(glm::distance(spread("each"), glm::dvec2(1.5, 0.5)) < 1e-5);
    CHECK(glm::distance(spread("together"), glm::dvec2(0.5, 0.5)) < 1e-5);
}

TEST_CASE("a stripe runs on across seams of any turn, size and place") {
    std::mt19937 dice(3);
    std::uniform_real_distribution<double> share(0, 1);
    for (int round = 0; round < 20; ++round) {
        // One bent cloth in two panels. The second was laid out with another turn, size and place, and with
        // corners of its own along the seam.
        const double bend = share(dice) * 2, turn = share(dice) * 6, scale = 0.3 + share(dice);
        const glm::dvec2 move(share(dice) * 5, share(dice) * 5);
        const auto place = [&](double x, double y) {
            return glm::dvec3(std::sin(bend * x) / std::max(bend, 0.1), y,
                              std::cos(bend * x) / std::max(bend, 0.1));
        };
        const auto flat = [](double x, double y) { return glm::dvec2(0.2 + 0.4 * x, 0.9 - 0.4 * y); };
        const double c = std::cos(turn), s = std::sin(turn);
        const auto otherwise = [&](double x, double y) {
            const glm::dvec2 at = flat(x + 1, y);
            return scale * glm::dvec2(c * at.x - s * at.y, s * at.x + c * at.y) + move;
        };
        const Mesh first = shapes::panel(4, 6, place, flat);
        const Mesh second = shapes::panel(
            5, round % 2 ? 6 : 9, [&](double x, double y) { return place(x + 1, y); }, otherwise);
        const Model sewn = shapes::pictured({first, second});
        const auto ran = ranStep(sewn, "run-on", {{"from", part("panel 1")}, {"onto", part("panel 2")}});
        CHECK(ran.facts["seam"]["largest"].get<double>() < 1e-5);
        CHECK(ran.facts["seam"]["metres"].get<double>() == Approx(1).margin(1e-6));
        double off = 0;
        const auto corners = cornersIn(ran.model, 1), before = cornersIn(sewn, 1);
        for (std::size_t i = 0; i < corners.size(); ++i) {
            const glm::dvec2 laid = (before[i].second - move) / scale;
            const glm::dvec2 wanted(c * laid.x + s * laid.y, -s * laid.x + c * laid.y);
            off = std::max(off, glm::distance(corners[i].second, wanted));
        }
        CHECK(off < 1e-5);
    }
}

TEST_CASE("panels face to face want mirroring, panels apart are refused") {
    const auto flat = [](double x, double y) { return glm::dvec2(x, -y); };
    const Mesh first = shapes::panel(
        3, 3, [](double x, double y) { return glm::dvec3(x, y + 0.2 * x * x, 0); }, flat);
    const Mesh second = shapes::panel(
        3, 3, [](double x, double y) { return glm::dvec3(x + 1, y + 0.2 + x * 0.1, 0); },
        [](double x, double y) { return glm::dvec2(-x - 1, -y); });
    const Model model = shapes::pictured({first, second});
    const nlohmann::json params{{"from", part("panel 1")}, {"onto", part("panel 2")}};
    // One straight seam fits either way; a corner of the border beside it does not count.
    CHECK(ranStep(model, "run-on", params).facts["seam"]["largest"].get<double>() < 1e-6);
    Model apart = model;
    apart.nodes[1].local[3].x = 0.01;
    CHECK_THROWS_WITH(ranStep(apart, "run-on", params), Catch::Contains("do not meet"));
    nlohmann::json wider = params;
    wider["within"] = 0.02;
    CHECK(ranStep(apart, "run-on", wider).facts["seam"]["metres"].get<double>() == Approx(1));
    CHECK(ranStep(model, "run-on", nlohmann::json::object()).notes[0] == "two panels are to be chosen");
}

TEST_CASE("a picture begins at a seam with the edge that is wanted") {
    const auto bent = [](double x, double y) {
        return glm::dvec2(3 + 0.6 * x - 0.8 * y, 2 + 0.8 * x + 0.6 * y);
    };
    const Model model =
        shapes::pictured({shapes::uprightSquare(1),
                          shapes::panel(
                              4, 4, [](double x, double y) { return glm::dvec3(1 + x, y, 0); }, bent)});
    for (const auto& [edge, axis, at, inward] :
         {std::tuple("upper", 1, 0.0, 1.0), std::tuple("lower", 1, 1.0, -1.0),
          std::tuple("left", 0, 0.0, 1.0), std::tuple("right", 0, 1.0, -1.0)}) {
        CAPTURE(edge);
        const auto ran = ranStep(model, "stop-at-seam",
                                 {{"panel", part("panel 2")}, {"against", part("panel 1")}, {"edge", edge}});
        for (const auto& [place, uv] : cornersIn(ran.model, 1)) {
            CHECK(uv[axis] == Approx(at + inward * (place.x - 1)).margin(1e-5));
            CHECK(uv[1 - axis] > -1e-5);
            CHECK(uv[1 - axis] < 1 + 1e-5);
        }
        CHECK(islandsIn(ran.model)[1].isMirrored() == islandsIn(model)[1].isMirrored());
    }
}

TEST_CASE("UVs anew lie flat, side by side and to scale") {
    Model box = shapes::modelOf(geometry::boxMesh({-1, 0, -0.5}, {1, 3, 0.5}), "chest");
    Mesh bare = *box.meshes[0];
    bare.uvSets.clear();
    box.meshes[0] = std::make_shared<const Mesh>(bare);
    const Model thrown = ranStep(box, "uvs-anew", {{"by", "box"}, {"size", 2.0}}).model;
    for (const uv::UvIsland& island : islandsIn(thrown)) {
        CHECK(island.stretch == Approx(1));
        CHECK(island.uvArea == Approx(island.area / 4));
        CHECK_FALSE(island.isMirrored());
    }
    const auto packed = ranStep(box, "uvs-anew", {{"by", "islands"}});
    const auto islands = islandsIn(packed.model);
    CHECK(islands.size() == 6);
    const double scale = islands[0].uvArea / islands[0].area;
    for (const uv::UvIsland& island : islands) {
        CHECK_FALSE(island.isOutside());
        CHECK_FALSE(island.isMirrored());
        CHECK(island.uvArea / island.area == Approx(scale));
    }
    CHECK(uv::overlapOf(uv::uvFaces(packed.model)).faces.empty());
    double used = 0;
    for (const uv::UvIsland& island : islands) used += island.uvArea;
    CHECK(used > 0.45);
    CHECK(ranStep(packed.model, "uvs-anew", {{"by", "box"}}).notes[0] == "everything has UVs already");
    CHECK(
        islandsIn(ranStep(packed.model, "uvs-anew", {{"by", "plane"}, {"axis", "z"}, {"only", "all"}}).model)
            .size() >= 1);
}

TEST_CASE("around a cylinder the picture runs to the right, once for each width") {
    Mesh tube = geometry::cylinderMesh({0, 0, 0}, 0.5, 2, 64);
    tube.uvSets.clear();
    const Model model = shapes::modelOf(tube, "tube");
    const Model laid = ranStep(model, "uvs-anew", {{"by", "cylinder"}, {"axis", "y"}, {"size", 1.0}}).model;
    double sides = 0;
    for (const uv::UvIsland& island : islandsIn(laid)) {
        CHECK_FALSE(island.isMirrored());
        CHECK(island.stretch < 1.05);
        sides += island.uvArea;
    }
    CHECK(sides == Approx(2 * shapes::pi * 0.5 * 2 + 2 * shapes::pi * 0.25).epsilon(0.02));
}

TEST_CASE("islands of bent and folded surfaces do not lie on themselves") {
    // A winding stair faces upward all the way and lies over itself as seen from above.
    const Mesh stair = shapes::panel(
        400, 2,
        [](double x, double y) {
            const double a = x * 6 * shapes::pi;
            return glm::dvec3((1 + y) * std::sin(a), 3 * x, (1 + y) * std::cos(a));
        },
        [](double, double) { return glm::dvec2(0); });
    Mesh ball = shapes::sphere(40, 30);
    ball.uvSets.clear();
    Mesh bare = stair;
    bare.uvSets.clear();
    Model model = shapes::modelOf(bare, "stair");
    model.materials = {{.name = "stone"}};
    model.nodes.push_back({"ball", -1, glm::dmat4(1.0), 1});
    model.meshes.push_back(std::make_shared<const Mesh>(ball));
    for (const double angle : {20.0, 60.0, 85.0}) {
        CAPTURE(angle);
        const auto ran = ranStep(model, "uvs-anew", {{"by", "islands"}, {"angle", angle}});
        const auto islands = islandsIn(ran.model);
        CHECK(uv::overlapOf(uv::uvFaces(ran.model), 2048).share < 0.002);
        for (const uv::UvIsland& island : islands) {
            CHECK_FALSE(island.isOutside());
            CHECK(island.stretch <= 1.0001 / std::cos(glm::radians(angle)));
        }
    }
}

TEST_CASE("an island's border is walked once, inner ones too") {
    const Model plain = shapes::pictured({shapes::uprightSquare(1, 0, 4)});
    const uv::UvFaces faces = uv::uvFaces(plain);
    const auto loops = uv::outlineOf(faces, uv::islandsOf(plain, faces)[0]);
    REQUIRE(loops.size() == 1);
    CHECK(loops[0].size() == 16);
    Model frame = plain; // without the middle four squares
    Mesh mesh = *frame.meshes[0];
    std::vector<std::uint32_t> kept;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t) {
        glm::vec3 middle(0);
        for (std::size_t k = 0; k < 3; ++k) middle += mesh.positions[mesh.indices[3 * t + k]] / 3.0f;
        const bool inside = std::abs(middle.x - 0.5f) < 0.25f && std::abs(middle.y - 0.5f) < 0.25f;
        for (std::size_t k = 0; !inside && k < 3; ++k) kept.push_back(mesh.indices[3 * t + k]);
    }
    mesh.indices = kept;
    mesh.runs[0].triangleCount = std::uint32_t(kept.size() / 3);
    frame.meshes[0] = std::make_shared<const Mesh>(mesh);
    const uv::UvFaces rest = uv::uvFaces(frame);
    const auto both = uv::outlineOf(rest, uv::islandsOf(frame, rest)[0]);
    REQUIRE(both.size() == 2);
    CHECK(both[0].size() + both[1].size() == 24);
}

TEST_CASE("a layout is drawn in a colour a part, as pixels and as paths") {
    const auto quarter = [](double left, double above) {
        return shapes::panel(
            2, 2, [](double x, double y) { return glm::dvec3(x, y, 0); },
            [=](double x, double y) { return glm::dvec2(left + 0.4 * x, above + 0.4 * y); });
    };
    // The second lies three pictures further on, which is the same place.
    const Model model = shapes::pictured({quarter(0.05, 0.05), quarter(3.55, 0.55)}, 64, 32);
    const uv::UvFaces faces = uv::uvFaces(model);
    const auto islands = uv::islandsOf(model, faces);
    const Pixels drawn = uv::layoutPicture(model, faces, islands, 0, {.size = 256, .names = false});
    CHECK(drawn.width == 256);
    CHECK(drawn.height == 128);
    const auto at = [&](int x, int y) {
        const std::uint8_t* p = &drawn.rgba[4 * std::size_t(y * 256 + x)];
        return glm::ivec4(p[0], p[1], p[2], p[3]);
    };
    CHECK(at(200, 20) == glm::ivec4(255, 255, 255, 0));
    CHECK(at(20, 100).a == 0);
    const auto near = [](glm::ivec3 a, glm::ivec3 b) { return glm::length(glm::dvec3(a - b)) < 12; };
    CHECK(near(at(30, 20), uv::partColour(0)));
    CHECK(near(at(160, 84), uv::partColour(1)));
    CHECK_FALSE(near(uv::partColour(0), uv::partColour(1)));
    CHECK(at(13, 30).r < 160); // the border at 0.05 of 256 pixels
    const Pixels named = uv::layoutPicture(model, faces, islands, 0, {.size = 256});
    CHECK(named.rgba != drawn.rgba);
    const Pixels over =
        uv::layoutPicture(model, faces, islands, 0, {.size = 256, .picture = true, .names = false});
    CHECK(int(over.rgba[4 * (20 * 256 + 200)]) == 130);
    const std::string svg = uv::layoutSvg(model, faces, islands, 0, {.size = 256});
    CHECK(svg.find("<title>panel 1</title>") != std::string::npos);
    CHECK(svg.find("viewBox=\"0 0 256 128\"") != std::string::npos);
    CHECK(svg.find("12.800 6.400") != std::string::npos);
    CHECK(std::count(svg.begin(), svg.end(), 'Z') == 2);
}

TEST_CASE("a place is found by where it is and by where it lies on the picture") {
    const Model model = shapes::pictured({shapes::uprightSquare(2), shapes::uprightSquare(2, 5)});
    uv::MarkedFaces marked(2);
    marked[0].assign(model.meshes[0]->triangleCount(), 1);
    const uv::MarkedSurface surface(model, marked);
    CHECK(glm::distance(surface.middle(), glm::dvec2(0.5)) < 1e-6);
    const auto by = surface.at(glm::dvec3(0.5, 1.5, 0.7));
    REQUIRE(by);
    CHECK(glm::distance(by->place, glm::dvec3(0.5, 1.5, 0)) < 1e-6);
    CHECK(glm::distance(by->uv, glm::dvec2(0.25, 0.25)) < 1e-6);
    CHECK(glm::distance(by->right, glm::dvec3(2, 0, 0)) < 1e-5);
    CHECK(glm::distance(by->down, glm::dvec3(0, -2, 0)) < 1e-5);
    CHECK(glm::distance(by->normal, glm::dvec3(0, 0, 1)) < 1e-6);
    const auto beyond = surface.at(glm::dvec2(2, 0.5)); // the nearest that there is
    CHECK(glm::distance(beyond->place, glm::dvec3(2, 1, 0)) < 1e-5);
    CHECK(uv::MarkedSurface(model, {}).empty());

    // Both squares lie on the whole picture: of two as near, the one that faces the eye is taken.
    Model turned = model;
    turned.nodes[1].local = glm::rotate(glm::dmat4(1), glm::radians(90.0), glm::dvec3(0, 1, 0));
    marked[1].assign(model.meshes[1]->triangleCount(), 1);
    const uv::MarkedSurface sides(turned, marked);
    CHECK(glm::distance(sides.at(glm::dvec2(0.5), {0.3, 0, 1})->normal, glm::dvec3(0, 0, 1)) < 1e-6);
    CHECK(glm::distance(sides.at(glm::dvec2(0.5), {1, 0, 0.3})->normal, glm::dvec3(1, 0, 0)) < 1e-6);
    CHECK(sides.at(glm::dvec2(0.5), {-1, 0, -1})); // nothing faces that way
}
