#include "core/geometry/ray_scene.h"

#include "core/base/error.h"
#include "core/model/finite.h"

#include <embree3/rtcore.h>

#include <cmath>
#include <cstring>
#include <limits>

namespace zl::geometry {

namespace {

RTCDevice device() {
    static const RTCDevice shared = rtcNewDevice(nullptr);
    return shared;
}

/// The library ends the program over a ray that is no ray, or one from farther or longer than it counts.
bool canBeCast(const glm::vec3& origin, const glm::vec3& direction) {
    constexpr float farthest = 1e18f;
    const auto near = [](float v) { return std::abs(v) < farthest; };
    return near(origin.x) && near(origin.y) && near(origin.z) && near(direction.x) && near(direction.y) &&
           near(direction.z) && glm::dot(direction, direction) > 0;
}

/// Closest point of the way from `a` along `edge`, which may have no length.
glm::dvec3 closestOnEdge(const glm::dvec3& p, const glm::dvec3& a, const glm::dvec3& edge) {
    const double length2 = glm::dot(edge, edge);
    return length2 > 0 ? a + edge * glm::clamp(glm::dot(p - a, edge) / length2, 0.0, 1.0) : a;
}

/// The same of all three edges: for triangles that have collapsed into a line or a point.
glm::dvec3 closestOnEdges(const glm::dvec3& p, const glm::dvec3& a, const glm::dvec3& b,
                          const glm::dvec3& c) {
    glm::dvec3 nearest = closestOnEdge(p, a, b - a);
    for (const glm::dvec3& other : {closestOnEdge(p, b, c - b), closestOnEdge(p, c, a - c)})
        if (glm::distance(p, other) < glm::distance(p, nearest)) nearest = other;
    return nearest;
}

/// Closest point of a triangle: Ericson, Real-Time Collision Detection, section 5.1.5. In double precision,
/// since what the regions are told apart by is areas squared: nothing is left of them on slivers otherwise.
glm::dvec3 closestOnTriangle(const glm::dvec3& p, const glm::dvec3& a, const glm::dvec3& b,
                             const glm::dvec3& c) {
    const glm::dvec3 ab = b - a, ac = c - a, ap = p - a, normal = glm::cross(ab, ac);
    // Rounding leaves no plane to go by where the angle is below 1e-9.
    if (glm::dot(normal, normal) <= 1e-18 * glm::dot(ab, ab) * glm::dot(ac, ac))
        return closestOnEdges(p, a, b, c);
    const double d1 = glm::dot(ab, ap), d2 = glm::dot(ac, ap);
    if (d1 <= 0 && d2 <= 0) return a;
    const glm::dvec3 bp = p - b;
    const double d3 = glm::dot(ab, bp), d4 = glm::dot(ac, bp);
    if (d3 >= 0 && d4 <= d3) return b;
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) return a + ab * (d1 / (d1 - d3));
    const glm::dvec3 cp = p - c;
    const double d5 = glm::dot(ab, cp), d6 = glm::dot(ac, cp);
    if (d6 >= 0 && d5 <= d6) return c;
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) return a + ac * (d2 / (d2 - d6));
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && (d4 - d3) >= 0 && (d5 - d6) >= 0)
        return b + (c - b) * ((d4 - d3) / ((d4 - d3) + (d5 - d6)));
    const double v = vb / (va + vb + vc), w = vc / (va + vb + vc);
    if (!(v >= 0 && w >= 0 && v + w <= 1)) return closestOnEdges(p, a, b, c);
    return a + ab * v + ac * w;
}

double toTriangle(const glm::dvec3& p, const glm::dvec3& a, const glm::dvec3& b, const glm::dvec3& c) {
    return glm::distance(p, closestOnTriangle(p, a, b, c));
}

} // namespace

struct RayScene::Tree {
    std::vector<glm::vec3> positions;
    std::vector<std::uint32_t> indices;
    RTCScene scene = nullptr;
    ~Tree() {
        if (scene) rtcReleaseScene(scene);
    }
};

RayScene::RayScene(const Mesh& mesh, bool forOnce) : tree_(std::make_unique<Tree>()) {
    tree_->positions = mesh.positions;
    tree_->positions.push_back(glm::vec3(0.0f)); // Embree reads 16 bytes at the last position
    tree_->indices = mesh.indices;
    if (mesh.indices.empty()) return;
    if (!device()) throw Error("the ray library cannot start on this processor");
    const RTCBuildQuality quality = forOnce ? RTC_BUILD_QUALITY_LOW : RTC_BUILD_QUALITY_MEDIUM;
    RTCGeometry geometry = rtcNewGeometry(device(), RTC_GEOMETRY_TYPE_TRIANGLE);
    rtcSetGeometryBuildQuality(geometry, quality);
    rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3,
                               tree_->positions.data(), 0, sizeof(glm::vec3), tree_->positions.size() - 1);
    rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, tree_->indices.data(), 0,
                               3 * sizeof(std::uint32_t), tree_->indices.size() / 3);
    rtcCommitGeometry(geometry);
    tree_->scene = rtcNewScene(device());
    rtcSetSceneFlags(tree_->scene, RTC_SCENE_FLAG_ROBUST);
    rtcSetSceneBuildQuality(tree_->scene, quality);
    rtcAttachGeometry(tree_->scene, geometry);
    rtcReleaseGeometry(geometry);
    rtcCommitScene(tree_->scene);
}

RayScene::~RayScene() = default;
RayScene::RayScene(RayScene&&) noexcept = default;
RayScene& RayScene::operator=(RayScene&&) noexcept = default;

std::optional<RayHit> RayScene::hit(const glm::vec3& origin, const glm::vec3& direction, float least,
                                    float most) const {
    if (!tree_->scene || !canBeCast(origin, direction)) return std::nullopt;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    RTCRayHit query{};
    query.ray.org_x = origin.x, query.ray.org_y = origin.y, query.ray.org_z = origin.z;
    query.ray.dir_x = direction.x, query.ray.dir_y = direction.y, query.ray.dir_z = direction.z;
    query.ray.tnear = least, query.ray.tfar = most;
    query.ray.mask = ~0u;
    query.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    rtcIntersect1(tree_->scene, &context, &query);
    if (query.hit.geomID == RTC_INVALID_GEOMETRY_ID) return std::nullopt;
    const glm::vec3 normal(query.hit.Ng_x, query.hit.Ng_y, query.hit.Ng_z);
    return RayHit{query.ray.tfar, query.hit.primID, query.hit.u, query.hit.v, glm::normalize(normal)};
}

bool RayScene::blocked(const glm::vec3& origin, const glm::vec3& direction, float least, float most) const {
    if (!tree_->scene || !canBeCast(origin, direction)) return false;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    RTCRay ray{};
    ray.org_x = origin.x, ray.org_y = origin.y, ray.org_z = origin.z;
    ray.dir_x = direction.x, ray.dir_y = direction.y, ray.dir_z = direction.z;
    ray.tnear = least, ray.tfar = most;
    ray.mask = ~0u;
    rtcOccluded1(tree_->scene, &context, &ray);
    return ray.tfar < 0;
}

std::uint32_t RayScene::blocked(std::span<const Ray> rays) const {
    if (!tree_->scene) return 0;
    alignas(64) int valid[together];
    RTCRay16 packet;
    for (std::size_t k = 0; k < together; ++k) {
        const bool cast = k < rays.size() && canBeCast(rays[k].origin, rays[k].direction);
        valid[k] = cast ? -1 : 0;
        const Ray ray = cast ? rays[k] : Ray{glm::vec3(0), glm::vec3(0, 0, 1), 0};
        packet.org_x[k] = ray.origin.x, packet.org_y[k] = ray.origin.y, packet.org_z[k] = ray.origin.z;
        packet.dir_x[k] = ray.direction.x, packet.dir_y[k] = ray.direction.y;
        packet.dir_z[k] = ray.direction.z;
        packet.tnear[k] = 0, packet.tfar[k] = ray.most;
        packet.time[k] = 0, packet.mask[k] = ~0u, packet.id[k] = unsigned(k), packet.flags[k] = 0;
    }
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    context.flags = RTC_INTERSECT_CONTEXT_FLAG_COHERENT;
    rtcOccluded16(valid, tree_->scene, &context, &packet);
    std::uint32_t out = 0;
    for (std::size_t k = 0; k < together; ++k) out |= std::uint32_t(valid[k] != 0 && packet.tfar[k] < 0) << k;
    return out;
}

RayScene::Nearest RayScene::nearestTo(const glm::vec3& point, std::uint32_t guess) const {
    Nearest nearest{std::numeric_limits<float>::infinity(), 0};
    if (!tree_->scene || !isFinite(point)) return nearest;
    struct Search {
        const Tree* tree;
        Nearest* nearest;
    } search{tree_.get(), &nearest};
    RTCPointQuery query{};
    query.x = point.x, query.y = point.y, query.z = point.z;
    if (3 * std::size_t(guess) < tree_->indices.size()) {
        const std::uint32_t* c = &tree_->indices[3 * std::size_t(guess)];
        const auto& at = tree_->positions;
        const auto distance = float(toTriangle(point, at[c[0]], at[c[1]], at[c[2]]));
        if (std::isfinite(distance)) nearest = {distance, guess};
        if (nearest.distance == 0) return nearest;
    }
    query.radius = nearest.distance;
    RTCPointQueryContext context;
    rtcInitPointQueryContext(&context);
    const auto visit = [](RTCPointQueryFunctionArguments* arguments) {
        const auto* search = static_cast<const Search*>(arguments->userPtr);
        const std::uint32_t* c = &search->tree->indices[3 * std::size_t(arguments->primID)];
        const auto& positions = search->tree->positions;
        const glm::vec3 p(arguments->query->x, arguments->query->y, arguments->query->z);
        const auto distance = float(toTriangle(p, positions[c[0]], positions[c[1]], positions[c[2]]));
        if (!(distance < arguments->query->radius)) return false;
        arguments->query->radius = distance;
        *search->nearest = {distance, arguments->primID};
        return true;
    };
    rtcPointQuery(tree_->scene, &query, &context, visit, &search);
    return nearest;
}

} // namespace zl::geometry
