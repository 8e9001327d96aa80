#include "core/geometry/enclosure.h"

#include <map>

namespace zl::geometry {

int enclosingPieces(const RayScene& scene, const Mesh& mesh, std::span<const std::uint32_t> pieceOf,
                    std::uint32_t firstTriangle) {
    const auto corner = [&](int k) { return mesh.positions[mesh.indices[3 * firstTriangle + k]]; };
    const glm::vec3 start = (corner(0) + corner(1) + corner(2)) / 3.0f;
    // A direction that no modelled edge or face is likely to run along.
    const glm::vec3 direction = glm::normalize(glm::vec3(0.5377f, 0.7193f, 0.4401f));
    std::map<std::uint32_t, int> crossings;
    float least = 0;
    constexpr int most = 4096; // a shape that is crossed more often tells nothing
    for (int i = 0; i < most; ++i) {
        const auto hit = scene.hit(start, direction, least);
        if (!hit) break;
        if (pieceOf[hit->triangle] != pieceOf[firstTriangle]) ++crossings[pieceOf[hit->triangle]];
        least = std::nextafter(hit->distance, 1e30f);
    }
    int enclosing = 0;
    for (const auto& [piece, count] : crossings) enclosing += count % 2;
    return enclosing;
}

} // namespace zl::geometry
