#include "core/motion/weights_on.h"

#include "core/geometry/world.h"

#include <algorithm>
#include <map>

namespace zl::motion {

std::vector<float> weightsOn(const Model& model, int bone) {
    std::vector<float> out;
    for (const Node& node : model.nodes) {
        if (!node.isShown()) continue;
        // Flattening parts corners that differently placed pictures share.
        const Mesh mesh = geometry::withPlacedUvs(*model.meshes[std::size_t(node.mesh)], model.materials);
        const std::size_t first = out.size();
        out.resize(first + mesh.vertexCount(), 0.0f);
        if (node.skin < 0 || mesh.weights.empty()) continue;
        const auto& joints = model.skins[std::size_t(node.skin)].joints;
        for (std::size_t v = 0; v < mesh.vertexCount(); ++v)
            for (int k = 0; k < 4; ++k)
                if (mesh.joints[v][k] < joints.size() && joints[mesh.joints[v][k]] == bone)
                    out[first + v] += std::clamp(mesh.weights[v][k], 0.0f, 1.0f);
    }
    return out;
}

int heaviestBone(const Model& model) {
    std::map<int, double> sums;
    for (const int n : shownNodes(model)) {
        const Node& node = model.nodes[std::size_t(n)];
        if (node.skin < 0) continue;
        const Mesh& mesh = *model.meshes[std::size_t(node.mesh)];
        const auto& joints = model.skins[std::size_t(node.skin)].joints;
        for (std::size_t v = 0; v < mesh.weights.size(); ++v)
            for (int k = 0; k < 4; ++k)
                if (mesh.weights[v][k] > 0 && mesh.joints[v][k] < joints.size())
                    sums[joints[mesh.joints[v][k]]] += double(mesh.weights[v][k]);
    }
    const auto most = std::ranges::max_element(sums, {}, [](const auto& entry) { return entry.second; });
    return most == sums.end() ? -1 : most->first;
}

} // namespace zl::motion
