// The torture: rough models through everything. Prints a seed that fails and goes on, so that one run finds
// many.
//   zest-loom-torture [--iterations N | --seconds S] [--seed S] [--keep FOLDER]
#include "rounds.h"

#include "core/base/clock.h"
#include "core/base/plain_number.h"
#include "support/temporary_folder.h"

#include <fmt/format.h>

#include <csignal>
#include <iostream>
#include <map>
#include <unistd.h>

namespace {

std::uint64_t current = 0;

/// A round that takes this long hangs. The largest write and read 200 MB of text, slowly under the
/// sanitizers; convex pieces of a rough body take half a minute on two cores.
#ifdef ZEST_LOOM_SANITIZED
constexpr unsigned longestSeconds = 300;
#else
constexpr unsigned longestSeconds = 90;
#endif

extern "C" void tellAndEnd(int signal) {
    char text[100];
    const auto end = fmt::format_to_n(text, sizeof text, "\nseed {} ends with signal {}\n", current, signal);
    [[maybe_unused]] const auto written = ::write(STDERR_FILENO, text, end.size);
    ::_exit(1);
}

} // namespace

int main(int argc, char** argv) {
    std::uint64_t iterations = ~0ull, seed = 1;
    double seconds = 1e9;
    std::string keep;
    for (int i = 1; i + 1 < argc; i += 2) {
        const std::string_view name = argv[i], value = argv[i + 1];
        if (name == "--iterations") iterations = zl::onlyNumber<std::uint64_t>(value).value_or(0);
        if (name == "--seconds") seconds = zl::onlyNumber<double>(value).value_or(0);
        if (name == "--keep") keep = value;
        if (name == "--seed") seed = zl::onlyNumber<std::uint64_t>(value).value_or(0);
    }
    if (argc < 3) seconds = 20;
    for (const int signal : {SIGSEGV, SIGABRT, SIGFPE, SIGBUS, SIGALRM}) std::signal(signal, tellAndEnd);
    const zl::Stopwatch watch;
    std::uint64_t done = 0;
    std::map<std::string, std::pair<std::uint64_t, std::size_t>>
        failures; // first seed and count by what failed
    for (; done < iterations && watch.seconds() < seconds; ++done) {
        current = seed + done;
        ::alarm(longestSeconds);
        TemporaryFolder folder;
        // For looking into one seed: what it writes stays.
        const std::filesystem::path kept = keep.empty() ? folder.path() : std::filesystem::path(keep);
        try {
            torture::tortureRound(current, kept);
        } catch (const torture::Failure& failure) {
            const std::string what = failure.what();
            auto& known = failures
                              .try_emplace(what.substr(0, what.find('{')) +
                                               what.substr(std::min(what.size(), what.rfind(": "))),
                                           current, 0)
                              .first->second;
            if (known.second++ == 0) std::cout << fmt::format("seed {}: {}", current, what) << std::endl;
        }
    }
    ::alarm(0);
    std::size_t failed = 0;
    for (const auto& [what, known] : failures) failed += known.second;
    std::cout << fmt::format("{} rounds from seed {} in {:.1f} s, {} failed\n", done, seed, watch.seconds(),
                             failed);
    return failed == 0 ? 0 : 1;
}
