#include "core/blocks/crossed.h"

#include "core/geometry/world.h"
#include "core/model/block_build.h"
#include "core/model/finite.h"
#include "core/texture/corners_worn.h"

#include <algorithm>
#include <cmath>

namespace zl::blocks {

namespace {

constexpr double behind = 0.25; ///< blocks
constexpr double density = 1.5; ///< places a block along a triangle's longest edge
constexpr int mostPlaces = 512; ///< on one triangle

} // namespace

bool Crossed::at(glm::ivec3 cell) const {
    return isIn(size, cell) && crossed[indexIn(size, cell)] != 0;
}

Crossed crossedCells(const Model& model, const glm::dmat4& toBlocks, glm::ivec3 size,
                     const Progress& progress) {
    Crossed out{size, std::vector<char>(cellsIn(size), 0),
                std::vector<glm::vec4>(cellsIn(size), glm::vec4(0))};
    texture::WornLooks looks;
    const auto cellOf = [&](const glm::dvec3& p) {
        return glm::clamp(glm::ivec3(glm::floor(p)), glm::ivec3(0), size - 1);
    };
    geometry::forEachShownMesh(model, [&](int, const Mesh& mesh, const glm::dmat4& toWorld) {
        const glm::dmat4 place = toBlocks * toWorld;
        const double facing = glm::determinant(glm::dmat3(place)) < 0 ? -1 : 1;
        std::vector<glm::dvec3> placed(mesh.vertexCount());
        for (std::size_t v = 0; v < placed.size(); ++v) placed[v] = place * glm::dvec4(mesh.positions[v], 1);
        for (const MaterialRun& run : mesh.runs) {
            const texture::CornersWorn worn(mesh, model, run.material, looks);
            for (std::size_t t = run.firstTriangle; t < run.firstTriangle + run.triangleCount; ++t) {
                if (t % 65536 == 0) progress.checkCancel();
                const std::uint32_t* corners = &mesh.indices[3 * t];
                const glm::dvec3 &a = placed[corners[0]], &b = placed[corners[1]], &c = placed[corners[2]];
                const glm::dvec3 cross = glm::cross(b - a, c - a);
                const double twice = glm::length(cross);
                if (!(twice > 0) || !std::isfinite(twice)) continue;
                const glm::dvec3 inward = -facing * behind * cross / twice;
                const double longest =
                    std::max({glm::distance(a, b), glm::distance(b, c), glm::distance(c, a)});
                const int along = std::clamp(int(std::ceil(density * longest)), 1, mostPlaces);
                const auto area = float(twice / 2 / along / along);
                for (int i = 0; i < along; ++i)
                    for (int j = 0; j < 2 * (along - i) - 1; ++j) { // as many small triangles, alike in area
                        const double third = j % 2 == 0 ? 1 / 3.0 : 2 / 3.0;
                        const double v = (i + third) / along, w = (j / 2 + third) / along;
                        const glm::dvec3 weight(1 - v - w, v, w);
                        const glm::dvec3 p = weight.x * a + weight.y * b + weight.z * c;
                        out.crossed[indexIn(size, cellOf(p))] = 1;
                        glm::vec4& sum = out.colours[indexIn(size, cellOf(p + inward))];
                        const glm::vec4 colour = worn.at(corners, weight);
                        if (isFinite(colour)) sum += glm::vec4(glm::vec3(colour), 1) * area;
                    }
            }
        }
    });
    return out;
}

} // namespace zl::blocks
