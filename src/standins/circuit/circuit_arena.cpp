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
constexpr float speed = 3.5f; // metres a second

std::string metres(double value) {
    return showMeasure(value) + "\u202fm";
}
std::string degrees(float radians) {
    return showNumber(std::round(double(glm::degrees(radians)) * 10) / 10) + "\u202f°";
}

class CircuitArena : public world::Arena {
public:
    explicit CircuitArena(Car car)
        : Arena("m", figureMetres), car_(std::move(car)), radius_(tightestRound(car_)) {
        for (const CarPart& part : car_.parts) items_.push_back(part.item);
        board_ = int(items_.size());
        items_.push_back({"garage picture", boardShape(), car_.preview, {0.24f, 0.28f, 0.28f}, 0.02f});
        stone_ = int(items_.size());
        world::Item stone{"kerb",
                          world::boxShape({-0.1f, 0, -0.25f}, {0.1f, 0.07f, 0.25f}),
                          {},
                          {0.72f, 0.68f, 0.58f},
                          0.05f};
        world::makeFlat(stone.shape);
        items_.push_back(std::move(stone));
    }

    std::vector<world::Drawn> drawn() const override {
        auto out = carAt(inGarage_ ? 0 : turned_);
        if (inGarage_)
            out.push_back({board_, glm::mat4(1.0f)});
        else
            addKerb(out);
        return out;
    }
    glm::vec3 figureFoot() const override {
        return inGarage_ ? glm::vec3(car_.low.x - 0.9f, 0, 0.2f) : glm::vec3(0);
    }
    /// The loop is round: what its box has in the corners need not be seen.
    std::pair<glm::vec3, glm::vec3> frame() const override {
        if (inGarage_) return Arena::frame();
        const float r = 0.76f * (radius_ + halfWidth());
        return {{-r, 0, -r}, {r, float(figureMetres), r}};
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
        if (drives_ && !inGarage_) turned_ += float(seconds) * speed / radius_;
        return drives_ && !inGarage_;
    }
    std::vector<world::Mark> marks() const override {
        if (inGarage_ || drives_) return {};
        const glm::vec3 nose = glm::vec3(0, 0.05f, car_.high.z) - middle();
        return {{nose, nose + glm::vec3(0, 0, 1.2f), "front", true}};
    }
    std::vector<world::Table> tables() const override {
        world::Table wheels{"Wheels", {"radius", "off hub", "steered", "rolled"}, {}};
        for (std::size_t w = 0; w < car_.wheels.size(); ++w) {
            const Wheel& wheel = car_.wheels[w];
            wheels.rows.push_back(
                {wheel.name,
                 {metres(double(wheel.radius)),
                  showMeasure(world::round4(double(wheel.fromHub)) * 1000) + "\u202fmm",
                  degrees(inGarage_ ? 0 : steeredOn(car_, w, radius_)),
                  showNumber(std::round(double(rolled(w)) / glm::two_pi<double>() * 10) / 10) + "\u202f×"}});
        }
        world::Table loop{"Loop", {}, {}};
        loop.rows = {{"rounds", {showNumber(std::floor(double(turned_) / glm::two_pi<double>() * 10) / 10)}},
                     {"a round", {metres(glm::two_pi<double>() * double(radius_))}},
                     {"wheelbase", {metres(double(car_.wheelbase()))}},
                     {"track", {metres(double(car_.track()))}},
                     {"length", {metres(double(car_.high.z - car_.low.z))}}};
        return {wheels, loop};
    }
    std::vector<std::string> notes() const override {
        return car_.credit.empty() ? std::vector<std::string>{} : std::vector{"Credit: " + car_.credit};
    }

private:
    /// What it goes round about, in the car's own space; the arena's middle.
    glm::vec3 middle() const { return {radius_, 0, car_.rearAxle()}; }
    /// Radians that a wheel has rolled.
    float rolled(std::size_t wheel) const {
        const float radius = car_.wheels[wheel].radius;
        return wayRound(car_, wheel, radius_) * turned_ / glm::two_pi<float>() / radius;
    }
    std::vector<world::Drawn> carAt(float angle) const {
        const glm::mat4 car = inGarage_ ? glm::mat4(1.0f)
                                        : glm::rotate(glm::mat4(1.0f), angle, glm::vec3(0, 1, 0)) *
                                              glm::translate(glm::mat4(1.0f), -middle());
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < car_.parts.size(); ++i) {
            const CarPart& part = car_.parts[i];
            glm::mat4 pose = car;
            if (part.moves != CarPart::Moves::Body) {
                const auto w = std::size_t(part.wheel);
                const glm::vec3& hub = car_.wheels[w].hub;
                pose = pose * glm::translate(glm::mat4(1.0f), hub);
                if (!inGarage_) pose = glm::rotate(pose, steeredOn(car_, w, radius_), glm::vec3(0, 1, 0));
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
    float halfWidth() const { return (car_.high.x - car_.low.x) / 2 + 0.5f; }
    /// Stones along both edges of the loop, half a metre beside the car.
    void addKerb(std::vector<world::Drawn>& out) const {
        for (const float radius : {std::max(0.4f, radius_ - halfWidth()), radius_ + halfWidth()}) {
            const int count = std::max(6, int(radius * 4));
            for (int i = 0; i < count; ++i)
                out.push_back(
                    {stone_, glm::translate(glm::rotate(glm::mat4(1.0f),
                                                        glm::two_pi<float>() * float(i) / float(count),
                                                        glm::vec3(0, 1, 0)),
                                            glm::vec3(-radius, 0, 0))});
        }
    }

    Car car_;
    float radius_; ///< of the loop
    int board_ = 0, stone_ = 0;
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
    const float round = tightestRound(*car);
    report.tests["tightestRound"] = world::round4(double(round));
    for (std::size_t w = 0; w < car->wheels.size(); ++w) {
        const Wheel& wheel = car->wheels[w];
        const double way = double(wayRound(*car, w, round)),
                     roll = glm::two_pi<double>() * double(wheel.radius);
        wheels.push_back({{"name", wheel.name},
                          {"radius", world::round4(double(wheel.radius))},
                          {"fromHub", world::round4(double(wheel.fromHub))},
                          {"steered", world::round4(double(glm::degrees(steeredOn(*car, w, round))))},
                          {"turnsInARound", world::round4(way / roll)}});
    }
    report.tests["wheels"] = std::move(wheels);
    report.tests["preview"] = car->preview.has_value();
    report.lengths = {"width", "height",        "length", "gapToFloor", "wheelbase",
                      "track", "tightestRound", "radius", "fromHub"};
    return report;
}

} // namespace zl::standins::circuit
