#pragma once
#include "core/base/clock.h"

#include <algorithm>

/// Seconds of the quickest of three runs: what the work takes where nothing else runs beside it.
template <class Work>
double quickestOfThree(const Work& work) {
    double best = 1e9;
    for (int i = 0; i < 3; ++i) {
        const zl::Stopwatch watch;
        work();
        best = std::min(best, watch.seconds());
    }
    return best;
}

/// What a piece of work may take; the sanitizers multiply all work.
constexpr double secondsAllowed(double seconds) {
#ifdef ZEST_LOOM_SANITIZED
    return 4 * seconds;
#else
    return seconds;
#endif
}
