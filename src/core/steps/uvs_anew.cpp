#include "core/steps/uvs_anew.h"

#include "core/steps/lost_tangents.h"
#include "core/geometry/corners_apart.h"
#include "core/geometry/parts.h"
#include "core/geometry/extract.h"
#include "core/uv/packed_charts.h"
#include "core/uv/uv_faces.h"

#include <algorithm>
#include <map>

namespace zl::steps {

namespace {

/// The triangles of one node that get new UVs, charted.
struct Charted {
    std::size_t node;
    std::vector<std::uint32_t> triangles; ///< of the node's mesh
    int material = -1;
    uv::Charts charts; ///< of `triangles`, in their order
};

uv::Charts chartsOf(const UvsAnew& step, const Mesh& mesh, const glm::dmat4& toWorld,
                    const Progress& progress) {
    switch (step.by) {
    case UvsAnew::By::Box:
        return uv::boxCharts(mesh, toWorld);
    case UvsAnew::By::Cylinder:
        return uv::cylinderCharts(mesh, toWorld, int(step.axis));
    case UvsAnew::By::Plane:
        return uv::planeCharts(mesh, toWorld, int(step.axis));
    case UvsAnew::By::Islands:
        break;
    }
    return uv::islandCharts(mesh, toWorld, step.angle, progress);
}

/// The node's mesh with the first UV set given anew for what is charted.
Mesh given(const Mesh& mesh, const std::vector<const Charted*>& parts,
           const std::function<glm::vec2(const Charted&, int chart, glm::dvec2 at)>& place) {
    std::vector<int> kind(mesh.triangleCount(), 0);
    std::vector<std::array<glm::vec2, 3>> at(mesh.triangleCount());
    int next = 1;
    for (const Charted* part : parts) {
        for (std::size_t i = 0; i < part->triangles.size(); ++i) {
            const std::uint32_t t = part->triangles[i];
            kind[t] = next + part->charts.chart[i];
            for (std::size_t k = 0; k < 3; ++k)
                at[t][k] = place(*part, part->charts.chart[i], part->charts.at[i][k]);
        }
        next += int(part->charts.count);
    }
    Mesh out = geometry::cornersInOrder(mesh, kind);
    if (out.uvSets.empty()) out.uvSets.emplace_back(out.vertexCount(), glm::vec2(0));
    for (std::size_t t = 0; t < kind.size(); ++t)
        for (std::size_t k = 0; kind[t] > 0 && k < 3; ++k) out.uvSets[0][out.indices[3 * t + k]] = at[t][k];
    out.tangents.clear();
    return out;
}

/// Triangles of `mesh` by material, of those that are marked.
std::map<int, std::vector<std::uint32_t>> byMaterial(const Mesh& mesh, const std::vector<char>& marked) {
    std::map<int, std::vector<std::uint32_t>> out;
    const auto materials = triangleMaterials(mesh);
    for (std::uint32_t t = 0; t < materials.size(); ++t)
        if (marked[t]) out[materials[t]].push_back(t);
    return out;
}

} // namespace

Model UvsAnew::apply(const Model& in, StepContext& context) const {
    auto meant = context.chosenOrAll(in, faces);
    if (only == Only::Bare)
        for (const uv::UvFaces all = uv::uvFaces(in); const uv::UvFace& face : all.faces)
            if (meant.has(std::size_t(face.node), face.triangle))
                meant.faces[std::size_t(face.node)][face.triangle] = 0;
    const auto world = worldMatrices(in);
    std::vector<Charted> charted;
    const std::size_t total = std::max<std::size_t>(meant.count(), 1);
    std::size_t done = 0;
    for (std::size_t n = 0; n < in.nodes.size(); ++n) {
        if (in.nodes[n].mesh < 0 || meant.countOf(n) == 0) continue;
        const Mesh& mesh = *in.meshes[std::size_t(in.nodes[n].mesh)];
        for (auto& [material, triangles] : byMaterial(mesh, meant.faces[n])) {
            const Progress part = context.progress.between(
                0.7 * double(done) / double(total), 0.7 * double(done + triangles.size()) / double(total));
            done += triangles.size();
            const Mesh own = geometry::inOwnOrder(mesh, triangles);
            auto charts = chartsOf(*this, own, world[n], part);
            charted.push_back({n, std::move(triangles), material, std::move(charts)});
        }
    }
    if (charted.empty()) {
        context.note(only == Only::Bare ? "everything has UVs already" : "nothing is chosen");
        return in;
    }
    std::map<int, std::vector<const uv::Charts*>> ofMaterial; // one square each
    std::map<const uv::Charts*, std::size_t> placeOf;
    for (const Charted& part : charted) {
        auto& list = ofMaterial[part.material];
        placeOf[&part.charts] = list.size();
        list.push_back(&part.charts);
    }
    std::map<int, uv::PackedCharts> packed;
    std::size_t islands = 0;
    if (by == By::Islands)
        for (const auto& [material, list] : ofMaterial) {
            packed[material] = uv::packedCharts(list, padding, context.progress.between(0.7, 1));
            for (const uv::Charts* charts : list) islands += charts->count;
        }
    Model out = in;
    for (std::size_t i = 0; i < charted.size();) {
        std::vector<const Charted*> parts;
        const std::size_t node = charted[i].node;
        for (; i < charted.size() && charted[i].node == node; ++i) parts.push_back(&charted[i]);
        const Mesh& mesh = *in.meshes[std::size_t(in.nodes[node].mesh)];
        auto made = given(mesh, parts, [&](const Charted& part, int chart, glm::dvec2 at) {
            const auto square = packed.find(part.material);
            return glm::vec2(square == packed.end() ? at / size
                                                    : square->second.of(placeOf[&part.charts], chart, at));
        });
        out.nodes[node].mesh = int(out.meshes.size());
        out.meshes.push_back(std::make_shared<const Mesh>(std::move(made)));
    }
    context.note(fmt::format("{} got UVs", showCount(long(done), "triangle", "triangles")));
    if (by == By::Islands) {
        double used = 0;
        for (const auto& [material, square] : packed) used += square.used / double(packed.size());
        context.note(
            fmt::format("{} on {}, {} % of the ground used", showCount(long(islands), "island", "islands"),
                        showCount(long(packed.size()), "square", "squares"), showNumber(100 * used, 0)));
    }
    noteLostTangents(in, out, context);
    return geometry::withoutNodes(out, std::vector<char>(out.nodes.size(), 0));
}

} // namespace zl::steps
