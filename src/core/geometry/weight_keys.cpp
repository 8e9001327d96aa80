#include "core/geometry/weight_keys.h"

#include <algorithm>

namespace zl::geometry {

void copyWeightKeys(Model& model, int from, int first) {
    for (auto& clip : model.clips) {
        std::vector<Channel> more;
        for (const Channel& channel : clip->channels)
            if (channel.node == from && channel.target == Channel::Target::Weights)
                for (int n = first; n < static_cast<int>(model.nodes.size()); ++n)
                    more.push_back(channel), more.back().node = n;
        if (more.empty()) continue;
        auto copy = std::make_shared<Clip>(*clip);
        copy->channels.insert(copy->channels.end(), more.begin(), more.end());
        clip = std::move(copy);
    }
}

void dropStrayWeightKeys(Model& model) {
    for (auto& clip : model.clips) {
        const auto isStray = [&](const Channel& channel) {
            return channel.target == Channel::Target::Weights &&
                   model.nodes[std::size_t(channel.node)].mesh < 0;
        };
        if (std::ranges::none_of(clip->channels, isStray)) continue;
        auto copy = std::make_shared<Clip>(*clip);
        std::erase_if(copy->channels, isStray);
        clip = std::move(copy);
    }
}

} // namespace zl::geometry
