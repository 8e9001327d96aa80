#include "core/uv/islands.h"

#include "core/base/groups.h"
#include "core/geometry/weld.h"

#include <tbb/parallel_sort.h>

#include <bit>

namespace zl::uv {

namespace {

/// What two corners have in common that hang together on the picture.
struct CornerKey {
    std::uint32_t place, u, v;
    int material;
    std::uint32_t face;

    auto sameAs() const { return std::tie(place, u, v, material); }
    bool operator<(const CornerKey& other) const {
        return std::tie(place, u, v, material, face) <
               std::tie(other.place, other.u, other.v, other.material, other.face);
    }
};

std::uint32_t bitsOf(float value) {
    return std::bit_cast<std::uint32_t>(value + 0.0f); // -0 is 0
}

/// Joins the faces `first` to `last`, which are all those of one node.
void joinNode(const Mesh& mesh, const UvFaces& faces, std::size_t first, std::size_t last, Groups& groups) {
    const auto place = geometry::joinedPlaces(mesh.positions, 0);
    std::vector<CornerKey> keys(3 * (last - first));
    for (std::size_t f = first; f < last; ++f) {
        const UvFace& face = faces.faces[f];
        for (std::size_t k = 0; k < 3; ++k)
            keys[3 * (f - first) + k] = {place[mesh.indices[3 * std::size_t(face.triangle) + k]],
                                         bitsOf(face.at[k].x), bitsOf(face.at[k].y), face.material,
                                         std::uint32_t(f)};
    }
    tbb::parallel_sort(keys.begin(), keys.end());
    for (std::size_t i = 1; i < keys.size(); ++i)
        if (keys[i - 1].sameAs() == keys[i].sameAs()) groups.join(keys[i - 1].face, keys[i].face);
}

/// How lengths on the picture come out on the surface: the singular values of the map from pixels to metres
/// (Sander, Snyder, Gortler, Hoppe 2001); their ratio, at least 1. 0 where one of both has no area.
double stretchOf(const Mesh& mesh, const glm::dmat4& toWorld, const UvFace& face, glm::dvec2 pixels) {
    const double area = doubleUvArea(face) * pixels.x * pixels.y;
    if (!(std::abs(area) > 1e-18)) return 0;
    glm::dvec3 p[3];
    for (std::size_t k = 0; k < 3; ++k)
        p[k] = glm::dvec3(toWorld *
                          glm::dvec4(mesh.positions[mesh.indices[3 * std::size_t(face.triangle) + k]], 1));
    const glm::dvec2 a = glm::dvec2(face.at[0]) * pixels, b = glm::dvec2(face.at[1]) * pixels,
                     c = glm::dvec2(face.at[2]) * pixels;
    const glm::dvec3 along = (p[0] * (b.y - c.y) + p[1] * (c.y - a.y) + p[2] * (a.y - b.y)) / area;
    const glm::dvec3 down = (p[0] * (c.x - b.x) + p[1] * (a.x - c.x) + p[2] * (b.x - a.x)) / area;
    const double x = glm::dot(along, along), y = glm::dot(along, down), z = glm::dot(down, down);
    const double root = std::sqrt((x - z) * (x - z) + 4 * y * y);
    const double larger = x + z + root, smaller = x + z - root;
    return smaller > larger * 1e-12 ? std::sqrt(larger / smaller) : 1e6;
}

} // namespace

bool UvIsland::isOutside() const {
    return least.x < -borderSlack || least.y < -borderSlack || most.x > 1 + borderSlack ||
           most.y > 1 + borderSlack;
}

std::vector<UvIsland> islandsOf(const Model& model, const UvFaces& faces) {
    Groups groups(faces.faces.size());
    for (std::size_t first = 0; first < faces.faces.size();) {
        const int node = faces.faces[first].node;
        std::size_t last = first;
        while (last < faces.faces.size() && faces.faces[last].node == node) ++last;
        joinNode(*model.meshes[std::size_t(model.nodes[std::size_t(node)].mesh)], faces, first, last, groups);
        first = last;
    }
    const auto world = worldMatrices(model);
    std::vector<std::uint32_t> islandOf(faces.faces.size(), ~0u);
    std::vector<UvIsland> islands;
    std::vector<double> stretched, measured; // by island
    for (std::uint32_t f = 0; f < faces.faces.size(); ++f) {
        const UvFace& face = faces.faces[f];
        const std::uint32_t root = groups.of(f);
        if (islandOf[root] == ~0u) { // the least of a group is its root, and comes first
            islandOf[root] = std::uint32_t(islands.size());
            islands.push_back({.node = face.node, .material = face.material});
            stretched.push_back(0), measured.push_back(0);
        }
        const std::uint32_t which = islandOf[root];
        UvIsland& island = islands[which];
        island.faces.push_back(f);
        for (const glm::vec2& at : face.at)
            island.least = glm::min(island.least, glm::dvec2(at)),
            island.most = glm::max(island.most, glm::dvec2(at));
        const glm::dmat4& toWorld = world[std::size_t(face.node)];
        const double uvArea = 0.5 * std::abs(doubleUvArea(face));
        island.uvArea += uvArea;
        island.area += face.area;
        if (doubleUvArea(face) * glm::determinant(glm::dmat3(toWorld)) > 0) island.mirrored += uvArea;
        const glm::ivec2 pixels = glm::max(leadingPixels(model, face.material), 1);
        const Mesh& mesh = *model.meshes[std::size_t(model.nodes[std::size_t(face.node)].mesh)];
        const double stretch = stretchOf(mesh, toWorld, face, pixels);
        if (stretch > 0) stretched[which] += stretch * face.area, measured[which] += face.area;
    }
    for (std::size_t i = 0; i < islands.size(); ++i) {
        UvIsland& island = islands[i];
        const glm::dvec2 pixels = leadingPixels(model, island.material);
        if (island.uvArea > 0) island.mirrored /= island.uvArea;
        if (measured[i] > 0) island.stretch = stretched[i] / measured[i];
        if (island.area > 0) island.density = std::sqrt(island.uvArea * pixels.x * pixels.y / island.area);
    }
    return islands;
}

} // namespace zl::uv
