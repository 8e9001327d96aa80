// Every kind of rule on models whose measures are known by construction: what fits, what is tight, what
// breaks, and what it points at.
#include "core/texture/picture_file.h"
#include "support/quickest.h"
#include "support/rule_sheet.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <fmt/format.h>
#include <glm/gtc/matrix_transform.hpp>

using namespace zl;
using platform::State;

namespace {

std::string numbered(const char* check, const char* limit, double value, const std::string& more = {}) {
    return fmt::format("id = \"{}\"\n{} = {}\n{}", check, limit, value, more);
}

/// A sphere of `around` by `up`: 2 · around · (up − 1) triangles, around · (up − 1) + 2 corners.
Model ball(int around, int up) {
    return shapes::modelOf(shapes::sphere(around, up), "ball");
}

Model withNode(Model model, const std::string& name, int parent = -1, int mesh = 0,
               const glm::dmat4& local = glm::dmat4(1.0)) {
    model.nodes.push_back({name, parent, local, mesh});
    return model;
}

std::shared_ptr<const Image> picture(int width, int height) {
    Image image;
    image.name = fmt::format("{}x{}.png", width, height);
    image.encoded = "never decoded here";
    image.width = width, image.height = height, image.channels = 4;
    return std::make_shared<const Image>(image);
}

/// A ball whose triangles wear as many materials as there are pictures, each its own.
Model pictured(const std::vector<std::pair<int, int>>& sizes) {
    Model model = ball(8, 6);
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->runs.clear();
    for (std::size_t i = 0; i < sizes.size(); ++i) {
        const std::uint32_t first = std::uint32_t(i) * 10;
        mesh->runs.push_back(
            {first, i + 1 == sizes.size() ? std::uint32_t(mesh->triangleCount()) - first : 10, int(i)});
        model.images.push_back(picture(sizes[i].first, sizes[i].second));
        model.materials.push_back({.name = fmt::format("m{}", i)});
        model.materials.back().picture(PictureRole::Colour).image = int(i);
    }
    model.meshes[0] = mesh;
    return model;
}

} // namespace

TEST_CASE("triangles: counted over what is shown, tight from 85 % on") {
    const Model model = ball(10, 6); // 100 triangles
    REQUIRE(triangleCount(model) == 100);
    CHECK(ruleResult(model, numbered("triangles", "most", 200)).state == State::Fits);
    CHECK(ruleResult(model, numbered("triangles", "most", 118)).state == State::Fits);  // 84.7 %
    CHECK(ruleResult(model, numbered("triangles", "most", 117)).state == State::Tight); // 85.5 %
    CHECK(ruleResult(model, numbered("triangles", "most", 100)).state == State::Tight);
    const auto over = ruleResult(model, numbered("triangles", "most", 80));
    CHECK(over.state == State::Broken);
    CHECK(over.finding.value == 100);
    CHECK(over.finding.share == Approx(1.25));
    // A mesh shown twice counts twice, one that no node shows not at all.
    CHECK(ruleResult(withNode(model, "twin"), numbered("triangles", "most", 500)).finding.value == 200);
    Model hidden = model;
    hidden.meshes.push_back(model.meshes[0]);
    CHECK(ruleResult(hidden, numbered("triangles", "most", 500)).finding.value == 100);
}

TEST_CASE("a model without triangles fits nowhere, however few are allowed") {
    Model nothing;
    nothing.nodes.push_back({"nothing", -1, glm::dmat4(1.0)});
    CHECK(ruleResult(nothing, numbered("triangles", "most", 10)).state == State::Broken);
    Model points = ball(8, 4);
    auto cloud = std::make_shared<Mesh>();
    cloud->positions = points.meshes[0]->positions;
    points.meshes[0] = cloud;
    CHECK(ruleResult(points, numbered("triangles", "most", 10)).state == State::Broken);
}

TEST_CASE("limits for each object name the worst and point at all that break them") {
    Model model = ball(10, 6);                      // 100
    model.meshes.push_back(ball(20, 11).meshes[0]); // 400
    model.meshes.push_back(ball(20, 6).meshes[0]);  // 200
    model = withNode(withNode(model, "big", -1, 1), "middle", -1, 2);
    const auto found = ruleResult(model, numbered("triangles", "most", 150, "per-object = 1\n"));
    CHECK(found.state == State::Broken);
    CHECK(found.finding.value == 400);
    CHECK(found.finding.nodes == std::vector<int>{1, 2});
    CHECK(found.finding.note.find("\"big\"") != std::string::npos);
    CHECK(ruleResult(model, numbered("triangles", "most", 500, "per-object = 1\n")).state == State::Fits);
    CHECK(ruleResult(model, numbered("corners", "most", 202)).state == State::Tight); // 20 · 10 + 2
    CHECK(ruleResult(model, numbered("corners", "most", 201)).state == State::Broken);
}

TEST_CASE("objects and materials: what is used counts, what only lies in the file does not") {
    Model model = pictured({{64, 64}, {64, 64}, {64, 64}});
    model.materials.push_back({.name = "never used"});
    CHECK(ruleResult(model, numbered("materials", "most", 3)).state != State::Broken);
    const auto over = ruleResult(model, numbered("materials", "most", 2));
    CHECK(over.state == State::Broken);
    CHECK(over.finding.materials == std::vector<int>{0, 1, 2});
    CHECK(ruleResult(model, numbered("materials", "most", 2, "per-object = 1\n")).finding.value == 3);
    CHECK(ruleResult(model, numbered("objects", "most", 1)).state != State::Broken);
    const auto two = ruleResult(withNode(model, "twin"), numbered("objects", "most", 1));
    CHECK(two.state == State::Broken);
    CHECK(two.finding.nodes == std::vector<int>{0, 1});
    // Nodes that show nothing are no objects.
    CHECK(ruleResult(withNode(model, "group", -1, -1), numbered("objects", "most", 1)).state !=
          State::Broken);
}

TEST_CASE("pictures are counted once each, in all roles, together or for each object") {
    Model model = pictured({{8, 8}, {4, 4}});
    model.images.push_back(picture(2, 2));
    model.materials[0].picture(PictureRole::Roughness) = {.image = 2, .channel = PictureChannel::Green};
    model.materials[0].picture(PictureRole::Metalness) = {.image = 2, .channel = PictureChannel::Blue};
    CHECK(ruleResult(model, numbered("pictures", "most", 3)).state != State::Broken);
    const auto over = ruleResult(model, numbered("pictures", "most", 2));
    CHECK(over.state == State::Broken);
    CHECK(over.finding.value == 3);
    CHECK(over.finding.materials == std::vector<int>{0, 1});
    const auto each =
        ruleResult(model, "check = \"pictures\"\nid = \"pictures\"\nmost = 2\nper-object = 1\n");
    CHECK(each.state == State::Broken);
    CHECK(each.finding.nodes == std::vector<int>{0});
}

TEST_CASE("picture edges: the longest side of any used picture, and which materials wear it") {
    const Model model = pictured({{512, 128}, {64, 1025}, {32, 32}});
    const auto over = ruleResult(model, numbered("picture-edge", "most", 1024));
    CHECK(over.state == State::Broken);
    CHECK(over.finding.value == 1025);
    CHECK(over.finding.materials == std::vector<int>{1});
    CHECK(ruleResult(model, numbered("picture-edge", "most", 2048)).state == State::Fits);
    CHECK(ruleResult(ball(8, 4), numbered("picture-edge", "most", 16)).state == State::Fits);
    Model unused = ball(8, 4);
    unused.images.push_back(picture(9000, 9000));
    CHECK(ruleResult(unused, numbered("picture-edge", "most", 16)).state == State::Fits);
}

TEST_CASE("sides that are powers of two, and those that are not") {
    CHECK(ruleResult(pictured({{512, 1}, {2, 2048}}), "id = \"power-of-two\"").state == State::Fits);
    const auto odd = ruleResult(pictured({{512, 512}, {512, 500}, {0, 512}}), "id = \"power-of-two\"");
    CHECK(odd.state == State::Broken);
    CHECK(odd.finding.value == 2);
    CHECK(odd.finding.materials == std::vector<int>{1, 2});
    CHECK(odd.finding.note.find("512 by 500") != std::string::npos);
}

TEST_CASE("height, width and length are of the placed model, in the platform's unit") {
    // 3 wide, 2 tall, 5 long in metres: 30, 20 and 50 dm. Length runs along the front.
    const Model box = shapes::box({0, 0, 0}, {3, 2, 5});
    const auto range = [](const char* check, double least, double most) {
        return fmt::format("id = \"{}\"\nleast = {}\nmost = {}\n", check, least, most);
    };
    const auto [check, value] =
        GENERATE(table<const char*, double>({{"width", 30.0}, {"height", 20.0}, {"length", 50.0}}));
    CHECK(ruleResult(box, range(check, value - 5, value + 5)).finding.value == Approx(value));
    CHECK(ruleResult(box, range(check, value - 5, value + 5)).state != State::Broken);
    CHECK(ruleResult(box, range(check, value, value + 5)).state != State::Broken); // exactly at either end
    CHECK(ruleResult(box, range(check, value - 5, value)).state != State::Broken);
    const auto small = ruleResult(box, range(check, value * 2, value * 3));
    CHECK(small.state == State::Broken);
    CHECK(small.finding.share == Approx(2));
    const auto large = ruleResult(box, range(check, 1, value / 4));
    CHECK(large.state == State::Broken);
    CHECK(large.finding.share == Approx(4));
    const Model placed = moved(box, glm::scale(glm::dmat4(1.0), glm::dvec3(0.5)));
    CHECK(ruleResult(placed, range(check, 1, 100)).finding.value == Approx(value / 2));
}

TEST_CASE("size beside a figure: the longest side in figures") {
    const Model mast = shapes::box({0, 0, 0}, {0.1, 18, 0.1}); // ten figures of 1.8 m
    const std::string within = "id = \"size\"\ncheck = \"size-beside-figure\"\nleast = 0.5\nmost = 10.5\n";
    CHECK(ruleResult(mast, within).finding.value == Approx(10));
    CHECK(ruleResult(mast, within).state != State::Broken);
    CHECK(ruleResult(moved(mast, glm::scale(glm::dmat4(1.0), glm::dvec3(1000))), within).state ==
          State::Broken);
    const auto tiny = ruleResult(moved(mast, glm::scale(glm::dmat4(1.0), glm::dvec3(0.001))), within);
    CHECK(tiny.state == State::Broken);
    CHECK(tiny.finding.share == Approx(50));
}

TEST_CASE("standing on the floor: within so much above or below") {
    const auto at = [](double metres) {
        return ruleResult(shapes::box({0, metres, 0}, {1, metres + 1, 1}),
                          numbered("stands-on-floor", "within", 0.5));
    };
    CHECK(at(0).state == State::Fits);
    CHECK(at(0.0499).state != State::Broken);
    CHECK(at(-0.0499).state != State::Broken);
    CHECK(at(0.06).state == State::Broken);
    CHECK(at(0.06).finding.note.find("above") != std::string::npos);
    CHECK(at(-0.06).finding.note.find("below") != std::string::npos);
}

TEST_CASE("the origin is measured from the foot's middle, not from the middle of everything") {
    // A post of 2 dm with a beam that reaches out at the top: the foot is the post's.
    Model crane = shapes::box({-0.1, 0, -0.1}, {0.1, 3, 0.1});
    auto mesh = std::make_shared<Mesh>(*crane.meshes[0]);
    const Model beam = shapes::box({0.1, 2.8, -0.1}, {4, 3, 0.1});
    const auto base = std::uint32_t(mesh->positions.size());
    for (const std::uint32_t i : beam.meshes[0]->indices) mesh->indices.push_back(base + i);
    mesh->positions.insert(mesh->positions.end(), beam.meshes[0]->positions.begin(),
                           beam.meshes[0]->positions.end());
    mesh->runs = {{0, 24, -1}};
    crane.meshes[0] = mesh;
    CHECK(ruleResult(crane, numbered("origin-under-foot", "within", 0.2)).state == State::Fits);
    const auto aside = ruleResult(moved(crane, glm::translate(glm::dmat4(1.0), {0.3, 0.0, 0.4})),
                                  numbered("origin-under-foot", "within", 0.2));
    CHECK(aside.state == State::Broken);
    CHECK(aside.finding.value == Approx(5)); // 3-4-5, in decimetres
}

TEST_CASE("what is known of unit and front") {
    Model model = ball(8, 4);
    CHECK(ruleResult(model, "id = \"unit-known\"").state == State::Fits);
    model.frame.unitAssumed = true;
    CHECK(ruleResult(model, "id = \"unit-known\"").state == State::Broken);
    CHECK(ruleResult(model, "id = \"heading\"\ncheck = \"heading-known\"").state == State::Broken);
    model.headingKnown = true;
    const auto known = ruleResult(model, "id = \"heading\"\ncheck = \"heading-known\"");
    CHECK(known.state == State::Fits);
    CHECK(known.finding.measured == "+X");
}

TEST_CASE("transforms: any node that carries one, and all roots of a placed model") {
    const glm::dmat4 up = glm::translate(glm::dmat4(1.0), {0.0, 1.0, 0.0});
    Model model = withNode(withNode(ball(8, 4), "arm", 0), "hand", 1);
    CHECK(ruleResult(model, "id = \"no-transforms\"").state == State::Fits);
    model.nodes[2].local = up;
    const auto one = ruleResult(model, "id = \"no-transforms\"");
    CHECK(one.state == State::Broken);
    CHECK(one.finding.nodes == std::vector<int>{2});
    CHECK(one.finding.note.find("\"hand\"") != std::string::npos);
    CHECK(ruleResult(moved(model, up), "id = \"no-transforms\"").finding.nodes == std::vector<int>{0, 2});
}

TEST_CASE("wrappers: nodes that show nothing and could go") {
    Model model = ball(8, 4);
    CHECK(ruleResult(model, "id = \"no-wrappers\"").state == State::Fits);
    model.nodes = {
        {"group", -1, glm::dmat4(1.0)}, {"ball", 0, glm::dmat4(1.0), 0}, {"empty", 0, glm::dmat4(1.0)}};
    const auto found = ruleResult(model, "id = \"no-wrappers\"");
    CHECK(found.state == State::Broken);
    CHECK(found.finding.value == 2);
    CHECK(found.finding.note.find("\"group\"") != std::string::npos);
}

TEST_CASE("names: legal ones, and each only once whatever its capitals") {
    const std::string legal = "id = \"names\"\npattern = '[a-z0-9_]{1,8}'\nwanted = \"small letters\"\n";
    Model model = withNode(ball(8, 4), "lamp_2");
    CHECK(ruleResult(model, legal).state == State::Fits);
    model.nodes[1].name = GENERATE("Lamp", "lamp two", "much_too_long", "", "l\xc3\xa4mp", "lamp\n");
    const auto illegal = ruleResult(model, legal);
    CHECK(illegal.state == State::Broken);
    CHECK(illegal.finding.nodes == std::vector<int>{1});
    model.nodes[1].name = "BALL";
    CHECK(ruleResult(model, "id = \"names-once\"").state == State::Broken);
    model.nodes[1].name = "ball2";
    CHECK(ruleResult(model, "id = \"names-once\"").state == State::Fits);
}

TEST_CASE("a pattern of names that invites endless trying ends") {
    const std::string sly = "id = \"names\"\npattern = '(a|a|b*)*c'\nwanted = \"letters and a c\"\n";
    const WorkWatch watch;
    CHECK(ruleResult(withNode(ball(8, 4), std::string(200, 'a')), sly).state == State::Broken);
    CHECK(watch.seconds() < 5);
}

TEST_CASE("colliders: triangles, a level bottom, and the box that stands in for a missing one") {
    Model model = shapes::box({-0.5, 0, -0.5}, {0.5, 2, 0.5});
    CHECK(ruleResult(model, numbered("collider-triangles", "most", 12)).finding.measured == "none");
    const Model cube = shapes::box({0, 0, 0}, {1, 1, 1}); // its box leans 45°
    CHECK(ruleResult(cube, numbered("lean", "least", 44)).state == State::Fits);
    CHECK(ruleResult(cube, numbered("lean", "least", 46)).state == State::Broken);
    CHECK(ruleResult(model, numbered("collider-bottom", "within", 0.1)).state == State::Fits);
    CHECK(ruleResult(model, numbered("default-box", "most", 1.5)).finding.value == Approx(1));
    const auto with = [&](double bottom) {
        Model own = model;
        own.colliders = {
            {"c", "box",
             std::make_shared<const Mesh>(geometry::boxMesh({-0.4, bottom, -0.4}, {0.4, 2, 0.4}))}};
        return own;
    };
    CHECK(ruleResult(with(0), numbered("collider-triangles", "most", 12)).finding.value == 12);
    CHECK(ruleResult(with(0), numbered("collider-triangles", "most", 11)).state == State::Broken);
    CHECK(ruleResult(with(0.005), numbered("collider-bottom", "within", 0.1)).state != State::Broken);
    const auto above = ruleResult(with(0.02), numbered("collider-bottom", "within", 0.1));
    CHECK(above.state == State::Broken);
    CHECK(above.finding.note.find("sink") != std::string::npos);
    CHECK(ruleResult(with(-0.02), numbered("collider-bottom", "within", 0.1)).finding.note.find("float") !=
          std::string::npos);
    CHECK(ruleResult(with(0), numbered("default-box", "most", 0.1)).state == State::Fits); // it has its own
}

TEST_CASE("slivers are counted and each is pointed at") {
    Model model = shapes::box({0, 0, 0}, {1, 1, 1});
    CHECK(ruleResult(model, numbered("slivers", "most", 0)).state == State::Fits);
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->indices.insert(mesh->indices.begin(), {0, 0, 1}); // two equal corners
    mesh->positions.insert(mesh->positions.end(), {{2, 0, 0}, {3, 0, 0}, {4, 0, 0}});
    mesh->indices.insert(mesh->indices.end(), {8, 9, 10}); // three in a row
    mesh->runs = {{0, 14, -1}};
    model.meshes[0] = mesh;
    const auto found = ruleResult(model, numbered("slivers", "most", 1));
    CHECK(found.state == State::Broken);
    REQUIRE(found.finding.faces.size() == 2);
    CHECK(found.finding.faces[0].triangle == 0);
    CHECK(found.finding.faces[1].triangle == 13);
}

TEST_CASE("file size grows with corners, triangles and the bytes of pictures") {
    const auto bytes = [](const Model& model) {
        return ruleResult(model, numbered("file-size", "most-megabytes", 1000)).finding.value * 1e6;
    };
    Model model = pictured({{64, 64}});
    auto mesh = std::make_shared<Mesh>(*model.meshes[0]);
    mesh->normals = mesh->positions;
    model.meshes[0] = mesh;
    const double base = bytes(model);
    Image heavy = *model.images[0];
    heavy.encoded.append(5'000'000, 'x');
    Model large = model;
    large.images[0] = std::make_shared<const Image>(heavy);
    CHECK(bytes(large) - base == Approx(5e6));
    // 42 corners with places, normals and UVs, 80 triangles.
    REQUIRE(vertexCount(model) == 42);
    CHECK(base == Approx(42 * 96 + 80 * 42 + double(model.images[0]->encoded.size())));
    CHECK(ruleResult(large, numbered("file-size", "most-megabytes", 5)).state == State::Broken);
}

TEST_CASE("memory: pieces count whole, copies only their place, large pictures as they are shrunk") {
    const std::string rule = "id = \"memory\"\nmost-megabytes = 10\ncopy-bytes = 256\npicture-edge = 1024\n";
    Model model = ball(10, 6); // 52 corners, 100 triangles
    const double one = 52 * 32 + 100 * 12;
    CHECK(ruleResult(model, rule).finding.value * 1e6 == Approx(one));
    CHECK(ruleResult(withNode(withNode(model, "b"), "c"), rule).finding.value * 1e6 == Approx(one + 2 * 256));
    CHECK(ruleResult(withNode(model, "b"), rule).finding.note.find("copy") != std::string::npos);
    // 1024 × 512 after shrinking from 4096 × 2048, four bytes a pixel and a third for smaller levels.
    const Model worn = pictured({{4096, 2048}});
    CHECK(ruleResult(worn, rule).finding.value * 1e6 ==
          Approx(1024.0 * 512 * 16 / 3 + 32 * double(vertexCount(worn)) + 12 * double(triangleCount(worn))));
    CHECK(ruleResult(pictured({{1024, 1024}, {1024, 1024}}), rule).state == State::Broken); // 11.2 MB
}

TEST_CASE("a report names the broken must first, then the broken should, then the tightest") {
    const auto report = [](const Model& model) {
        return platform::check(model,
                               sheetWith("id = \"triangles\"\nmost = 110\n[[rule]]\nid = \"unit-known\"\n"
                                         "label = \"Unit\"\nseverity = \"should\"\nmessage = \"M\"\n"
                                         "[[rule]]\nid = \"objects\"\nlabel = \"O\"\nmost = 1\n"
                                         "message = \"M\"\n"));
    };
    Model model = ball(10, 6);
    CHECK(report(model).fits());
    CHECK(report(model).tightest()->id == "triangles");
    model.frame.unitAssumed = true;
    CHECK(report(model).fits()); // advice alone stops nothing
    CHECK(report(model).tightest()->id == "unit-known");
    const auto two = report(withNode(model, "twin"));
    CHECK_FALSE(two.fits());
    CHECK(two.brokenMusts() == 2);
    CHECK(two.tightest()->id == "triangles");
    CHECK(two.rule("melting") == nullptr);
}
