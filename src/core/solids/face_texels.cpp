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

std::optional<Lamplight::Box> FaceTexels::boxOf(glm::ivec2 tile, glm::ivec2 side) const {
    glm::vec3 least(std::numeric_limits<float>::max()), most(-least);
    bool any = false;
    eachOf(tile, side, [&](int x, int y) {
        least = glm::min(least, at[index(x, y)]), most = glm::max(most, at[index(x, y)]);
        any = true;
    });
    if (!any) return std::nullopt;
    return Lamplight::Box{glm::dvec3(least), glm::dvec3(most)};
}

int FaceTexels::middleOf(glm::ivec2 tile, glm::ivec2 side) const {
    const glm::vec2 middle = (glm::vec2(tile) + 0.5f) * glm::vec2(side) - 0.5f;
    int best = -1;
    float nearest = std::numeric_limits<float>::max();
    eachOf(tile, side, [&](int x, int y) {
        const glm::vec2 way = (glm::vec2(x, y) - middle) / glm::vec2(side);
        if (const float d = glm::dot(way, way); d < nearest) nearest = d, best = int(index(x, y));
    });
    return best;
}

glm::vec2 FaceTexels::metres() const {
    glm::dvec2 sum(0), count(0);
    constexpr int step = 4; // a sixteenth of the pixels tells enough
    for (int y = 0; y + 1 < height; y += step)
        for (int x = 0; x + 1 < width; x += step) {
            const std::size_t here = index(x, y), right = index(x + 1, y), below = index(x, y + 1);
            if (!covered[here]) continue;
            if (covered[right]) sum.x += glm::distance(at[here], at[right]), ++count.x;
            if (covered[below]) sum.y += glm::distance(at[here], at[below]), ++count.y;
        }
    return glm::vec2(sum / glm::max(count, 1.0)) * glm::vec2(width, height);
}

} // namespace zl::solids
