#include "core/geometry/clip_keys.h"

#include <algorithm>

namespace zl::geometry {

void playAlike(Model& model, const std::map<int, std::vector<int>>& copies,
               const std::function<bool(const Channel&)>& which) {
    for (auto& clip : model.clips) {
        std::vector<Channel> more; // a clip that stays as it is is not copied, however often this is asked
        for (const Channel& channel : clip->channels)
            if (const auto own = copies.find(channel.node); own != copies.end() && which(channel))
                for (const int copy : own->second) more.push_back(channel), more.back().node = copy;
        if (more.empty()) continue;
        auto longer = std::make_shared<Clip>(*clip);
        longer->channels.insert(longer->channels.end(), more.begin(), more.end());
        clip = std::move(longer);
    }
}

void copyWeightKeys(Model& model, int from, int first) {
    std::vector<int> copies;
    for (int n = first; n < static_cast<int>(model.nodes.size()); ++n) copies.push_back(n);
    playAlike(model, {{from, copies}},
              [](const Channel& channel) { return channel.target == Channel::Target::Weights; });
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
