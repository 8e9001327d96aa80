#include "app/map/map_world.h"

#include "core/geometry/solids.h"
#include "core/geometry/world.h"
#include "core/steps/place_on_map.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>
#include <map>

namespace zl::app {

namespace {

constexpr double squareEdge = 48; ///< metres
constexpr double leastFar = 2.5;  ///< metres: smaller things are no box from afar

/// What is so far across is ground: a quay, a street, a square.
constexpr double groundFrom = 40; ///< metres
constexpr double heads = 2.2;     ///< metres: the height of people's heads

using Indices = std::vector<std::uint32_t>;

/// Flat-shaded triangles of a shape where a thing stands. What is over people's heads goes to `high`.
void put(GlGeometry& to, Indices& high, const Mesh& shape, const geometry::Bounds& box,
         const glm::dmat4& pose, const glm::dvec3& middle) {
    geometry::Bounds stands; // upright, as the shape need not be
    for (int corner = 0; corner < 8; ++corner)
        stands.add(glm::dvec3(pose * glm::dvec4(corner & 1 ? box.max.x : box.min.x,
                                                corner & 2 ? box.max.y : box.min.y,
                                                corner & 4 ? box.max.z : box.min.z, 1)) -
                   middle);
    const bool isGround = std::min(stands.size().x, stands.size().z) > groundFrom;
    const float over = float(stands.min.y + heads);
    for (std::size_t t = 0; t < shape.triangleCount(); ++t) {
        glm::vec3 p[3];
        for (std::size_t k = 0; k < 3; ++k)
            p[k] = glm::vec3(glm::dvec3(pose * glm::dvec4(shape.positions[shape.indices[3 * t + k]], 1)) -
                             middle);
        const glm::vec3 across = glm::cross(p[1] - p[0], p[2] - p[0]);
        const float length = glm::length(across);
        const glm::vec3 normal = length > 0 ? across / length : glm::vec3(0, 1, 0);
        Indices& indices = !isGround && std::min({p[0].y, p[1].y, p[2].y}) > over ? high : to.indices;
        for (const glm::vec3& corner : p) {
            indices.push_back(std::uint32_t(to.corners.size()));
            to.corners.push_back({corner, normal, {}});
        }
    }
}

/// Grey, and darker what is high: seen from above, roofs stand out from streets.
void wearGrey(GlGeometry& geometry, const Indices& high) {
    GlGeometry::Range below{0, geometry.indices.size()}, above{geometry.indices.size(), high.size()};
    below.colour = {0.80f, 0.82f, 0.82f, 1}, above.colour = {0.58f, 0.61f, 0.62f, 1};
    geometry.indices.insert(geometry.indices.end(), high.begin(), high.end());
    geometry.ranges = {below, above};
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
    struct High {
        Indices near, far;
    };
    std::vector<High> high; // of each square
    Mesh all;
    for (std::size_t i = 0; i < shapes.things.size(); ++i) {
        if (i % 512 == 0)
            progress.report(0.6 + 0.3 * double(i) / double(shapes.things.size())), progress.checkCancel();
        const auto& thing = shapes.things[i];
        const Mesh& shape = *shapes.shapes[thing.shape];
        const glm::dvec3 at = glm::dvec3(thing.pose[3]) - out->middle;
        const auto [entry, fresh] = squareAt.try_emplace(
            {std::lround(at.x / squareEdge), std::lround(at.z / squareEdge)}, out->squares.size());
        if (fresh) out->squares.emplace_back(), high.emplace_back();
        MapWorld::Square& square = out->squares[entry->second];
        const std::size_t first = square.near.corners.size();
        const auto& box = bounds[thing.shape];
        put(square.near, high[entry->second].near, shape, box, thing.pose, out->middle);
        for (std::size_t c = first; c < square.near.corners.size(); ++c) {
            const glm::vec3& p = square.near.corners[c].position;
            square.least = glm::min(square.least, p), square.most = glm::max(square.most, p);
            all.positions.push_back(p);
            all.indices.push_back(std::uint32_t(all.indices.size()));
        }
        out->placeOfTriangle.resize(all.triangleCount(), thing.place);
        if (!box.empty() && glm::length(box.size()) > leastFar)
            put(square.far, high[entry->second].far, geometry::boxMesh(box.min, box.max), box, thing.pose,
                out->middle);
    }
    for (std::size_t i = 0; i < out->squares.size(); ++i) {
        wearGrey(out->squares[i].near, high[i].near);
        wearGrey(out->squares[i].far, high[i].far);
    }
    progress.report(0.9);
    if (!all.indices.empty()) out->rays = std::make_shared<const geometry::RayScene>(all, true);
    return out;
}

} // namespace zl::app
