#include "core/solids/face_texels.h"

#include "core/uv/raster.h"

#include <algorithm>
#include <limits>

namespace zl::solids {

FaceTexels texelsOf(const LitScene& scene, const LitFace& face, int width, int height) {
    FaceTexels out;
    out.width = width, out.height = height;
    const std::size_t count = std::size_t(width) * std::size_t(height);
    out.covered.assign(count, 0);
    out.at.resize(count), out.normal.resize(count);
    const Mesh& mesh = *scene.shown().parts[face.part].mesh;
    const glm::dmat4& place = scene.placeOf(face.part);
    const glm::dmat3 turn(place);
    const MaterialRun& run = mesh.runs[face.run];
    for (std::uint32_t t = run.firstTriangle; t < run.firstTriangle + run.triangleCount; ++t) {
        const std::uint32_t* c = &mesh.indices[3 * std::size_t(t)];
        std::array<glm::dvec2, 3> corners;
        glm::dvec3 at[3], normal[3];
        for (std::size_t k = 0; k < 3; ++k) {
            corners[k] = glm::dvec2(mesh.uvSets[0][c[k]]) * glm::dvec2(width, height);
            at[k] = glm::dvec3(place * glm::dvec4(glm::dvec3(mesh.positions[c[k]]), 1));
            normal[k] = turn * glm::dvec3(mesh.normals[c[k]]);
        }
        const uv::PixelWindow window{{0, 0}, {width, height}};
        uv::forEachRow(corners, window, [&](int row, int first, int last) {
            for (int x = first; x < last; ++x) {
                const glm::dvec3 w = uv::weightsAt(corners, {x + 0.5, row + 0.5});
                const std::size_t i = out.index(x, row);
                out.at[i] = glm::vec3(at[0] * w.x + at[1] * w.y + at[2] * w.z);
                const glm::dvec3 n = normal[0] * w.x + normal[1] * w.y + normal[2] * w.z;
                const double length = glm::length(n);
                out.normal[i] = glm::vec3(length > 0 ? n / length : normal[0]);
                out.covered[i] = 1;
            }
        });
    }
    return out;
}

std::optional<Lamplight::Box> FaceTexels::boxOf(int tileX, int tileY) const {
    glm::vec3 least(std::numeric_limits<float>::max()), most(-least);
    bool any = false;
    for (int y = tileY * tileSide; y < std::min(height, (tileY + 1) * tileSide); ++y)
        for (int x = tileX * tileSide; x < std::min(width, (tileX + 1) * tileSide); ++x) {
            const std::size_t i = index(x, y);
            if (!covered[i]) continue;
            least = glm::min(least, at[i]), most = glm::max(most, at[i]);
            any = true;
        }
    if (!any) return std::nullopt;
    return Lamplight::Box{glm::dvec3(least), glm::dvec3(most)};
}

int FaceTexels::middleOf(int tileX, int tileY) const {
    const glm::vec2 middle = (glm::vec2(tileX, tileY) + 0.5f) * float(tileSide) - 0.5f;
    int best = -1;
    float nearest = std::numeric_limits<float>::max();
    for (int y = tileY * tileSide; y < std::min(height, (tileY + 1) * tileSide); ++y)
        for (int x = tileX * tileSide; x < std::min(width, (tileX + 1) * tileSide); ++x) {
            if (!covered[index(x, y)]) continue;
            const glm::vec2 way = glm::vec2(x, y) - middle;
            if (const float d = glm::dot(way, way); d < nearest) nearest = d, best = int(index(x, y));
        }
    return best;
}

} // namespace zl::solids
