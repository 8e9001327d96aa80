#include "core/model/mesh.h"

#include <algorithm>
#include <numeric>

namespace zl {

std::size_t bytesOf(const Mesh& mesh) {
    const auto of = [](const auto& values) { return values.size() * sizeof values[0]; };
    std::size_t bytes = sizeof mesh + of(mesh.positions) + of(mesh.normals) + of(mesh.tangents) +
                        of(mesh.colours) + of(mesh.joints) + of(mesh.weights) + of(mesh.indices) +
                        of(mesh.runs) + of(mesh.surfaces);
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

std::vector<Wear> triangleWear(const Mesh& mesh) {
    std::vector<Wear> result(mesh.triangleCount(), wearOf(-1));
    for (const MaterialRun& run : mesh.runs)
        std::fill_n(result.begin() + run.firstTriangle, run.triangleCount, wearOf(run.material));
    for (std::size_t t = 0; t < mesh.surfaces.size(); ++t)
        result[t] = wearOf(materialOf(result[t]), mesh.surfaces[t]);
    return result;
}

std::vector<Wear> wearOf(const std::vector<int>& materials) {
    std::vector<Wear> result(materials.size());
    std::ranges::transform(materials, result.begin(), [](int material) { return wearOf(material); });
    return result;
}

void dress(Mesh& mesh, const std::vector<Wear>& wear) {
    mesh.runs.clear(), mesh.surfaces.clear();
    for (std::size_t t = 0; t < wear.size(); ++t) {
        const int material = materialOf(wear[t]);
        if (mesh.runs.empty() || mesh.runs.back().material != material)
            mesh.runs.push_back({static_cast<std::uint32_t>(t), 0, material});
        ++mesh.runs.back().triangleCount;
    }
    if (std::ranges::all_of(wear, [](Wear one) { return surfaceOf(one) < 0; })) return;
    mesh.surfaces.resize(wear.size());
    std::ranges::transform(wear, mesh.surfaces.begin(),
                           [](Wear one) { return std::int16_t(surfaceOf(one)); });
}

void dressAs(Mesh& mesh, const Mesh& from) {
    mesh.runs = from.runs, mesh.surfaces = from.surfaces;
}

void dressEnd(Mesh& mesh, const Mesh& from) {
    const std::size_t first = mesh.triangleCount() - from.triangleCount();
    for (MaterialRun run : from.runs) {
        run.firstTriangle += static_cast<std::uint32_t>(first);
        mesh.runs.push_back(run);
    }
    if (mesh.surfaces.empty() && from.surfaces.empty()) return;
    mesh.surfaces.resize(first, -1);
    mesh.surfaces.insert(mesh.surfaces.end(), from.surfaces.begin(), from.surfaces.end());
    mesh.surfaces.resize(mesh.triangleCount(), -1);
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
                  std::vector<std::uint32_t> indices, const std::vector<Wear>& wear) {
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
    const bool sorted = std::is_sorted(wear.begin(), wear.end());
    if (!sorted)
        std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return wear[a] < wear[b]; });
    if (sorted) {
        out.indices = std::move(indices);
    } else {
        out.indices.resize(count * 3);
        for (std::size_t i = 0; i < count; ++i)
            std::copy_n(indices.begin() + 3 * std::size_t(order[i]), 3, out.indices.begin() + 3 * i);
    }
    std::vector<Wear> inOrder(count);
    for (std::size_t i = 0; i < count; ++i) inOrder[i] = wear[order[i]];
    dress(out, inOrder);
    return out;
}

} // namespace zl
