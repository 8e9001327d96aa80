#pragma once
#include "core/model/model.h"

namespace zl::motion {

/// How many numbers one value of a channel has: 3 for a place or a scale, 4 for a turn, one for each morph
/// target for weights; 0 where the channel holds no whole key.
std::size_t widthOf(const Channel& channel);

/// What a channel does between two moments, which become 0 and `to - from`. Exact for every curve: a piece of
/// a spline is a spline. What lies before the first key or behind the last is held as the clip holds it.
Channel cut(const Channel& channel, double from, double to);

/// A channel's values at these moments (seconds, in order), with straight lines between them.
Channel sampled(const Channel& channel, const std::vector<double>& times);

/// A channel as straight lines between keys: as it is where it is that already, else its values `perSecond`
/// times a second from 0 to its last key, at most a million times. It has a key.
Channel straightened(const Channel& channel, double perSecond = 60);

/// How far a straight line may pass beside keys that are left out.
struct KeyTolerance {
    double place = 0.0003; ///< in the channel's own unit
    double turn = 0.0035;  ///< radians
    double other = 0.0005; ///< of scales and weights
    double forTarget(Channel::Target target) const {
        return target == Channel::Target::Translation ? place
               : target == Channel::Target::Rotation  ? turn
                                                      : other;
    }
};

/// How far apart two values of a channel are: metres or whatever it counts in, radians for a turn.
double distanceBetween(Channel::Target target, const double* a, const double* b, std::size_t width);

/// A channel of straight lines with every key left out that its neighbours tell to within `tolerance`; the
/// first and the last stay. A channel of one value all through keeps one key. Others are returned as they
/// are. Takes about the number of keys times its logarithm. Farthest miss goes into `off`, when given.
Channel thinned(const Channel& channel, double tolerance, double* off = nullptr);

} // namespace zl::motion
