#pragma once
#include "core/base/clock.h"

#include <benchmark/benchmark.h>
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <functional>
#include <vector>

#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace bench {

struct Cost {
    double seconds = 0;
    double megabytes = 0;
};

/// Runs `work` in a child process and returns its wall time and peak resident memory.
inline Cost costOf(const std::function<void()>& work) {
    int channel[2];
    if (::pipe(channel) != 0) return {};
    const pid_t child = ::fork();
    if (child == 0) {
        const zl::Stopwatch watch;
        work();
        const double seconds = watch.seconds();
        const bool sent = ::write(channel[1], &seconds, sizeof seconds) == sizeof seconds;
        ::_exit(sent ? 0 : 1);
    }
    ::close(channel[1]);
    Cost cost;
    if (::read(channel[0], &cost.seconds, sizeof cost.seconds) != sizeof cost.seconds) cost.seconds = -1;
    ::close(channel[0]);
    struct rusage usage {};
    int status = 0;
    ::wait4(child, &status, 0, &usage);
    cost.megabytes = double(usage.ru_maxrss) / 1024;
    return cost;
}

/// The middle of three, so that one disturbed run does not count.
inline Cost middleOfThree(const std::function<void()>& work) {
    std::vector<Cost> costs{costOf(work), costOf(work), costOf(work)};
    std::ranges::sort(costs, {}, &Cost::seconds);
    return costs[1];
}

/// Wall time of the middle of three runs in this process: a child would have none of the thread pool's
/// threads once this one has used it.
inline double middleSeconds(const std::function<void()>& work) {
    std::vector<double> times;
    for (int i = 0; i < 3; ++i) {
        const zl::Stopwatch watch;
        work();
        times.push_back(watch.seconds());
    }
    std::ranges::sort(times);
    return times[1];
}

/// A line of the table with both sides' times and their ratio; `how` says what the ratio means.
inline void timeRow(const char* work, double ours, const char* peerName, double peer, const char* wanted) {
    fmt::print("| {} | {:.3f} s | {:.3f} s ({}) | {:.2f}× its time | {} |\n", work, ours, peer, peerName,
               ours / peer, wanted);
    std::fflush(stdout);
}

/// Rows about what steps do to meshes, on the 0.8-million-triangle STL.
void shapingRows(const std::filesystem::path& stl);
/// Rows about pictures.
void texturingRows();
void motionRows();
/// Rows about a game's world; it is written into the folder.
void worldRows(const std::filesystem::path& folder);
/// A table about convex pieces, on that STL and on the shapes in a folder.
void contactRows(const std::filesystem::path& stl, const std::filesystem::path& shapes);
/// Rows about builds of blocks, on that STL.
void blockRows(const std::filesystem::path& stl);
/// Rows about light baked into the demo's pergola.
void lightRows();
/// The whole way of that STL to the table's files, by the command line.
void wholeWayRow(const std::filesystem::path& stl, const std::filesystem::path& program);

} // namespace bench
