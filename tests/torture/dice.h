#pragma once
#include <cstdint>
#include <random>
#include <span>

namespace torture {

/// Random choices that are the same for the same seed on every machine (distributions of the standard library
/// are not).
class Dice {
public:
    explicit Dice(std::uint64_t seed) : engine_(seed) {}

    /// 0 to `below` - 1.
    std::size_t below(std::size_t below) { return below == 0 ? 0 : std::size_t(engine_() % below); }
    int between(int low, int high) { return low + int(below(std::size_t(high - low + 1))); }
    bool chance(double share) { return unit() < share; }
    double unit() { return double(engine_() >> 11) * 0x1.0p-53; }
    double between(double low, double high) { return low + (high - low) * unit(); }
    float pm1() { return float(between(-1.0, 1.0)); }
    template <class List>
    const auto& of(const List& list) {
        return list[below(std::size(list))];
    }

private:
    std::mt19937_64 engine_;
};

} // namespace torture
