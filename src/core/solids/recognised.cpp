#include "core/solids/recognised.h"

#include "core/base/error.h"
#include "core/geometry/extract.h"
#include "core/geometry/topology.h"
#include "core/geometry/weld.h"
#include "core/geometry/world.h"
#include "core/model/finite.h"
#include "core/solids/nearest_solid.h"
#include "core/texture/colour_transfer.h"
#include "core/texture/corners_worn.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>

namespace zl::solids {

namespace {

/// A loose part in world space.
struct Loose {
    Mesh mesh;
    std::size_t of = 0; ///< the Recognised that it becomes
};

/// sRGB on the whole, by area.
glm::vec3 meanColour(const Mesh& mesh, const Model& model, texture::WornLooks& looks) {
    glm::dvec4 sum(0);
    for (const MaterialRun& run : mesh.runs) {
        const texture::CornersWorn worn(mesh, model, run.material, looks);
        for (std::size_t t = run.firstTriangle; t < run.firstTriangle + run.triangleCount; ++t) {
            const std::uint32_t* corners = &mesh.indices[3 * t];
            const glm::dvec3 a = mesh.positions[corners[0]], b = mesh.positions[corners[1]],
                             c = mesh.positions[corners[2]];
            const glm::vec4 colour = worn.at(corners, glm::dvec3(1 / 3.0));
            if (isFinite(colour))
                sum += glm::dvec4(glm::dvec3(colour), 1) * glm::length(glm::cross(b - a, c - a));
        }
    }
    if (!(sum.w > 0)) return Look().colour;
    glm::vec3 out;
    for (int k = 0; k < 3; ++k)
        out[k] = std::clamp(texture::toSrgb(float(std::max(sum[k] / sum.w, 0.0))), 0.0f, 1.0f);
    return glm::round(out * 255.0f) / 255.0f;
}

/// To a thousandth of a millimetre and of a degree, as people would write it.
glm::dvec3 rounded(const glm::dvec3& numbers, double step) {
    return glm::round(numbers / step) * step + 0.0;
}

bool isSurface(const Mesh& mesh) {
    const glm::dvec3 size = geometry::meshBounds(mesh).size();
    return std::ranges::all_of(mesh.positions, [](const glm::vec3& p) { return isFinite(p); }) &&
           std::max({size.x, size.y, size.z}) > 0;
}

} // namespace

std::vector<Recognised> recognisedIn(const Model& model, const Progress& progress) {
    std::vector<Recognised> out;
    std::vector<Loose> loose;
    texture::WornLooks looks;
    geometry::forEachShownMesh(model, [&](int node, const Mesh& mesh, const glm::dmat4& toWorld) {
        progress.checkCancel();
        const Mesh world = geometry::transformed(mesh, toWorld);
        std::size_t count = 0;
        const auto pieces =
            geometry::pieceOfTriangle(world, geometry::joinedPlaces(world.positions, 0, progress), &count);
        if (out.size() + count > mostSolids)
            throw Error(fmt::format("has more than {} loose parts, which is what a scene takes", mostSolids),
                        model.name, "Join what belongs together, or leave out what is small.");
        const std::string& object = model.nodes[std::size_t(node)].name;
        std::vector<Mesh> parts = geometry::takenApart(world, pieces, count, progress);
        for (std::size_t k = 0; k < parts.size(); ++k) {
            if (!isSurface(parts[k])) continue;
            Recognised& one = out.emplace_back();
            one.object = object;
            one.part = parts.size() > 1 ? fmt::format("{}-{}", object, k + 1) : object;
            one.solid.look.colour = meanColour(parts[k], model, looks);
            loose.push_back({std::move(parts[k]), out.size() - 1});
        }
    });
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t(0), loose.size(), [&](std::size_t k) {
        if (progress.isCancelled()) return;
        const Nearest nearest = nearestSolid(loose[k].mesh);
        Recognised& one = out[loose[k].of];
        one.solid.name = one.part;
        one.solid.shape = nearest.solid.shape;
        one.solid.shape.size = glm::max(rounded(nearest.solid.shape.size, 1e-6), glm::dvec3(sizes.least));
        one.solid.at = rounded(nearest.solid.at, 1e-6), one.solid.turn = rounded(nearest.solid.turn, 1e-4);
        one.error = nearest.error;
        const glm::dvec3 size = geometry::meshBounds(loose[k].mesh).size();
        one.share = nearest.error / std::max({size.x, size.y, size.z});
        progress.report(double(++done) / double(loose.size()));
    });
    progress.checkCancel();
    return out;
}

Scene sceneOf(std::span<const Recognised> parts) {
    Scene out;
    std::map<std::string, std::size_t> together;
    for (const Recognised& one : parts) ++together[one.object];
    std::map<std::string, Number> groups;
    for (const Recognised& one : parts) {
        Solid solid = one.solid;
        if (together[one.object] > 1) {
            const auto [of, first] = groups.try_emplace(one.object, 0);
            if (first) of->second = out.fresh(), out.groups[of->second] = {one.object};
            solid.group = of->second;
        }
        out.solids[out.fresh()] = std::move(solid);
    }
    return out;
}

} // namespace zl::solids
