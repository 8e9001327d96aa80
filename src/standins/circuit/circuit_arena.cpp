// The circuit: a car that goes round on a loop, its wheels rolling and steering about their hubs, and the
// garage with its picture.
#include "standins/circuit/circuit_arena.h"

#include "standins/circuit/car.h"
#include "standins/world/arena.h"
#include "standins/world/measures.h"

#include "core/base/units.h"

#include <fmt/format.h>
#include <glm/gtc/constants.hpp>
#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <cmath>

namespace zl::standins::circuit {

namespace {

constexpr double figureMetres = 1.78;
constexpr float loopRadius = 6.5f, loopHalfWidth = 1.9f, speed = 4; // metres, metres a second

std::string metres(double value) {
    return showMeasure(value) + "\u202fm";
}
std::string degrees(float radians) {
    return showNumber(std::round(double(glm::degrees(radians)) * 10) / 10) + "\u202f°";
}

class CircuitArena : public world::Arena {
public:
    explicit CircuitArena(Car car) : Arena("m", figureMetres), car_(std::move(car)) {
        for (const CarPart& part : car_.parts) items_.push_back(part.item);
        board_ = int(items_.size());
        items_.push_back({"garage picture", boardShape(), car_.preview, {0.24f, 0.28f, 0.28f}, 0.02f});
        kerb_ = int(items_.size());
        items_.push_back({"kerb", kerbShape(), {}, {0.72f, 0.68f, 0.58f}, 0.05f});
    }

    std::vector<world::Drawn> drawn() const override {
        auto out = carAt(inGarage_ ? 0 : turned_);
        out.push_back({inGarage_ ? board_ : kerb_, glm::mat4(1.0f)});
        return out;
    }
    glm::vec3 figureFoot() const override {
        return inGarage_ ? glm::vec3(car_.low.x - 0.9f, 0, 0.2f) : middle();
    }
    std::vector<world::Choice> choices() const override {
        return {{"where", "Where", {"on the loop", "in the garage"}, inGarage_ ? 1 : 0}};
    }
    void choose(const std::string& id, int option) override {
        if (id == "where") inGarage_ = option == 1;
    }
    std::vector<world::Action> actions() const override {
        return {{"drive", drives_ ? "Stop" : "Drive round",
                 "To the left, each wheel rolling as far as its own way is"},
                {"back", "Back to the start", ""}};
    }
    void act(const std::string& id) override {
        if (id == "drive") drives_ = !drives_, inGarage_ = false;
        if (id == "back") drives_ = false, turned_ = 0;
    }
    bool advance(double seconds) override {
        Arena::advance(seconds);
        if (drives_ && !inGarage_) turned_ += float(seconds) * speed / loopRadius;
        return drives_ && !inGarage_;
    }
    std::vector<world::Mark> marks() const override {
        if (inGarage_ || drives_) return {};
        const float z = car_.high.z;
        return {{{0, 0.05f, z}, {0, 0.05f, z + 1.6f}, "front", true}};
    }
    std::vector<world::Table> tables() const override {
        world::Table wheels{"Wheels", {"radius", "off its hub", "steered", "turns"}, {}};
        for (std::size_t w = 0; w < car_.wheels.size(); ++w) {
            const Wheel& wheel = car_.wheels[w];
            wheels.rows.push_back(
                {wheel.name,
                 {metres(double(wheel.radius)), metres(double(wheel.fromHub)),
                  degrees(inGarage_ ? 0 : steeredOn(car_, w, loopRadius)),
                  showNumber(std::round(double(rolled(w)) / glm::two_pi<double>() * 100) / 100)}});
        }
        world::Table loop{"Loop", {}, {}};
        loop.rows = {{"rounds", {showNumber(std::floor(double(turned_) / glm::two_pi<double>() * 10) / 10)}},
                     {"a round", {metres(glm::two_pi<double>() * double(loopRadius))}},
                     {"wheelbase", {metres(double(car_.wheelbase()))}},
                     {"track", {metres(double(car_.track()))}},
                     {"length", {metres(double(car_.high.z - car_.low.z))}}};
        return {wheels, loop};
    }
    std::vector<std::string> notes() const override {
        return car_.credit.empty() ? std::vector<std::string>{} : std::vector{"Credit: " + car_.credit};
    }

private:
    glm::vec3 middle() const { return {loopRadius, 0, car_.rearAxle()}; }
    /// Radians that a wheel has rolled.
    float rolled(std::size_t wheel) const {
        const float radius = car_.wheels[wheel].radius;
        return wayRound(car_, wheel, loopRadius) * turned_ / glm::two_pi<float>() / radius;
    }
    std::vector<world::Drawn> carAt(float angle) const {
        const glm::mat4 car = glm::translate(glm::mat4(1.0f), middle()) *
                              glm::rotate(glm::mat4(1.0f), angle, glm::vec3(0, 1, 0)) *
                              glm::translate(glm::mat4(1.0f), -middle());
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < car_.parts.size(); ++i) {
            const CarPart& part = car_.parts[i];
            glm::mat4 pose = car;
            if (part.moves != CarPart::Moves::Body) {
                const auto w = std::size_t(part.wheel);
                const glm::vec3& hub = car_.wheels[w].hub;
                pose = pose * glm::translate(glm::mat4(1.0f), hub);
                if (!inGarage_) pose = glm::rotate(pose, steeredOn(car_, w, loopRadius), glm::vec3(0, 1, 0));
                if (part.moves == CarPart::Moves::Rolls && !inGarage_)
                    pose = glm::rotate(pose, rolled(w), glm::vec3(1, 0, 0));
                pose = pose * glm::translate(glm::mat4(1.0f), -hub);
            }
            out.push_back({int(i), pose});
        }
        return out;
    }
    /// Stands behind the car, as wide for its height as the picture.
    world::Shape boardShape() const {
        const float z = car_.low.z - 0.9f, high = 2.2f, foot = 0.35f;
        const float aspect = car_.preview ? float(car_.preview->width) / float(car_.preview->height) : 1.6f;
        const float half = aspect * high / 2;
        world::Shape out;
        out.positions = {{-half, foot, z}, {half, foot, z}, {half, foot + high, z}, {-half, foot + high, z}};
        out.normals.assign(4, glm::vec3(0, 0, 1));
        out.uvs = {{0, 1}, {1, 1}, {1, 0}, {0, 0}};
        out.indices = {0, 1, 2, 0, 2, 3};
        return out;
    }
    /// Stones along both edges of the loop.
    world::Shape kerbShape() const {
        world::Shape out;
        for (const float radius : {loopRadius - loopHalfWidth, loopRadius + loopHalfWidth}) {
            const int count = int(radius * 4);
            for (int i = 0; i < count; ++i) {
                const float a = glm::two_pi<float>() * float(i) / float(count);
                world::Shape stone = world::boxShape({-0.12f, 0, -0.3f}, {0.12f, 0.09f, 0.3f});
                const glm::mat4 place = glm::translate(glm::mat4(1.0f), middle()) *
                                        glm::rotate(glm::mat4(1.0f), a, glm::vec3(0, 1, 0)) *
                                        glm::translate(glm::mat4(1.0f), glm::vec3(-radius, 0, 0));
                const auto base = std::uint32_t(out.positions.size());
                for (const glm::vec3& p : stone.positions)
                    out.positions.push_back(glm::vec3(place * glm::vec4(p, 1)));
                for (const std::uint32_t index : stone.indices) out.indices.push_back(base + index);
            }
        }
        world::makeFlat(out);
        return out;
    }

    Car car_;
    int board_ = 0, kerb_ = 0;
    bool inGarage_ = false, drives_ = false;
    float turned_ = 0; ///< radians round the loop
};

} // namespace

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto car = loadCar(folder, report);
    return car ? std::make_unique<CircuitArena>(std::move(*car)) : nullptr;
}

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto car = loadCar(folder, report);
    if (!car) return report;
    report.tests = world::sizesOf(car->low, car->high, figureMetres);
    report.tests["wheelbase"] = world::round4(double(car->wheelbase()));
    report.tests["track"] = world::round4(double(car->track()));
    auto wheels = nlohmann::ordered_json::array();
    for (std::size_t w = 0; w < car->wheels.size(); ++w) {
        const Wheel& wheel = car->wheels[w];
        const double round = double(wayRound(*car, w, loopRadius)),
                     roll = glm::two_pi<double>() * double(wheel.radius);
        wheels.push_back({{"name", wheel.name},
                          {"radius", world::round4(double(wheel.radius))},
                          {"fromHub", world::round4(double(wheel.fromHub))},
                          {"steered", world::round4(double(glm::degrees(steeredOn(*car, w, loopRadius))))},
                          {"turnsInARound", world::round4(round / roll)}});
    }
    report.tests["wheels"] = std::move(wheels);
    report.tests["preview"] = car->preview.has_value();
    report.lengths = {"width", "height", "length", "gapToFloor", "wheelbase", "track", "radius", "fromHub"};
    return report;
}

} // namespace zl::standins::circuit
