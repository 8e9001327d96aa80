#include "app/sound/sound_mixer.h"

#include <algorithm>
#include <cmath>

namespace zl::app {

void SoundMixer::add(std::vector<float> sound) {
    if (sound.empty()) return;
    if (playing_.size() >= mostAtOnce) playing_.erase(playing_.begin());
    playing_.push_back({std::move(sound)});
}

void SoundMixer::next(std::span<float> block) {
    std::ranges::fill(block, 0.0f);
    for (Playing& one : playing_) {
        const std::size_t count = std::min(block.size(), one.sound.size() - one.at);
        for (std::size_t i = 0; i < count; ++i) block[i] += one.sound[one.at + i];
        one.at += count;
    }
    std::erase_if(playing_, [](const Playing& one) { return one.at >= one.sound.size(); });
    // As it is up to 0.8, and from there ever closer to 1.
    constexpr float knee = 0.8f;
    for (float& s : block)
        if (const float over = std::abs(s) - knee; over > 0)
            s = std::copysign(knee + (1 - knee) * std::tanh(over / (1 - knee)), s);
}

} // namespace zl::app
