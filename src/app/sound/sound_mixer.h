#pragma once
#include <span>
#include <vector>

namespace zl::app {

/// Sounds that are heard at once, put together block by block.
class SoundMixer {
public:
    /// Begins with the next block. Above `mostAtOnce` the oldest falls silent.
    void add(std::vector<float> sound);
    /// The next samples, from -1 to 1. What is louder together than may be is bent, not cut.
    void next(std::span<float> block);
    bool isSilent() const { return playing_.empty(); }
    void clear() { playing_.clear(); }

    static constexpr std::size_t mostAtOnce = 12;

private:
    struct Playing {
        std::vector<float> sound;
        std::size_t at = 0;
    };
    std::vector<Playing> playing_;
};

} // namespace zl::app
