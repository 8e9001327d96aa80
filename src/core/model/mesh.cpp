#include "core/model/mesh.h"

#include <algorithm>
#include <numeric>

namespace zl {

std::size_t bytesOf(const Mesh& mesh) {
    const auto of = [](const auto& values) { return values.size() * sizeof values[0]; };
    std::size_t bytes = sizeof mesh + of(mesh.positions) + of(mesh.normals) + of(mesh.tangents) +
                        of(mesh.colours) + of(mesh.joints) + of(mesh.weights) + of(mesh.indices) +
                        of(mesh.runs);
    for (const auto& set : mesh.uvSets) bytes += of(set);
    for (const MorphTarget& morph : mesh.morphs) bytes += of(morph.positions) + of(morph.normals);
    return bytes;
}

std::vector<int> triangleMaterials(const Mesh& mesh) {
    std::vector<int> result(mesh.triangleCount(), -1);
    for (const MaterialRun& run : mesh.runs)
        std::fill_n(result.begin() + run.firstTriangle, run.triangleCount, run.material);
    return result;
}

std::vector<MaterialRun> runsOf(const std::vector<int>& materials) {
    std::vector<MaterialRun> runs;
    for (std::size_t t = 0; t < materials.size(); ++t) {
        if (runs.empty() || runs.back().material != materials[t])
            runs.push_back({static_cast<std::uint32_t>(t), 0, materials[t]});
        ++runs.back().triangleCount;
    }
    return runs;
}

namespace {

template <class T>
std::vector<T> gather(const std::vector<T>& from, const std::vector<std::uint32_t>& keep) {
    std::vector<T> result;
    if (from.empty()) return result;
    result.resize(keep.size());
    for (std::size_t i = 0; i < keep.size(); ++i) result[i] = from[keep[i]];
    return result;
}

} // namespace

Mesh withVertices(const Mesh& mesh, const std::vector<std::uint32_t>& keep,
                  std::vector<std::uint32_t> indices, const std::vector<int>& materials) {
    Mesh out;
    out.name = mesh.name;
    out.positions = gather(mesh.positions, keep);
    out.normals = gather(mesh.normals, keep);
    out.tangents = gather(mesh.tangents, keep);
    for (const auto& set : mesh.uvSets) out.uvSets.push_back(gather(set, keep));
    out.colours = gather(mesh.colours, keep);
    out.joints = gather(mesh.joints, keep);
    out.weights = gather(mesh.weights, keep);
    for (const MorphTarget& morph : mesh.morphs)
        out.morphs.push_back({morph.name, gather(morph.positions, keep), gather(morph.normals, keep)});

    const std::size_t count = indices.size() / 3;
    std::vector<std::uint32_t> order(count);
    std::iota(order.begin(), order.end(), 0u);
    const bool sorted = std::is_sorted(materials.begin(), materials.end());
    if (!sorted)
        std::stable_sort(order.begin(), order.end(),
                         [&](auto a, auto b) { return materials[a] < materials[b]; });
    if (sorted) {
        out.indices = std::move(indices);
    } else {
        out.indices.resize(count * 3);
        for (std::size_t i = 0; i < count; ++i)
            std::copy_n(indices.begin() + 3 * std::size_t(order[i]), 3, out.indices.begin() + 3 * i);
    }
    std::vector<int> inOrder(count);
    for (std::size_t i = 0; i < count; ++i) inOrder[i] = materials[order[i]];
    out.runs = runsOf(inOrder);
    return out;
}

} // namespace zl
