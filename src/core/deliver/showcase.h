#pragma once
#include "core/base/progress.h"
#include "core/model/model.h"

#include <numbers>

namespace zl::deliver {

/// How a vehicle stands for its picture and from where it is taken. What is driven knows nothing of it.
struct Showcase {
    double steering = 0;                             ///< radians to the left, of the wheels in front
    double camber = 0;                               ///< radians, the wheels' tops leaning outward
    double rideHeight = 0;                           ///< metres that the body stands higher over its wheels
    double offset = 0;                               ///< metres that each wheel stands further out
    double cameraTurn = 35 * std::numbers::pi / 180; ///< radians from straight ahead to the vehicle's left
    double cameraAbove = 12 * std::numbers::pi / 180;
    double closeness = 1;
};

/// The vehicle in that pose: hubs "hub.*", with the wheels and brakes of the same ending, turned about their
/// hubs and moved, the rest lifted. Front and left are found by where hubs are. World space facing +Z.
Model posedFor(const Showcase& showcase, const Model& vehicle);

/// The picture as PNG. Throws Cancelled.
std::string pictureOf(const Showcase& showcase, const Model& vehicle, const Progress& progress);

} // namespace zl::deliver
