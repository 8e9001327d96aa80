// Vehicles: the pose for the picture, clearance, scales, the delivery, and what the circuit takes.
#include "core/base/error.h"
#include "core/deliver/deliver.h"
#include "core/deliver/race_car.h"
#include "core/formats/format.h"
#include "core/geometry/bake.h"
#include "core/geometry/part_places.h"
#include "core/model/promises.h"
#include "core/platform/check.h"
#include "standins/stand_in.h"
#include "support/box_car.h"
#include "support/sheets.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

#include <random>

using namespace zl;

namespace {

using namespace boxCars;

int nodeNamed(const Model& model, const std::string& name) {
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (model.nodes[n].name == name) return int(n);
    return -1;
}
geometry::Bounds boundsOf(const Model& model, const std::string& name) {
    return geometry::boundsOf(model, {nodeNamed(model, name)});
}

std::vector<OutFile> delivered(const Model& car, const nlohmann::json& params = nlohmann::json::object()) {
    const auto oxbow = sheet("oxbow");
    return deliver::deliverableFor(*oxbow, params)
        ->make(car, *oxbow, {.name = "Box car", .credit = "by us"}, {});
}

platform::RuleResult clearance(const Model& car) {
    return *platform::check(car, *sheet("oxbow")).rule("clearance");
}

std::string refusals(const std::filesystem::path& folder) {
    const auto report = standins::standInNamed("circuit")->tryFolder(folder);
    std::string out;
    for (const auto& message : report.messages)
        if (message.kind == standins::Message::Kind::Refused) out += message.text + ". ";
    CHECK(report.accepted == out.empty());
    return out;
}

} // namespace

TEST_CASE("what is delivered is bit for bit the same with any showcase pose but for the preview") {
    const Model car = boxCar();
    const auto plain = delivered(car);
    std::mt19937 random(3);
    const auto within = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    int previews = 0;
    for (int i = 0; i < 3; ++i) {
        const auto posed = delivered(car, {{"steering", within(-60, 60)},
                                           {"camber", within(-30, 30)},
                                           {"ride-height", within(-0.5, 0.5)},
                                           {"wheel-offset", within(-0.3, 0.3)},
                                           {"camera-turn", within(-180, 180)},
                                           {"camera-above", within(0, 80)},
                                           {"closeness", within(0.5, 3)}});
        REQUIRE(posed.size() == plain.size());
        for (std::size_t f = 0; f < plain.size(); ++f) {
            CHECK(posed[f].name == plain[f].name);
            if (posed[f].name == "preview.png")
                previews += posed[f].bytes != plain[f].bytes;
            else
                CHECK(posed[f].bytes == plain[f].bytes);
        }
    }
    CHECK(previews == 3);
}

TEST_CASE("the showcase pose turns wheels about their hubs and lifts the body alone") {
    const Model car = boxCar();
    const auto centre = [](const Model& model, const char* name) { return boundsOf(model, name).centre(); };
    const Model lifted = deliver::posedFor({.rideHeight = 0.1}, car);
    CHECK(boundsOf(lifted, "body").min.y == Approx(0.3));
    CHECK(boundsOf(lifted, "wheel.rear.left").min.y == Approx(0).margin(1e-7));
    const Model wide = deliver::posedFor({.offset = 0.05}, car);
    CHECK(centre(wide, "wheel.front.left").x == Approx(0.85));
    CHECK(centre(wide, "brake.rear.right").x == Approx(-0.85));
    // Steered left by a quarter turn the wheel in front lies across: as long in x as it was in z.
    const Model steered = deliver::posedFor({.steering = shapes::pi / 2}, car);
    CHECK(boundsOf(steered, "wheel.front.left").size().x == Approx(2 * radius));
    CHECK(boundsOf(steered, "wheel.rear.left").size().x == Approx(2 * thick));
    CHECK(glm::distance(centre(steered, "wheel.front.right"), centre(car, "wheel.front.right")) < 1e-9);
    // To the left means that the front of the wheel goes to +X: its corner (thick, ·, radius) comes to +x.
    const Model little = deliver::posedFor({.steering = 0.1}, car);
    const auto world = worldMatrices(little);
    const glm::dvec3 tip(world[std::size_t(nodeNamed(little, "wheel.front.left"))] *
                         glm::dvec4(0, 0, radius, 1));
    CHECK(tip.x == Approx(track / 2 + radius * std::sin(0.1)));
    // Camber above 0 leans the tops outward on both sides.
    const Model leaning = deliver::posedFor({.camber = 0.1}, car);
    const auto leant = worldMatrices(leaning);
    for (const auto& [name, side] : {std::pair{"wheel.rear.left", 1.0}, {"wheel.rear.right", -1.0}}) {
        const glm::dvec3 top(leant[std::size_t(nodeNamed(leaning, name))] * glm::dvec4(0, radius, 0, 1));
        CHECK(top.x == Approx(side * (track / 2 + radius * std::sin(0.1))));
    }
    // No hubs at all, and a parent that is squashed flat, harm nothing.
    CHECK(deliver::posedFor({.steering = 1}, shapes::box({0, 0, 0}, {1, 1, 1})).nodes.size() == 1);
    Model flat = car;
    flat.nodes[0].local = glm::scale(glm::dmat4(1.0), {1, 0, 1});
    CHECK(brokenPromise(deliver::posedFor({.steering = 1, .rideHeight = 1}, flat)) == "");
}

TEST_CASE("clearance is what trigonometry says of a steered wheel") {
    // Steered by 25°, the inner corner of a wheel comes as near to the middle as this.
    const double a = 25 * shapes::pi / 180;
    const double nearest = track / 2 - radius * std::sin(a) - thick * std::cos(a);
    CHECK(clearance(boxCar(nearest - 0.005)).state == platform::State::Fits);
    const auto touching = clearance(boxCar(nearest + 0.03));
    CHECK(touching.state == platform::State::Broken);
    CHECK(touching.finding.value == Approx(0.03).margin(1e-4));
    CHECK(touching.finding.note.find("steered 25") != std::string::npos);
    REQUIRE_FALSE(touching.finding.faces.empty());
    for (const auto& face : touching.finding.faces) CHECK(face.node == 0); // the body is lit
    // The wheels behind are not steered: a body as wide touches none of them, sprung or not.
    Model narrowFront = boxCar(0.3);
    Model wide = boxCar(0.69);
    CHECK(clearance(wide).finding.note.find("wheel.front") != std::string::npos);
    CHECK(clearance(narrowFront).state == platform::State::Fits);
    // A guard 5 cm over a wheel behind is met by 6 cm of travel, 1 cm deep.
    Mesh guard = geometry::boxMesh({0.6, 2 * radius + 0.05, -1.3}, {1, 2 * radius + 0.25, -0.5});
    guard.runs = {{0, std::uint32_t(guard.triangleCount()), 0}};
    narrowFront.nodes.push_back({"guard", 0, glm::dmat4(1.0), int(narrowFront.meshes.size())});
    narrowFront.meshes.push_back(std::make_shared<const Mesh>(guard));
    const auto sprung = clearance(narrowFront);
    CHECK(sprung.finding.value == Approx(0.01).margin(1e-4));
    CHECK(sprung.finding.note.find("up") != std::string::npos);
}

TEST_CASE("scales alone are baked, and nodes stay where they are") {
    Model car = boxCar();
    car.placement = glm::scale(glm::dmat4(1.0), glm::dvec3(0.01));
    car.nodes[0].local = glm::rotate(glm::scale(glm::dmat4(1.0), {100, -100, 100}), 0.3, {0.0, 1.0, 0.0});
    car.nodes[1].local = glm::scale(car.nodes[1].local, {2, 3, 4});
    const auto world = worldMatrices(car);
    const auto done = geometry::baked(car, {}, geometry::Baked::ScaleOnly);
    CHECK(brokenPromise(done.model) == "");
    const auto now = worldMatrices(done.model);
    for (std::size_t n = 0; n < now.size(); ++n) {
        CHECK(glm::distance(glm::dvec3(now[n][3]), glm::dvec3(world[n][3])) < 1e-9);
        for (int c = 0; c < 3; ++c)
            CHECK(glm::length(glm::dvec3(done.model.nodes[n].local[c])) == Approx(1).epsilon(1e-12));
        CHECK(glm::determinant(glm::dmat3(now[n])) == Approx(1));
    }
    const auto before = geometry::worldBounds(car), after = geometry::worldBounds(done.model);
    CHECK(glm::distance(before.min, after.min) + glm::distance(before.max, after.max) < 1e-5);
    CHECK(platform::check(done.model, *sheet("oxbow")).rule("scale-is-one")->state == platform::State::Fits);
    // Scales of nothing and of no number end without harm.
    for (const double bad : {0.0, std::nan("")}) {
        Model broken = boxCar();
        broken.nodes[2].local = glm::scale(glm::dmat4(1.0), {bad, 1, bad});
        CHECK(geometry::baked(broken, {}, geometry::Baked::ScaleOnly).model.nodes.size() == car.nodes.size());
    }
}

TEST_CASE("pictures that lie in another folder than the game's are told") {
    Model car = boxCar();
    const auto found = [&] { return *platform::check(car, *sheet("oxbow")).rule("folder-name"); };
    CHECK(found().finding.note == "No picture lies beside the file");
    car.files = {"/x/car/car.glb", "/x/car/skins/paint.png"};
    CHECK(found().state == platform::State::Fits);
    car.files.push_back("/x/car/Skins/rim.PNG");
    CHECK(found().state == platform::State::Broken);
    CHECK(found().finding.measured == "\"Skins\"");
    CHECK(found().severity == platform::Severity::Should);
}

TEST_CASE("a brake that hangs inside the wheel's group does not shift the wheel's centre") {
    Model car = boxCar();
    for (const char* ending : {"front.left", "front.right", "rear.left", "rear.right"}) {
        const int brake = nodeNamed(car, std::string("brake.") + ending),
                  wheel = nodeNamed(car, std::string("wheel.") + ending);
        car.nodes[std::size_t(brake)].parent = wheel;
        car.nodes[std::size_t(brake)].local[3].x = 0.3;
    }
    CHECK(platform::check(car, *sheet("oxbow")).rule("centred-on")->state == platform::State::Fits);
}

TEST_CASE("a car goes out with its pictures beside it, and the circuit drives it") {
    const TemporaryFolder folder;
    const auto files = delivered(boxCar());
    writeAllOrNone(folder / "car", files);
    std::vector<std::string> names;
    for (const OutFile& file : files) names.push_back(file.name);
    CHECK(names == std::vector<std::string>{"box-car.glb", "skins/paint.png", "box-car.materials.toml",
                                            "preview.png", "box-car.car.json"});
    CHECK(readText(folder / "car/skins/paint.png") == png(8, 8, 90)); // byte for byte
    const Model back = formats::readModel(folder / "car/box-car.glb");
    CHECK(back.nodes.size() == boxCar().nodes.size());
    CHECK(back.materials[0].settings.at("shine") == MaterialSetting(0.7));
    REQUIRE(back.images.size() == 1);
    CHECK(back.images[0]->encoded == png(8, 8, 90));
    CHECK(refusals(folder / "car").empty());
    const auto report = standins::standInNamed("circuit")->tryFolder(folder / "car");
    CHECK(report.tests["wheelbase"] == 1.8);
    CHECK(report.tests["track"] == 1.6);
    // The inner wheel in front is steered by 25°, so the round is at 1.8 / tan 25° from it; 0.8 more to the
    // middle, and what goes on the left behind goes round at the first.
    const double inner = 1.8 / std::tan(25 * shapes::pi / 180);
    CHECK(report.tests["tightestRound"].get<double>() == Approx(inner + 0.8).epsilon(1e-4));
    CHECK(report.tests["wheels"][0]["steered"].get<double>() == Approx(25));
    CHECK(report.tests["wheels"][1]["steered"].get<double>() ==
          Approx(std::atan2(1.8, inner + 1.6) * 180 / shapes::pi).epsilon(1e-4));
    CHECK(report.tests["wheels"][2]["turnsInARound"].get<double>() == Approx(inner / 0.4).epsilon(1e-4));
}

TEST_CASE("the circuit refuses what the game would") {
    const auto files = delivered(boxCar()); // its preview takes a while to draw
    const auto tried = [&](const std::function<void(Model&)>& spoil,
                           const std::function<void(const std::filesystem::path&)>& then = {}) {
        Model car = boxCar();
        if (spoil) spoil(car);
        const TemporaryFolder folder;
        writeAllOrNone(folder / "car", spoil ? delivered(car) : files);
        if (then) then(folder / "car");
        return refusals(folder / "car");
    };
    constexpr std::nullptr_t nothing = nullptr;
    CHECK(tried([](Model& car) { car.nodes[2].name = "Wheel.front.left"; }) ==
          "There is no node \"wheel.front.left\". ");
    CHECK(tried([](Model& car) {
              car.placement = glm::scale(glm::dmat4(1.0), glm::dvec3(2));
          }).find("\"body\" has a scale of 2") == 0);
    CHECK(tried([](Model& car) { car.nodes[2].local[3].z = 0.01; }).find("off its hub") != std::string::npos);
    CHECK(tried([](Model& car) {
              car.placement = glm::translate(glm::dmat4(1.0), {0, 0.5, 0});
          }).find("above the ground") != std::string::npos);
    CHECK(tried([](Model& car) { car.materials[1].settings.clear(); }) ==
          "\"rubber\" does not say its shine. ");
    CHECK(tried([](Model& car) { car.materials[1].settings["shine"] = 4.0; }) ==
          "shine of \"rubber\" is 4. ");
    CHECK(tried([](Model& car) { car.nodes[2].mesh = -1; }).find("shows nothing") != std::string::npos);
    CHECK(tried(nothing, [](const auto& folder) {
              std::filesystem::rename(folder / "skins", folder / "Skins");
          }).find("The folder is called \"Skins\"") == 0);
    CHECK(tried(nothing, [](const auto& folder) {
              writeFile(folder / "box-car.materials.toml", "shine = ");
          }).find("cannot be read") != std::string::npos);
    CHECK(tried(nothing, [](const auto& folder) {
              writeFile(folder / "box-car.glb", "glTF");
          }).find("cannot be read") != std::string::npos);
    CHECK(tried(nothing, [](const auto& folder) {
              std::filesystem::remove(folder / "skins/paint.png");
          }).find("missing") != std::string::npos);
    // Every cut of the file ends in words.
    for (std::size_t cut = 0; cut < files[0].bytes.size(); cut += files[0].bytes.size() / 40 + 1)
        CHECK(tried(nothing, [&](const auto& folder) {
                  writeFile(folder / "box-car.glb", files[0].bytes.substr(0, cut));
              }) != "");
}
