#include "core/geometry/moving_nodes.h"

namespace zl::geometry {

std::vector<char> movingNodes(const Model& model) {
    std::vector<char> moving(model.nodes.size(), 0);
    for (const Skin& skin : model.skins) {
        for (const int joint : skin.joints) moving[joint] = 1;
        if (skin.root >= 0) moving[skin.root] = 1;
    }
    for (const auto& clip : model.clips)
        for (const Channel& channel : clip->channels)
            if (channel.target != Channel::Target::Weights) moving[channel.node] = 1;
    return moving;
}

std::vector<int> moverOf(const Model& model, const std::vector<char>& moving) {
    std::vector<int> mover(model.nodes.size(), -1);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        const int parent = model.nodes[n].parent;
        mover[n] = moving[n] ? static_cast<int>(n) : parent >= 0 ? mover[parent] : -1;
    }
    return mover;
}

} // namespace zl::geometry
