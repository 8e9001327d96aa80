#include "core/motion/travel.h"

#include "core/motion/pose.h"
#include "core/motion/posed.h"

#include <algorithm>

namespace zl::motion {

namespace {

using Target = Channel::Target;
using Curve = Channel::Curve;

const Channel* movementOf(const Clip& clip, int node) {
    const auto found = std::ranges::find_if(clip.channels, [&](const Channel& channel) {
        return channel.node == node && channel.target == Target::Translation && !channel.times.empty();
    });
    return found == clip.channels.end() ? nullptr : &*found;
}

/// Whether a clip's keys change a node's matrix at all.
bool isMoved(const Model& model, const Clip& clip, int node) {
    const auto times = poseTimes(clip, node);
    const auto first = times.empty() ? glm::dmat4(1.0) : localAt(model, clip, node, times.front());
    return std::ranges::any_of(times,
                               [&](double seconds) { return localAt(model, clip, node, seconds) != first; });
}

std::vector<double> timesOf(const Clip& clip, const std::vector<int>& chain, double perSecond) {
    std::vector<double> times;
    for (const int node : chain) {
        const auto own = poseTimes(clip, node, perSecond);
        times.insert(times.end(), own.begin(), own.end());
    }
    std::ranges::sort(times);
    times.erase(std::unique(times.begin(), times.end()), times.end());
    return times;
}

glm::dvec3 masked(const glm::bvec3& axes, const glm::dvec3& v) {
    return {axes.x ? v.x : 0, axes.y ? v.y : 0, axes.z ? v.z : 0};
}

/// The channel with a linear map of its own values taken off: for a node above which nothing moves.
Channel standingStill(Channel channel, const glm::dmat3& above, const Standing& how) {
    if (glm::determinant(above) == 0) return channel;
    const glm::dmat3 below = glm::inverse(above);
    const std::size_t perKey = channel.curve == Curve::CubicSpline ? 3 : 1, keys = channel.times.size();
    const auto at = [&](std::size_t key, std::size_t part) {
        const float* v = &channel.values[3 * (key * perKey + part)];
        return glm::dvec3(v[0], v[1], v[2]);
    };
    const std::size_t middle = perKey == 3 ? 1 : 0;
    const glm::dvec3 first = at(0, middle), last = at(keys - 1, middle);
    const double from = channel.times.front(), span = channel.times.back() - from;
    const glm::dvec3 whole = below * masked(how.axes, above * (last - first));
    for (std::size_t key = 0; key < keys; ++key)
        for (std::size_t part = 0; part < perKey; ++part) {
            const glm::dvec3 was = at(key, part);
            glm::dvec3 off(0);
            if (!how.steadyPartOnly)
                off = below * masked(how.axes, above * (part == middle ? was - first : was));
            else if (span > 0)
                off = part == middle ? whole * ((channel.times[key] - from) / span) : whole / span;
            for (int k = 0; k < 3; ++k)
                channel.values[3 * (key * perKey + part) + std::size_t(k)] = float(was[k] - off[k]);
        }
    return channel;
}

/// The same by samples, where what stands above moves too.
Channel standingSampled(const Model& model, const Clip& clip, const std::vector<int>& chain,
                        const Standing& how, double perSecond) {
    std::vector<double> times = timesOf(clip, chain, perSecond);
    const double from = times.front(), span = times.back() - from;
    const auto more = std::size_t(std::clamp(span * perSecond, 0.0, 1e6));
    for (std::size_t i = 1; i < more; ++i) times.push_back(from + span * double(i) / double(more));
    std::ranges::sort(times);
    times.erase(std::unique(times.begin(), times.end()), times.end());
    const glm::dvec3 first(worldAt(model, clip, chain, from, true)[3]),
        last(worldAt(model, clip, chain, times.back(), true)[3]);
    Channel out{.node = chain[0], .target = Target::Translation, .curve = Curve::Linear};
    for (const double seconds : times) {
        const glm::dvec3 place(worldAt(model, clip, chain, seconds, true)[3]);
        const glm::dvec3 off =
            how.steadyPartOnly ? (last - first) * (span > 0 ? (seconds - from) / span : 0) : place - first;
        const glm::dmat4 above = worldAt(model, clip, chain, seconds, false);
        glm::dvec3 local(localAt(model, clip, chain[0], seconds)[3]);
        if (glm::determinant(above) != 0)
            local = glm::dvec3(glm::inverse(above) * glm::dvec4(place - masked(how.axes, off), 1));
        out.times.push_back(float(seconds));
        for (int k = 0; k < 3; ++k) out.values.push_back(float(local[k]));
    }
    return out;
}

} // namespace

double Travel::groundDrift() const {
    const glm::dvec3 way = drift();
    return std::hypot(way.x, way.z);
}

int carrierOf(const Model& model, const Clip& clip) {
    std::vector<std::size_t> carried(model.nodes.size(), 0); // bones and rigid parts at or below
    for (const Skin& skin : model.skins)
        for (const int joint : skin.joints) carried[std::size_t(joint)] = 1;
    for (std::size_t n = model.nodes.size(); n-- > 0;) {
        const Node& node = model.nodes[n];
        if (node.mesh >= 0 && node.skin < 0) ++carried[n];
        if (node.parent >= 0) carried[std::size_t(node.parent)] += carried[n];
    }
    std::vector<char> moves(model.nodes.size(), 0);
    for (const Channel& channel : clip.channels)
        if (channel.target == Target::Translation && !channel.times.empty())
            moves[std::size_t(channel.node)] = 1;
    int carrier = -1;
    for (std::size_t n = 0; n < model.nodes.size(); ++n)
        if (moves[n] && (carrier < 0 || carried[n] > carried[std::size_t(carrier)])) carrier = int(n);
    if (carrier < 0 || carried[std::size_t(carrier)] == 0) return carrier;
    // Those that carry as much stand below one another.
    for (std::size_t n = std::size_t(carrier) + 1; n < model.nodes.size(); ++n)
        if (moves[n] && carried[n] == carried[std::size_t(carrier)]) carrier = int(n);
    return carrier;
}

Travel travelOf(const Model& model, const Clip& clip, int node) {
    Travel travel{node < 0 ? carrierOf(model, clip) : node, {}, {}};
    if (travel.node < 0) return travel;
    const auto chain = chainOf(model, travel.node);
    travel.times = timesOf(clip, chain, 30);
    for (const double seconds : travel.times)
        travel.places.emplace_back(worldAt(model, clip, chain, seconds, true)[3]);
    return travel;
}

Clip standing(const Model& model, const Clip& clip, int node, const Standing& how, double perSecond) {
    Clip out = clip;
    const auto chain = chainOf(model, node);
    const bool stillAbove =
        std::all_of(chain.begin() + 1, chain.end(), [&](int above) { return !isMoved(model, clip, above); });
    const Channel* own = movementOf(clip, node);
    if (stillAbove && !own) return out;
    const Channel made = stillAbove
                             ? standingStill(*own, glm::dmat3(worldAt(model, clip, chain, 0, false)), how)
                             : standingSampled(model, clip, chain, how, perSecond);
    std::erase_if(out.channels, [&](const Channel& channel) {
        return channel.node == node && channel.target == Target::Translation;
    });
    out.channels.push_back(made);
    return out;
}

} // namespace zl::motion
