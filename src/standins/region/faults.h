#pragma once
#include <mutex>
#include <random>
#include <string>

namespace zl::standins::region {

/// What goes wrong on purpose, so that clients can be tried: shares of requests, and a wait.
struct FaultShares {
    double busy = 0; ///< refused with "busy, come again"
    double drop = 0; ///< the connection breaks before anything is done
    double lose = 0; ///< it is done, and the answer does not arrive
    int slowMillis = 0;
    unsigned seed = 1;
};

/// "busy=0.1,drop=0.2,lose=0.1,slow=30,seed=7". Throws Error naming what is none of them.
FaultShares faultsFrom(const std::string& words);

/// Decides for one request after the other. May be asked by several threads.
class Faults {
public:
    explicit Faults(const FaultShares& shares) : shares_(shares), random_(shares.seed) {}
    enum class Now { None, Busy, Drop, Lose };
    Now next();
    int slowMillis() const { return shares_.slowMillis; }

private:
    FaultShares shares_;
    std::mutex mutex_;
    std::mt19937 random_;
};

} // namespace zl::standins::region
