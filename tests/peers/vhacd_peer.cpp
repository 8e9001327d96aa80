#define VHACD_DISABLE_THREADING 1
#define ENABLE_VHACD_IMPLEMENTATION 1
#include "peers/vhacd_peer.h"

#include <VHACD.h>

#include <memory>

namespace peers {

namespace {

struct Release {
    void operator()(VHACD::IVHACD* work) const { work->Release(); }
};

} // namespace

std::vector<std::vector<glm::vec3>> vhacdPieces(const zl::Mesh& mesh, const VhacdGoal& goal) {
    const std::unique_ptr<VHACD::IVHACD, Release> work(VHACD::CreateVHACD());
    VHACD::IVHACD::Parameters parameters;
    parameters.m_maxConvexHulls = goal.pieces;
    parameters.m_maxNumVerticesPerCH = goal.corners;
    parameters.m_asyncACD = false;
    work->Compute(&mesh.positions[0].x, std::uint32_t(mesh.vertexCount()), mesh.indices.data(),
                  std::uint32_t(mesh.triangleCount()), parameters);
    std::vector<std::vector<glm::vec3>> out;
    for (std::uint32_t i = 0; i < work->GetNConvexHulls(); ++i) {
        VHACD::IVHACD::ConvexHull hull;
        if (!work->GetConvexHull(i, hull)) continue;
        auto& corners = out.emplace_back();
        for (const auto& p : hull.m_points) corners.emplace_back(p.mX, p.mY, p.mZ);
    }
    return out;
}

VhacdVoxels vhacdVoxels(const zl::Mesh& mesh, std::size_t cells) {
    std::vector<VHACD::Vertex> points;
    for (const glm::vec3& p : mesh.positions) points.emplace_back(p.x, p.y, p.z);
    std::vector<VHACD::Triangle> triangles;
    for (std::size_t t = 0; t < mesh.triangleCount(); ++t)
        triangles.emplace_back(mesh.indices[3 * t], mesh.indices[3 * t + 1], mesh.indices[3 * t + 2]);
    VHACD::Volume volume;
    volume.Voxelize(points, triangles, cells, VHACD::FillMode::FLOOD_FILL, VHACD::AABBTree());
    const auto& dim = volume.GetDimensions();
    return {std::size_t(dim[0]) * dim[1] * dim[2],
            volume.GetSurfaceVoxels().size() + volume.GetInteriorVoxels().size()};
}

} // namespace peers
