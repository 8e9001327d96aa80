#include "core/deliver/showcase.h"

#include "core/base/pattern.h"
#include "core/model/finite.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"

#include <glm/gtc/matrix_transform.hpp>

#include <optional>

namespace zl::deliver {

namespace {

struct Hub {
    std::string ending; ///< "front.left"
    glm::dvec3 place;
};

std::vector<Hub> hubsOf(const Model& vehicle, const std::vector<glm::dmat4>& world) {
    std::vector<Hub> out;
    for (std::size_t n = 0; n < vehicle.nodes.size(); ++n)
        if (const auto star = matchPattern("hub.*", vehicle.nodes[n].name))
            out.push_back({star->front(), glm::dvec3(world[n][3])});
    return out;
}

/// How a wheel is moved, in the world.
glm::dmat4 changeOf(const Showcase& showcase, const glm::dvec3& hub, const glm::dvec3& middle) {
    const double side = hub.x < middle.x ? -1 : 1; // +X is the left
    const double steered = hub.z > middle.z ? showcase.steering : 0;
    return glm::translate(glm::dmat4(1.0), hub + glm::dvec3(side * showcase.offset, 0, 0)) *
           glm::rotate(glm::dmat4(1.0), steered, glm::dvec3(0, 1, 0)) *
           glm::rotate(glm::dmat4(1.0), -side * showcase.camber, glm::dvec3(0, 0, 1)) *
           glm::translate(glm::dmat4(1.0), -hub);
}

} // namespace

Model posedFor(const Showcase& showcase, const Model& vehicle) {
    const auto world = worldMatrices(vehicle);
    const auto hubs = hubsOf(vehicle, world);
    glm::dvec3 middle(0);
    for (const Hub& hub : hubs) middle += hub.place / double(hubs.size());
    const glm::dmat4 lift = glm::translate(glm::dmat4(1.0), {0, showcase.rideHeight, 0});
    std::vector<glm::dmat4> change(vehicle.nodes.size(), lift);
    for (std::size_t n = 0; n < change.size(); ++n) {
        const Node& node = vehicle.nodes[n];
        if (node.parent >= 0) change[n] = change[std::size_t(node.parent)];
        for (const Hub& hub : hubs)
            for (const char* kind : {"hub.", "wheel.", "brake."})
                if (node.name == kind + hub.ending) change[n] = changeOf(showcase, hub.place, middle);
    }
    // Each node is put where the world wants it, whatever its parent became.
    Model out = vehicle;
    out.placement = glm::dmat4(1.0);
    for (std::size_t n = 0; n < change.size(); ++n) {
        const int parent = vehicle.nodes[n].parent;
        if (parent >= 0 && change[n] == change[std::size_t(parent)]) continue;
        const glm::dmat4 above =
            parent < 0 ? glm::dmat4(1.0) : change[std::size_t(parent)] * world[std::size_t(parent)];
        const glm::dmat4 local = glm::inverse(above) * change[n] * world[n];
        if (isFinite(local)) out.nodes[n].local = local; // what is squashed flat stays with what it hangs on
    }
    return out;
}

std::string pictureOf(const Showcase& showcase, const Model& vehicle, const Progress& progress) {
    render::SnapshotOptions options;
    options.width = 800, options.height = 500, options.samples = 16;
    options.yawRadians = showcase.cameraTurn;
    options.pitchRadians = showcase.cameraAbove;
    options.closeness = showcase.closeness;
    return texture::encodePng(render::snapshot(posedFor(showcase, vehicle), options, progress), false);
}

} // namespace zl::deliver
