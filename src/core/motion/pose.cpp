#include "core/motion/pose.h"

#include <glm/gtc/matrix_transform.hpp>

#include <algorithm>

namespace zl::motion {

namespace {

using Target = Channel::Target;
using Curve = Channel::Curve;

constexpr double stepGap = 1e-4;

bool animates(const Channel& channel, int node) {
    return channel.node == node && channel.target != Target::Weights && !channel.times.empty();
}

} // namespace

glm::dquat quaternion(const std::vector<double>& v) {
    return {v[3], v[0], v[1], v[2]};
}

glm::dquat turnIn(const glm::dmat4& matrix) {
    glm::dmat3 linear(matrix);
    for (int k = 0; k < 3; ++k) {
        const double length = glm::length(linear[k]);
        linear[k] = length > 0 ? linear[k] / length : glm::dmat3(1.0)[k];
    }
    if (glm::determinant(linear) < 0) linear[0] = -linear[0];
    return glm::normalize(glm::quat_cast(linear));
}

std::vector<double> valueAt(const Channel& channel, double seconds) {
    const std::size_t keys = channel.times.size();
    const std::size_t perKey = channel.curve == Curve::CubicSpline ? 3 : 1;
    const std::size_t width = keys > 0 ? channel.values.size() / (keys * perKey) : 0;
    if (width == 0 || (channel.target == Target::Rotation && width != 4)) return {};
    /// One of a key's numbers: `part` 0 is the tangent before it, 1 the value, 2 the tangent after it.
    const auto number = [&](std::size_t key, std::size_t k, std::size_t part = 1) {
        return double(channel.values[(key * perKey + (perKey == 3 ? part : 0)) * width + k]);
    };
    std::vector<double> out(width);
    const auto take = [&](std::size_t key) {
        for (std::size_t k = 0; k < width; ++k) out[k] = number(key, k);
    };
    const std::size_t next =
        std::ranges::upper_bound(channel.times, seconds, std::less<double>()) - channel.times.begin();
    if (next == 0) {
        take(0);
    } else if (next == keys || channel.curve == Curve::Step) {
        take(next - 1);
    } else {
        const std::size_t a = next - 1, b = next;
        const double span = double(channel.times[b]) - channel.times[a];
        const double t = (seconds - channel.times[a]) / span, tt = t * t, ttt = tt * t;
        if (channel.curve == Curve::CubicSpline) {
            for (std::size_t k = 0; k < width; ++k)
                out[k] = (2 * ttt - 3 * tt + 1) * number(a, k) + span * (ttt - 2 * tt + t) * number(a, k, 2) +
                         (-2 * ttt + 3 * tt) * number(b, k) + span * (ttt - tt) * number(b, k, 0);
        } else if (channel.target == Target::Rotation) {
            take(b);
            const glm::dquat to = glm::normalize(quaternion(out));
            take(a);
            const glm::dquat turn = glm::slerp(glm::normalize(quaternion(out)), to, t);
            out = {turn.x, turn.y, turn.z, turn.w};
        } else {
            for (std::size_t k = 0; k < width; ++k) out[k] = glm::mix(number(a, k), number(b, k), t);
        }
    }
    if (channel.target == Target::Rotation) {
        const glm::dquat turn = glm::normalize(quaternion(out));
        out = {turn.x, turn.y, turn.z, turn.w};
    }
    return out;
}

glm::dmat4 localAt(const Model& model, const Clip& clip, int node, double seconds) {
    const glm::dmat4& rest = model.nodes[node].local;
    glm::dvec3 place(rest[3]), scale(glm::length(rest[0]), glm::length(rest[1]), glm::length(rest[2]));
    glm::dmat3 linear(rest);
    if (glm::determinant(linear) < 0) scale.x = -scale.x;
    for (int k = 0; k < 3; ++k) linear[k] = scale[k] != 0 ? linear[k] / scale[k] : glm::dmat3(1.0)[k];
    glm::dquat turn = glm::normalize(glm::quat_cast(linear));
    bool animated = false;
    for (const Channel& channel : clip.channels) {
        if (!animates(channel, node)) continue;
        const std::vector<double> v = valueAt(channel, seconds);
        if (v.size() != (channel.target == Target::Rotation ? 4 : 3)) continue;
        animated = true;
        if (channel.target == Target::Translation)
            place = {v[0], v[1], v[2]};
        else if (channel.target == Target::Scale)
            scale = {v[0], v[1], v[2]};
        else
            turn = quaternion(v);
    }
    if (!animated) return rest;
    return glm::scale(glm::translate(glm::dmat4(1.0), place) * glm::mat4_cast(turn), scale);
}

std::vector<int> chainOf(const Model& model, int node) {
    std::vector<int> chain;
    for (; node >= 0; node = model.nodes[std::size_t(node)].parent) chain.push_back(node);
    return chain;
}

glm::dmat4 worldAt(const Model& model, const Clip& clip, const std::vector<int>& chain, double seconds,
                   bool withOwn) {
    glm::dmat4 world = model.placement;
    for (std::size_t i = chain.size(); i-- > (withOwn ? 0u : 1u);)
        world *= localAt(model, clip, chain[i], seconds);
    return world;
}

std::vector<double> poseTimes(const Clip& clip, int node, double perSecond) {
    std::vector<double> times;
    for (const Channel& channel : clip.channels) {
        if (!animates(channel, node)) continue;
        for (std::size_t k = 0; k < channel.times.size(); ++k) {
            const double at = channel.times[k];
            if (k > 0 && channel.curve == Curve::Step && at - stepGap > channel.times[k - 1])
                times.push_back(at - stepGap);
            if (k > 0 && channel.curve == Curve::CubicSpline) {
                const double from = channel.times[k - 1];
                const int between = static_cast<int>(std::clamp((at - from) * perSecond, 0.0, 1000.0));
                for (int i = 1; i <= between; ++i) times.push_back(from + (at - from) * i / (between + 1));
            }
            times.push_back(at);
        }
    }
    std::ranges::sort(times);
    times.erase(std::unique(times.begin(), times.end()), times.end());
    return times;
}

} // namespace zl::motion
