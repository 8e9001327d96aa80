#include "core/steps/reshape.h"

#include "core/geometry/reshape.h"
#include "core/geometry/world.h"
#include "core/model/axes.h"
#include "core/model/finite.h"

#include <algorithm>
#include <cmath>

namespace zl::steps {

namespace {

/// "X, Y, Z here are X, Z, -Y in the file": how a source whose up is Z names the axes.
std::string axesInFile(const Model& model) {
    const glm::dmat3 toFile = glm::inverse(glm::dmat3(model.frame.toMetres()));
    std::string out;
    for (int axis = 0; axis < 3; ++axis) {
        const glm::dvec3 way = toFile[axis];
        int along = 0;
        for (int k = 1; k < 3; ++k)
            if (std::abs(way[k]) > std::abs(way[along])) along = k;
        out += fmt::format("{}{}{}", out.empty() ? "" : ", ", way[along] < 0 ? "-" : "", "XYZ"[along]);
    }
    return out;
}

/// 1 for corners of the node's chosen triangles.
std::vector<char> cornersOf(const Mesh& mesh, const selection::Chosen& chosen, std::size_t node, bool all) {
    std::vector<char> corners(mesh.vertexCount(), all ? 1 : 0);
    for (std::size_t t = 0; !all && t < mesh.triangleCount(); ++t)
        if (chosen.has(node, t))
            for (int k = 0; k < 3; ++k) corners[mesh.indices[3 * t + std::size_t(k)]] = 1;
    return corners;
}

} // namespace

Model Reshape::apply(const Model& in, StepContext& context) const {
    const bool all = faces.empty();
    const auto chosen = all ? selection::Chosen{} : context.chosen(in, faces);
    Model out = in;
    const auto world = worldMatrices(in);
    std::size_t touched = 0;
    for (const Row& row : rows) {
        // Weights first, for the middle of what they are is what is scaled about.
        std::vector<std::vector<double>> weights(out.nodes.size());
        geometry::Bounds between;
        for (std::size_t n = 0; n < out.nodes.size(); ++n) {
            if (out.nodes[n].mesh < 0 || !(std::abs(glm::determinant(glm::dmat3(world[n]))) > 1e-30))
                continue;
            const Mesh& mesh = *out.meshes[std::size_t(out.nodes[n].mesh)];
            const auto corners = cornersOf(mesh, chosen, n, all);
            weights[n].resize(mesh.vertexCount(), 0);
            for (std::size_t v = 0; v < mesh.vertexCount(); ++v) {
                if (!corners[v]) continue;
                const glm::dvec3 p(world[n] * glm::dvec4(mesh.positions[v], 1));
                weights[n][v] = geometry::rangeWeight(p.y, std::min(row.low, row.high),
                                                      std::max(row.low, row.high), row.falloff);
                if (weights[n][v] >= 1) between.add(p);
            }
        }
        if (between.empty()) {
            context.fellShort(fmt::format("nothing lies between {} and {}", context.showLength(row.low),
                                          context.showLength(row.high)));
            continue;
        }
        const glm::dvec3 centre(between.centre().x, between.min.y, between.centre().z);
        for (std::size_t n = 0; n < out.nodes.size(); ++n) {
            touched += std::size_t(std::ranges::count_if(weights[n], [](double w) { return w > 0; }));
            if (std::ranges::none_of(weights[n], [](double w) { return w > 0; })) continue;
            const Mesh placed = geometry::transformed(*out.meshes[std::size_t(out.nodes[n].mesh)], world[n]);
            const Mesh changed = geometry::reshaped(placed, weights[n], row.move, row.scale, centre);
            Mesh back = geometry::transformed(changed, glm::inverse(world[n]));
            if (!std::ranges::all_of(back.positions, [](const glm::vec3& p) { return isFinite(p); }))
                throw Error(
                    fmt::format("\"{}\" would have corners farther away than numbers go", out.nodes[n].name),
                    std::string(info.id), "Move or scale it by less, or say what its unit is first.");
            out.nodes[n].mesh = int(out.meshes.size());
            out.meshes.push_back(std::make_shared<const Mesh>(std::move(back)));
        }
    }
    context.note(fmt::format("{} changed; X, Y, Z here are {} in the file",
                             showCount(static_cast<long long>(touched), "corner", "corners"),
                             axesInFile(in)));
    return out;
}

} // namespace zl::steps
