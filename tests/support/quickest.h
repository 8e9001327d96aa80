#pragma once
#include "core/base/clock.h"

#include <algorithm>
#include <ctime>

/// What a piece of work takes, in seconds: by the clock or by all processors' work for this program,
/// whichever is less. What else runs on a machine counts in the first alone, a second thread in the second
/// alone, so that a busy machine does not make work look longer, nor does the use of more than one core.
class WorkWatch {
public:
    double seconds() const { return std::min(clock_.seconds(), worked() - before_); }

private:
    static double worked() {
        timespec now{};
        clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &now);
        return double(now.tv_sec) + double(now.tv_nsec) / 1e9;
    }
    zl::Stopwatch clock_;
    double before_ = worked();
};

/// Seconds of the quickest of three runs: what the work takes where nothing else runs beside it.
template <class Work>
double quickestOfThree(const Work& work) {
    double best = 1e9;
    for (int i = 0; i < 3; ++i) {
        const WorkWatch watch;
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
