#include "app/map/map_world.h"

#include "core/geometry/solids.h"
#include "core/geometry/world.h"
#include "core/steps/place_on_map.h"

#include <glm/gtc/matrix_transform.hpp>

#include <map>

namespace zl::app {

namespace {

constexpr double squareEdge = 48; ///< metres
constexpr double leastFar = 2.5;  ///< metres: smaller things are no box from afar

/// Flat-shaded triangles of a shape where a thing stands.
void put(GlGeometry& to, const Mesh& shape, const glm::dmat4& pose, const glm::dvec3& middle) {
    for (std::size_t t = 0; t < shape.triangleCount(); ++t) {
        glm::vec3 p[3];
        for (std::size_t k = 0; k < 3; ++k)
            p[k] = glm::vec3(glm::dvec3(pose * glm::dvec4(shape.positions[shape.indices[3 * t + k]], 1)) -
                             middle);
        const glm::vec3 across = glm::cross(p[1] - p[0], p[2] - p[0]);
        const float length = glm::length(across);
        const glm::vec3 normal = length > 0 ? across / length : glm::vec3(0, 1, 0);
        for (const glm::vec3& corner : p) {
            to.indices.push_back(std::uint32_t(to.corners.size()));
            to.corners.push_back({corner, normal, {}});
        }
    }
}

void wearGrey(GlGeometry& geometry) {
    GlGeometry::Range range{0, geometry.indices.size()};
    range.colour = {0.80f, 0.82f, 0.82f, 1};
    geometry.ranges = {range};
}

} // namespace

MapWorld::Below MapWorld::below(const glm::dvec3& at) const {
    Below out{onMap(glm::dvec3(0)).y, {}};
    if (!rays) return out;
    constexpr float above = 0.6f; // what is a step higher is stood upon, too
    const auto hit = rays->hit(glm::vec3(at) + glm::vec3(0, above, 0), {0, -1, 0});
    if (!hit) return out;
    const double height = at.y + double(above) - double(hit->distance);
    if (height < out.height) return out;
    return {height, city.places[placeOfTriangle[hit->triangle]].name};
}

std::shared_ptr<const MapWorld> makeMapWorld(const std::filesystem::path& folder,
                                             const platform::Sheet& sheet, const std::string& except,
                                             const std::optional<glm::dvec3>& around,
                                             const Progress& progress) {
    auto out = std::make_shared<MapWorld>();
    out->city = install::readCity(folder, progress.between(0, 0.3));
    out->toModel = steps::fromMap(&sheet);
    if (around)
        out->middle = *around;
    else if (!out->city.districts.empty()) {
        const auto& first = out->city.districts[0];
        const glm::dvec2 m = (first.least + first.most) / 2.0;
        out->middle = glm::dvec3(out->toModel * glm::dvec4(m.x, m.y, 0, 1));
    }
    const auto shapes = install::cityShapes(out->city, out->toModel, except, progress.between(0.3, 0.6));
    std::vector<geometry::Bounds> bounds;
    for (const auto& shape : shapes.shapes) bounds.push_back(geometry::meshBounds(*shape));
    std::map<std::pair<long, long>, std::size_t> squareAt;
    Mesh all;
    for (std::size_t i = 0; i < shapes.things.size(); ++i) {
        if (i % 512 == 0)
            progress.report(0.6 + 0.3 * double(i) / double(shapes.things.size())), progress.checkCancel();
        const auto& thing = shapes.things[i];
        const Mesh& shape = *shapes.shapes[thing.shape];
        const glm::dvec3 at = glm::dvec3(thing.pose[3]) - out->middle;
        const auto [entry, fresh] = squareAt.try_emplace(
            {std::lround(at.x / squareEdge), std::lround(at.z / squareEdge)}, out->squares.size());
        if (fresh) out->squares.emplace_back();
        MapWorld::Square& square = out->squares[entry->second];
        const std::size_t first = square.near.corners.size();
        put(square.near, shape, thing.pose, out->middle);
        for (std::size_t c = first; c < square.near.corners.size(); ++c) {
            const glm::vec3& p = square.near.corners[c].position;
            square.least = glm::min(square.least, p), square.most = glm::max(square.most, p);
            all.positions.push_back(p);
            all.indices.push_back(std::uint32_t(all.indices.size()));
        }
        out->placeOfTriangle.resize(all.triangleCount(), thing.place);
        const auto& box = bounds[thing.shape];
        if (!box.empty() && glm::length(box.size()) > leastFar)
            put(square.far, geometry::boxMesh(box.min, box.max), thing.pose, out->middle);
    }
    for (MapWorld::Square& square : out->squares) wearGrey(square.near), wearGrey(square.far);
    progress.report(0.9);
    if (!all.indices.empty()) out->rays = std::make_shared<const geometry::RayScene>(all, true);
    return out;
}

} // namespace zl::app
