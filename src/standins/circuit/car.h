#pragma once
#include "standins/stand_in.h"
#include "standins/world/shape.h"

#include <array>
#include <optional>

namespace zl::standins::circuit {

/// One of the four, as the game turns it.
struct Wheel {
    std::string name; ///< "front.left"
    glm::vec3 hub{0};
    float radius = 0;
    float fromHub = 0; ///< metres from the hub to its middle
    bool front = false;
};

/// What moves together.
struct CarPart {
    enum class Moves { Body, Steers, Rolls } moves = Moves::Body;
    int wheel = -1;
    world::Item item;
};

struct Car {
    std::string name, credit;
    std::vector<CarPart> parts;
    std::array<Wheel, 4> wheels; ///< front left, front right, rear left, rear right
    std::optional<world::Picture> preview;
    glm::vec3 low{1e30f}, high{-1e30f};

    float rearAxle() const { return (wheels[2].hub.z + wheels[3].hub.z) / 2; }
    float wheelbase() const { return (wheels[0].hub.z + wheels[1].hub.z) / 2 - rearAxle(); }
    float track() const { return wheels[0].hub.x - wheels[1].hub.x; }
};

/// Loads a delivered folder and refuses as the game does; nothing when it cannot be driven.
std::optional<Car> loadCar(const std::filesystem::path& folder, TryReport& report);

/// The radius of the tightest round to the left that the game lets it drive, of the rear axle's middle: the
/// inner wheel in front is steered by 25 degrees then.
float tightestRound(const Car& car);
/// Where a wheel points on a left turn about a point `radius` metres to the left of the rear axle's middle,
/// in radians; each of the two in front about that same point (Ackermann).
float steeredOn(const Car& car, std::size_t wheel, float radius);
/// Metres that its hub goes in a full round.
float wayRound(const Car& car, std::size_t wheel, float radius);

} // namespace zl::standins::circuit
