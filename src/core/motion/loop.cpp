#include "core/motion/loop.h"

#include "core/geometry/world.h"
#include "core/motion/channel_keys.h"
#include "core/motion/pose.h"
#include "core/motion/posed.h"

#include <algorithm>

namespace zl::motion {

namespace {

using Target = Channel::Target;

/// From 0 to 1 with level ends.
double eased(double t) {
    return t * t * (3 - 2 * t);
}

Channel looped(const Channel& channel, double length, double seconds, double perSecond) {
    const auto first = valueAt(channel, 0), last = valueAt(channel, length);
    if (first.empty() || distanceBetween(channel.target, first.data(), last.data(), first.size()) == 0)
        return channel;
    const double begins = std::max(0.0, length - seconds);
    if (channel.curve == Channel::Curve::Step) { // it jumps anyway: where it ends it is as at the beginning
        Channel out = channel;
        if (double(out.times.back()) < length) {
            out.times.push_back(float(length));
            out.values.insert(out.values.end(), first.size(), 0.0f);
        }
        std::ranges::transform(first, out.values.end() - std::ptrdiff_t(first.size()),
                               [](double v) { return float(v); });
        return out;
    }
    const bool spline = channel.curve == Channel::Curve::CubicSpline;
    std::vector<double> times;
    for (const float time : channel.times)
        if (double(time) < begins || !spline) times.push_back(time);
    const double from = spline ? 0 : begins;
    const auto samples = std::size_t(std::clamp((length - from) * perSecond, 1.0, 1e6));
    for (std::size_t i = 0; i <= samples; ++i)
        times.push_back(from + (length - from) * double(i) / double(samples));
    std::ranges::sort(times);
    times.erase(
        std::unique(times.begin(), times.end(), [](double a, double b) { return float(a) == float(b); }),
        times.end());
    Channel out = sampled(channel, times);
    const std::size_t width = first.size();
    for (std::size_t key = 0; key < out.times.size(); ++key) {
        const double at = times[key];
        const double part = seconds > 0 ? eased(std::clamp((at - begins) / (length - begins), 0.0, 1.0))
                                        : double(at >= length);
        if (part == 0) continue;
        const auto was = valueAt(channel, at);
        std::vector<double> now(width);
        if (channel.target == Target::Rotation) {
            glm::dquat off = quaternion(first) * glm::conjugate(quaternion(last));
            if (off.w < 0) off = -off;
            const glm::dquat turn = glm::slerp(glm::dquat(1, 0, 0, 0), off, part) * quaternion(was);
            now = {turn.x, turn.y, turn.z, turn.w};
        } else {
            for (std::size_t k = 0; k < width; ++k) now[k] = was[k] + part * (first[k] - last[k]);
        }
        for (std::size_t k = 0; k < width; ++k) out.values[key * width + k] = float(now[k]);
    }
    return out;
}

} // namespace

LoopError loopErrorOf(const Model& model, const Clip& clip) {
    LoopError error;
    const double length = lengthOf(clip);
    const auto world = worldMatrices(model);
    for (const Channel& channel : clip.channels) {
        const auto first = valueAt(channel, 0), last = valueAt(channel, length);
        if (first.empty()) continue;
        double off = distanceBetween(channel.target, first.data(), last.data(), first.size());
        if (channel.target == Target::Rotation) {
            if (off > error.turn) error.turn = off, error.turned = channel.node;
        } else if (channel.target == Target::Translation) {
            const int parent = model.nodes[std::size_t(channel.node)].parent;
            const glm::dmat3 above(parent >= 0 ? world[std::size_t(parent)] : model.placement);
            off = glm::length(
                above * (glm::dvec3(last[0], last[1], last[2]) - glm::dvec3(first[0], first[1], first[2])));
            if (off > error.place) error.place = off, error.placed = channel.node;
        } else {
            error.weight = std::max(error.weight, off);
        }
    }
    return error;
}

Clip looped(const Clip& clip, double seconds, int but, double perSecond) {
    Clip out = clip;
    const double length = lengthOf(clip);
    if (!(length > 0)) return out;
    for (Channel& channel : out.channels)
        if (channel.node != but || channel.target != Target::Translation)
            channel = looped(channel, length, std::clamp(seconds, 0.0, length), perSecond);
    return out;
}

} // namespace zl::motion
