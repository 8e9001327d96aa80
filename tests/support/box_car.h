#pragma once
#include "support/rich_model.h"
#include "support/shapes.h"

namespace boxCars {

using namespace zl;

inline constexpr double track = 1.6, radius = 0.4, thick = 0.1, bodyHalf = 0.5;

/// A car of boxes: the wheels are boxes too, so that where a corner comes is plain trigonometry.
inline Model boxCar(double half = bodyHalf) {
    Model car;
    car.name = "box-car";
    car.frame.unitAssumed = car.frame.upAssumed = false;
    car.headingKnown = true;
    car.images = {texture::pictureFromBytes("paint.png", png(8, 8, 90))};
    car.materials = {{.name = "paint"}, {.name = "rubber"}};
    car.materials[0].picture(PictureRole::Colour).image = 0;
    car.materials[0].settings = {{"shine", 0.7}};
    car.materials[1].settings = {{"shine", 0.1}};
    const auto add = [&](const std::string& name, int parent, const glm::dvec3& at, Mesh mesh, int material) {
        car.nodes.push_back({name, parent, glm::translate(glm::dmat4(1.0), at)});
        if (!mesh.indices.empty()) {
            mesh.runs = {{0, std::uint32_t(mesh.triangleCount()), material}};
            mesh.name = name;
            mesh.uvSets = {std::vector<glm::vec2>(mesh.vertexCount(), glm::vec2(0.5f))};
            car.nodes.back().mesh = int(car.meshes.size());
            car.meshes.push_back(std::make_shared<const Mesh>(std::move(mesh)));
        }
        return int(car.nodes.size()) - 1;
    };
    const int body = add("body", -1, {}, geometry::boxMesh({-half, 0.2, -1.4}, {half, 0.9, 1.4}), 0);
    for (const char* end : {"front", "rear"})
        for (const char* side : {"left", "right"}) {
            const std::string ending = std::string(".") + end + "." + side;
            const double x = std::string(side) == "left" ? track / 2 : -track / 2,
                         z = std::string(end) == "front" ? 0.9 : -0.9;
            const int hub = add("hub" + ending, body, {x, radius, z}, {}, -1);
            add("wheel" + ending, hub, {},
                geometry::boxMesh({-thick, -radius, -radius}, {thick, radius, radius}), 1);
            add("brake" + ending, hub, {}, geometry::boxMesh({-0.02, -0.1, -0.1}, {0.02, 0.1, 0.1}), 1);
        }
    return car;
}

} // namespace boxCars
