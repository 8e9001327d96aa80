#include "core/contact/surfaces.h"

#include "core/base/letters.h"
#include "core/contact/body_mesh.h"
#include "core/geometry/ray_scene.h"
#include "core/geometry/world.h"

#include <tbb/parallel_for.h>

#include <algorithm>

namespace zl::contact {

namespace {

glm::vec3 middleOf(const Mesh& mesh, std::size_t t) {
    const std::uint32_t* c = &mesh.indices[3 * t];
    return (mesh.positions[c[0]] + mesh.positions[c[1]] + mesh.positions[c[2]]) / 3.0f;
}

double areaOf(const Mesh& mesh, std::size_t t) {
    const std::uint32_t* c = &mesh.indices[3 * t];
    return glm::length(glm::cross(glm::dvec3(mesh.positions[c[1]] - mesh.positions[c[0]]),
                                  glm::dvec3(mesh.positions[c[2]] - mesh.positions[c[0]])));
}

int kindAt(const Mesh& mesh, std::size_t t) {
    return mesh.surfaces.empty() ? -1 : mesh.surfaces[t];
}

/// The body with one kind for all its faces; none below 0.
std::shared_ptr<const Mesh> ofOneKind(const Mesh& body, int kind) {
    Mesh out = body;
    out.surfaces.assign(kind < 0 ? 0 : body.triangleCount(), std::int16_t(kind));
    return std::make_shared<const Mesh>(std::move(out));
}

/// Each face takes after the nearest shown one.
std::shared_ptr<const Mesh> faceByFace(const Collider& body, const Mesh& shown,
                                       const geometry::RayScene& near) {
    Mesh out = *body.mesh;
    const Mesh placed = geometry::transformed(*body.mesh, body.placement);
    out.surfaces.assign(placed.triangleCount(), -1);
    // A mirrored placement turns each triangle's corners about, and leaves their order.
    tbb::parallel_for(std::size_t(0), out.surfaces.size(), [&](std::size_t t) {
        out.surfaces[t] = std::int16_t(kindAt(shown, near.nearestTo(middleOf(placed, t)).triangle));
    });
    if (std::ranges::all_of(out.surfaces, [](int kind) { return kind < 0; })) out.surfaces.clear();
    return std::make_shared<const Mesh>(std::move(out));
}

} // namespace

void surfacesOntoBodies(Model& model) {
    if (model.surfaceKinds.empty() || model.colliders.empty()) return;
    const Mesh shown = bodyMesh(model);
    if (shown.triangleCount() == 0) return;
    std::vector<std::size_t> whole; // bodies of one kind
    std::vector<std::unique_ptr<geometry::RayScene>> near;
    std::unique_ptr<geometry::RayScene> ofShown;
    for (std::size_t b = 0; b < model.colliders.size(); ++b) {
        Collider& body = model.colliders[b];
        if (body.mesh->triangleCount() == 0) continue;
        if (body.kind == "mesh") {
            if (!ofShown) ofShown = std::make_unique<geometry::RayScene>(shown);
            body.mesh = faceByFace(body, shown, *ofShown);
        } else {
            whole.push_back(b);
            near.push_back(std::make_unique<geometry::RayScene>(
                geometry::transformed(*body.mesh, body.placement), true));
        }
    }
    if (whole.empty()) return;
    // Each shown face speaks for the body that it is nearest to. Of very many, some are asked.
    constexpr std::size_t mostAsked = 20000;
    const std::size_t stride = 1 + shown.triangleCount() / mostAsked;
    std::vector<std::map<int, double>> area(whole.size());
    for (std::size_t t = 0; t < shown.triangleCount(); t += stride) {
        const glm::vec3 at = middleOf(shown, t);
        std::size_t nearest = 0;
        float least = near[0]->distanceTo(at);
        for (std::size_t b = 1; b < near.size(); ++b)
            if (const float distance = near[b]->distanceTo(at); distance < least)
                least = distance, nearest = b;
        area[nearest][kindAt(shown, t)] += areaOf(shown, t);
    }
    for (std::size_t b = 0; b < whole.size(); ++b) {
        Collider& body = model.colliders[whole[b]];
        if (area[b].empty()) { // others lie nearer to every face: it takes after the face nearest to it
            if (!ofShown) ofShown = std::make_unique<geometry::RayScene>(shown);
            const glm::vec3 middle(body.placement * glm::dvec4(geometry::meshBounds(*body.mesh).centre(), 1));
            body.mesh = ofOneKind(*body.mesh, kindAt(shown, ofShown->nearestTo(middle).triangle));
            continue;
        }
        area[b].erase(-1);
        const auto most =
            std::ranges::max_element(area[b], {}, [](const auto& entry) { return entry.second; });
        body.mesh = ofOneKind(*body.mesh, most == area[b].end() ? -1 : most->first);
    }
}

std::map<int, std::string> guessedSurfaces(const Model& model, const Touch& touch) {
    std::map<int, std::string> out;
    for (const auto& [index, triangles] : trianglesByMaterial(model)) {
        if (index < 0) continue;
        const std::string name = lowerCase(model.materials[std::size_t(index)].name);
        std::vector<const SurfaceKind*> meant;
        for (const SurfaceKind& kind : touch.surfaces) {
            const auto says = [&](const std::string& hint) {
                return name.find(lowerCase(hint)) != std::string::npos;
            };
            if (says(kind.name) || std::ranges::any_of(kind.hints, says)) meant.push_back(&kind);
        }
        if (meant.size() == 1) out[index] = meant[0]->name;
    }
    return out;
}

SurfaceCounts surfaceCounts(const Model& model) {
    SurfaceCounts out;
    const auto add = [](std::map<int, std::size_t>& to, const Mesh& mesh) {
        for (std::size_t t = 0; t < mesh.triangleCount(); ++t) ++to[kindAt(mesh, t)];
    };
    geometry::forEachShownMesh(model,
                               [&](int, const Mesh& mesh, const glm::dmat4&) { add(out.shown, mesh); });
    for (const Collider& body : model.colliders) add(out.bodies, *body.mesh);
    return out;
}

} // namespace zl::contact
