#include "core/geometry/corners_apart.h"

#include <unordered_map>

namespace zl::geometry {

Mesh cornersApart(const Mesh& mesh, const std::vector<int>& kind, const std::vector<Wear>& wear) {
    constexpr std::uint32_t none = ~0u;
    std::vector<std::uint32_t> keep, indices(mesh.indices.size()), first(mesh.vertexCount(), none);
    std::vector<int> kindOf;                                       // of each new corner
    std::unordered_map<std::uint64_t, std::uint32_t> furtherKinds; // by old corner and kind; borders only
    for (std::size_t c = 0; c < mesh.indices.size(); ++c) {
        const std::uint32_t old = mesh.indices[c];
        const int k = kind[c / 3];
        const auto made = [&] {
            keep.push_back(old), kindOf.push_back(k);
            return static_cast<std::uint32_t>(keep.size() - 1);
        };
        if (first[old] == none) first[old] = made();
        if (kindOf[first[old]] == k) {
            indices[c] = first[old];
            continue;
        }
        const auto [entry, fresh] =
            furtherKinds.try_emplace((std::uint64_t(old) << 32) | std::uint32_t(k), none);
        if (fresh) entry->second = made();
        indices[c] = entry->second;
    }
    return withVertices(mesh, keep, std::move(indices), wear);
}

Mesh cornersInOrder(const Mesh& mesh, const std::vector<int>& kind) {
    Mesh out = cornersApart(mesh, kind, std::vector<Wear>(mesh.triangleCount()));
    dressAs(out, mesh);
    return out;
}

} // namespace zl::geometry
