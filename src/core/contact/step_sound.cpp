#include "core/contact/step_sound.h"

#include <glm/gtc/constants.hpp>

#include <algorithm>
#include <cmath>
#include <cstdint>

namespace zl::contact {

namespace {

constexpr double rate = soundRate;

/// A tone that is struck and dies away; `glide` times its pitch at the end of its decay.
struct Mode {
    double hertz = 0, decay = 0.1, loud = 1, glide = 1;
};
/// Noise between two pitches, from nothing to full in `attack` seconds and away again in `decay`.
struct Noise {
    double low = 100, high = 1000, attack = 0.002, decay = 0.1, loud = 0;
};
/// How one strike is made of many: `count` of them within `spread` seconds, by chance or evenly.
struct Grains {
    int count = 1;
    double spread = 0;
    bool even = false;
};
struct Voice {
    std::string_view word;
    std::vector<Mode> modes;
    Noise noise;
    Grains grains;
};

const std::vector<Voice>& voices() {
    static const std::vector<Voice> all{
        {"ring", {{620, 0.5, 1}, {1710, 0.35, 0.6}, {2930, 0.22, 0.4}, {4410, 0.12, 0.2}}, {}, {}},
        {"clink", {{2140, 0.09, 1}, {3710, 0.07, 0.7}, {5330, 0.04, 0.4}}, {}, {}},
        {"clank",
         {{380, 0.14, 1}, {950, 0.1, 0.8}, {1520, 0.08, 0.5}, {2410, 0.05, 0.4}},
         {800, 4000, 0.001, 0.02, 0.4},
         {}},
        {"clack", {{910, 0.02, 1}, {1830, 0.014, 0.8}}, {1000, 5000, 0.001, 0.012, 0.5}, {}},
        {"clatter", {{1050, 0.02, 1}, {2240, 0.012, 0.7}}, {1200, 6000, 0.001, 0.01, 0.4}, {7, 0.28}},
        {"rattle", {{2600, 0.012, 1}, {4100, 0.008, 0.6}}, {2000, 7000, 0.001, 0.008, 0.5}, {16, 0.3}},
        {"knock", {{240, 0.05, 1}, {530, 0.035, 0.7}, {880, 0.02, 0.4}}, {300, 2000, 0.001, 0.01, 0.3}, {}},
        {"tock", {{510, 0.03, 1}, {1120, 0.018, 0.6}}, {800, 3000, 0.001, 0.006, 0.2}, {}},
        {"thud", {{72, 0.08, 1}, {131, 0.05, 0.6}}, {40, 320, 0.002, 0.05, 0.5}, {}},
        {"crack", {{1240, 0.012, 0.5}}, {1500, 8000, 0.0005, 0.02, 1}, {3, 0.05}},
        {"creak", {{430, 0.012, 1}, {1130, 0.008, 0.7}}, {}, {34, 0.45, true}},
        {"crunch", {}, {800, 5000, 0.001, 0.012, 1}, {36, 0.26}},
        {"rustle", {}, {2200, 8000, 0.003, 0.015, 1}, {30, 0.36}},
        {"hiss", {}, {3000, 9000, 0.05, 0.16, 1}, {}},
        {"swish", {}, {900, 4200, 0.12, 0.1, 1}, {}},
        {"splash", {{520, 0.05, 0.35, 1.6}, {890, 0.04, 0.3, 1.8}}, {600, 6500, 0.01, 0.2, 0.8}, {3, 0.16}},
        {"squash", {{310, 0.05, 0.4, 1.5}}, {180, 1500, 0.04, 0.12, 1}, {2, 0.1}},
        {"squeak", {{1480, 0.13, 1, 1.55}, {2960, 0.09, 0.3, 1.55}}, {}, {}},
        {"flap", {}, {140, 1300, 0.006, 0.045, 1}, {2, 0.13, true}},
    };
    return all;
}

/// What a word before it does.
struct Changing {
    std::string_view word;
    double pitch, decay, attack, loud;
    Mode with; ///< rings along where it has a pitch
    int times = 1;
};

const std::vector<Changing>& changings() {
    static const std::vector<Changing> all{
        {"dull", 0.6, 0.8, 2, 0.8, {}, 1},   {"hard", 1.25, 0.8, 0.5, 1, {}, 1},
        {"soft", 0.85, 1.1, 4, 0.45, {}, 1}, {"dry", 1.1, 0.5, 1, 1, {}, 1},
        {"wet", 0.9, 1.5, 2, 1, {}, 1},      {"hollow", 0.8, 1.3, 1, 1, {146, 0.12, 0.9}, 1},
        {"uneven", 1, 1, 1, 1, {}, 2},
    };
    return all;
}

/// The same numbers wherever it runs.
class Chance {
public:
    explicit Chance(std::uint32_t seed) : state_(seed * 2654435761u + 0x9E3779B9u) {}
    /// From 0 to below 1.
    double next() {
        state_ ^= state_ << 13, state_ ^= state_ >> 17, state_ ^= state_ << 5;
        return double(state_) / 4294967296.0;
    }
    double about(double share) { return 1 + share * (2 * next() - 1); }

private:
    std::uint32_t state_;
};

void addMode(std::vector<float>& to, double from, const Mode& mode, double loud) {
    const auto first = std::size_t(from * rate), count = std::size_t(6 * mode.decay * rate);
    double phase = 0;
    for (std::size_t i = 0; i < count && first + i < to.size(); ++i) {
        const double t = double(i) / rate;
        const double pitch = mode.hertz * (1 + (mode.glide - 1) * std::min(1.0, t / mode.decay));
        if (pitch > 0.45 * rate) return;
        phase += glm::two_pi<double>() * pitch / rate;
        to[first + i] += float(loud * mode.loud * std::exp(-t / mode.decay) * std::sin(phase));
    }
}

void addNoise(std::vector<float>& to, double from, const Noise& noise, double loud, Chance& chance) {
    if (noise.loud <= 0) return;
    // One pole for either end of the band.
    const auto pole = [](double hertz) {
        return 1 - std::exp(-glm::two_pi<double>() * std::min(hertz, 0.45 * rate) / rate);
    };
    const double above = pole(noise.high), below = pole(noise.low);
    const auto first = std::size_t(from * rate), count = std::size_t((noise.attack + 6 * noise.decay) * rate);
    double smooth = 0, slow = 0;
    for (std::size_t i = 0; i < count && first + i < to.size(); ++i) {
        const double t = double(i) / rate;
        smooth += above * (2 * chance.next() - 1 - smooth);
        slow += below * (smooth - slow);
        const double shape =
            t < noise.attack ? t / noise.attack : std::exp(-(t - noise.attack) / noise.decay);
        to[first + i] += float(loud * noise.loud * shape * (smooth - slow));
    }
}

/// To a peak, and without a click at the end.
void level(std::vector<float>& sound, double peak) {
    float most = 0;
    for (const float s : sound) most = std::max(most, std::abs(s));
    if (most <= 0) return;
    for (float& s : sound) s *= float(peak) / most;
    const float still = 0.002f;
    while (!sound.empty() && std::abs(sound.back()) < still) sound.pop_back();
    const std::size_t fade = std::min<std::size_t>(sound.size(), std::size_t(0.01 * rate));
    for (std::size_t i = 0; i < fade; ++i) sound[sound.size() - 1 - i] *= float(i) / float(fade);
}

std::vector<std::string_view> wordsOf(std::string_view text) {
    std::vector<std::string_view> out;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find(' '), text.size());
        if (end > 0) out.push_back(text.substr(0, end));
        text.remove_prefix(std::min(end + 1, text.size()));
    }
    return out;
}

} // namespace

std::vector<float> stepSound(std::string_view words, unsigned step) {
    auto said = wordsOf(words);
    const auto found = said.empty() ? voices().end() : std::ranges::find(voices(), said.back(), &Voice::word);
    if (found == voices().end()) return {};
    said.pop_back();
    Voice voice = *found;
    double loud = 0.8;
    int times = 1;
    for (const std::string_view word : said) {
        const auto change = std::ranges::find(changings(), word, &Changing::word);
        if (change == changings().end()) return {};
        for (Mode& mode : voice.modes) mode.hertz *= change->pitch, mode.decay *= change->decay;
        voice.noise.low *= change->pitch, voice.noise.high *= change->pitch;
        voice.noise.decay *= change->decay, voice.noise.attack *= change->attack;
        if (change->with.hertz > 0) voice.modes.push_back(change->with);
        loud *= change->loud, times *= change->times;
    }
    Chance chance(step + 1);
    std::vector<float> out(std::size_t(rate), 0.0f);
    for (int again = 0; again < times; ++again) {
        const double from = again * 0.11;
        for (int g = 0; g < voice.grains.count; ++g) {
            const double share = voice.grains.even ? double(g) / voice.grains.count : chance.next();
            const double at = from + voice.grains.spread * (g == 0 ? 0 : share);
            // The first strike is the foot; the others die away behind it.
            const double force =
                (again == 0 ? 1 : 0.7) * (g == 0 ? 1 : (1 - 0.6 * share) * chance.about(0.3));
            const double pitch = chance.about(voice.grains.count > 1 ? 0.12 : 0.03);
            for (Mode mode : voice.modes) {
                mode.hertz *= pitch;
                addMode(out, at, mode, force);
            }
            addNoise(out, at, voice.noise, force, chance);
        }
    }
    level(out, loud);
    return out;
}

const std::vector<std::string_view>& soundWords() {
    static const auto all = [] {
        std::vector<std::string_view> out;
        for (const Voice& voice : voices()) out.push_back(voice.word);
        return out;
    }();
    return all;
}

const std::vector<std::string_view>& soundChanges() {
    static const auto all = [] {
        std::vector<std::string_view> out;
        for (const Changing& change : changings()) out.push_back(change.word);
        return out;
    }();
    return all;
}

} // namespace zl::contact
