#include "core/motion/channel_keys.h"

#include "core/motion/pose.h"

#include <algorithm>
#include <cmath>

namespace zl::motion {

namespace {

using Target = Channel::Target;
using Curve = Channel::Curve;

/// A spline's raw value and slope between keys `a` and `a + 1`: a turn's are not brought to length 1, so that
/// a piece of the spline stays the same spline (cubic Hermite, glTF 2.0 appendix C.5).
void splineAt(const Channel& channel, std::size_t a, std::size_t width, double seconds, float* value,
              float* slope) {
    const double span = double(channel.times[a + 1]) - channel.times[a];
    const double t = span > 0 ? (seconds - channel.times[a]) / span : 0, tt = t * t, ttt = tt * t;
    for (std::size_t k = 0; k < width; ++k) {
        const double p = channel.values[(3 * a + 1) * width + k],
                     m = span * channel.values[(3 * a + 2) * width + k],
                     q = channel.values[(3 * a + 4) * width + k],
                     n = span * channel.values[(3 * a + 3) * width + k];
        value[k] = float((2 * ttt - 3 * tt + 1) * p + (ttt - 2 * tt + t) * m + (-2 * ttt + 3 * tt) * q +
                         (ttt - tt) * n);
        slope[k] = span > 0 ? float(((6 * tt - 6 * t) * p + (3 * tt - 4 * t + 1) * m + (6 * t - 6 * tt) * q +
                                     (3 * tt - 2 * t) * n) /
                                    span)
                            : 0.0f;
    }
}

/// Slerp or a straight line between two keys, into `out`.
void between(Target target, const double* a, const double* b, double t, std::size_t width, double* out) {
    if (target != Target::Rotation) {
        for (std::size_t k = 0; k < width; ++k) out[k] = a[k] + (b[k] - a[k]) * t;
        return;
    }
    const glm::dquat turn =
        glm::slerp(glm::dquat(a[3], a[0], a[1], a[2]), glm::dquat(b[3], b[0], b[1], b[2]), t);
    out[0] = turn.x, out[1] = turn.y, out[2] = turn.z, out[3] = turn.w;
}

} // namespace

std::size_t widthOf(const Channel& channel) {
    const std::size_t keys = channel.times.size(), perKey = channel.curve == Curve::CubicSpline ? 3 : 1;
    return keys == 0 ? 0 : channel.values.size() / (keys * perKey);
}

Channel cut(const Channel& channel, double from, double to) {
    const std::size_t width = widthOf(channel), keys = channel.times.size();
    if (width == 0 || !(to >= from)) return channel;
    Channel out{.node = channel.node, .target = channel.target, .curve = channel.curve};
    const bool spline = channel.curve == Curve::CubicSpline;
    const auto addAt = [&](double seconds) {
        out.times.push_back(float(seconds - from));
        const std::size_t next = std::size_t(
            std::ranges::upper_bound(channel.times, seconds, std::less<double>()) - channel.times.begin());
        if (!spline) {
            for (const double v : valueAt(channel, seconds)) out.values.push_back(float(v));
            return;
        }
        std::vector<float> value(width), slope(width, 0.0f);
        if (next == 0 || next == keys)
            for (std::size_t k = 0; k < width; ++k)
                value[k] = channel.values[(3 * (next == 0 ? 0 : keys - 1) + 1) * width + k];
        else
            splineAt(channel, next - 1, width, seconds, value.data(), slope.data());
        out.values.insert(out.values.end(), slope.begin(), slope.end());
        out.values.insert(out.values.end(), value.begin(), value.end());
        out.values.insert(out.values.end(), slope.begin(), slope.end());
    };
    const auto first = std::size_t(std::ranges::lower_bound(channel.times, from, std::less<double>()) -
                                   channel.times.begin());
    const auto last =
        std::size_t(std::ranges::upper_bound(channel.times, to, std::less<double>()) - channel.times.begin());
    if (first == keys || double(channel.times[first]) > from) addAt(from);
    for (std::size_t key = first; key < last; ++key) {
        out.times.push_back(float(channel.times[key] - from));
        const std::size_t numbers = width * (spline ? 3 : 1);
        out.values.insert(out.values.end(), channel.values.begin() + std::ptrdiff_t(key * numbers),
                          channel.values.begin() + std::ptrdiff_t((key + 1) * numbers));
    }
    // What is held before the first key and behind the last is level, whatever the slopes there were.
    const std::size_t copied = last > first ? last - first : 0;
    if (spline && copied > 0) {
        const std::size_t own = out.times.size() - copied;
        if (first == 0) std::fill_n(out.values.begin() + std::ptrdiff_t(3 * own * width), width, 0.0f);
        if (last == keys) std::fill_n(out.values.end() - std::ptrdiff_t(width), width, 0.0f);
    }
    if (to > from && (last == 0 || double(channel.times[last - 1]) < to)) addAt(to);
    return out;
}

Channel sampled(const Channel& channel, const std::vector<double>& times) {
    Channel out{.node = channel.node, .target = channel.target, .curve = Curve::Linear};
    for (const double seconds : times) {
        const auto value = valueAt(channel, seconds);
        if (value.empty()) return channel;
        out.times.push_back(float(seconds));
        for (const double v : value) out.values.push_back(float(v));
    }
    return out;
}

Channel straightened(const Channel& channel, double perSecond) {
    if (channel.curve == Curve::Linear) return channel;
    constexpr int most = 1000000;
    const double last = channel.times.back();
    std::vector<double> times;
    for (int t = 0; t < most && t / perSecond < last; ++t) times.push_back(t / perSecond);
    times.push_back(last);
    return sampled(channel, times);
}

double distanceBetween(Target target, const double* a, const double* b, std::size_t width) {
    if (target == Target::Rotation) {
        // By the half-angle's sine and cosine: exact for small turns, where an arc cosine is not.
        double less = 0, more = 0;
        for (std::size_t k = 0; k < 4; ++k)
            less += (a[k] - b[k]) * (a[k] - b[k]), more += (a[k] + b[k]) * (a[k] + b[k]);
        if (less > more) std::swap(less, more);
        return 4 * std::atan2(std::sqrt(less), std::sqrt(more));
    }
    double sum = 0, most = 0;
    for (std::size_t k = 0; k < width; ++k)
        sum += (a[k] - b[k]) * (a[k] - b[k]), most = std::max(most, std::abs(a[k] - b[k]));
    return target == Target::Translation ? std::sqrt(sum) : most;
}

Channel thinned(const Channel& channel, double tolerance, double* off) {
    const std::size_t width = widthOf(channel), keys = channel.times.size();
    if (channel.curve != Curve::Linear || width == 0 || keys < 2) return channel;
    std::vector<double> values(channel.values.begin(), channel.values.end());
    if (channel.target == Target::Rotation)
        for (std::size_t key = 0; key < keys; ++key) {
            double* q = &values[4 * key];
            const double length = std::sqrt(q[0] * q[0] + q[1] * q[1] + q[2] * q[2] + q[3] * q[3]);
            for (int k = 0; k < 4 && length > 0; ++k) q[k] /= length;
        }
    const auto at = [&](std::size_t key) { return &values[key * width]; };
    double farthest = 0;
    std::vector<double> on(width);
    /// How far the straight line from one key to another passes beside those between; stops above
    /// `tolerance`.
    const auto missBetween = [&](std::size_t a, std::size_t b) {
        double miss = 0;
        const double span = double(channel.times[b]) - channel.times[a];
        for (std::size_t key = a + 1; key < b && miss <= tolerance; ++key) {
            const double t = span > 0 ? (double(channel.times[key]) - channel.times[a]) / span : 0;
            between(channel.target, at(a), at(b), t, width, on.data());
            miss = std::max(miss, distanceBetween(channel.target, on.data(), at(key), width));
        }
        return miss;
    };
    std::vector<std::size_t> kept{0};
    for (std::size_t a = 0; a + 1 < keys;) {
        // Twice as far as long as that goes, then halving between: not every length is tried.
        std::size_t good = a + 1, bad = keys;
        double missOfGood = 0;
        for (std::size_t step = 2; a + step < keys; step *= 2) {
            const double miss = missBetween(a, a + step);
            if (miss > tolerance) {
                bad = a + step;
                break;
            }
            good = a + step, missOfGood = miss;
        }
        while (bad - good > 1) {
            const std::size_t middle = good + (bad - good) / 2;
            const double miss = missBetween(a, middle);
            (miss <= tolerance ? good : bad) = middle;
            if (miss <= tolerance) missOfGood = miss;
        }
        farthest = std::max(farthest, missOfGood);
        kept.push_back(a = good);
    }
    const auto same = [&](std::size_t key) {
        return distanceBetween(channel.target, at(0), at(key), width) == 0;
    };
    if (kept.size() == 2 && same(keys - 1)) kept.pop_back();
    if (off) *off = std::max(*off, farthest);
    Channel out{.node = channel.node, .target = channel.target, .curve = Curve::Linear};
    for (const std::size_t key : kept) {
        out.times.push_back(channel.times[key]);
        out.values.insert(out.values.end(), channel.values.begin() + std::ptrdiff_t(key * width),
                          channel.values.begin() + std::ptrdiff_t((key + 1) * width));
    }
    return out;
}

} // namespace zl::motion
