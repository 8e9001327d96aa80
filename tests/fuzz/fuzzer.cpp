// libFuzzer's entry: the target is named by the environment (ZEST_LOOM_FUZZ), for the command line is the
// library's. Readers that fork a process of their own for a library (COLLADA and others) are left to
// tests/core.
#include "fuzz/targets.h"

#include "core/base/error.h"

#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <string>

namespace {

const fuzz::Target* chosen() {
    const char* name = std::getenv("ZEST_LOOM_FUZZ");
    for (const fuzz::Target& target : fuzz::allTargets())
        if (name && target.name == name) return &target;
    std::fprintf(stderr, "set ZEST_LOOM_FUZZ to one of:");
    for (const fuzz::Target& target : fuzz::allTargets())
        std::fprintf(stderr, " %s", std::string(target.name).c_str());
    std::fprintf(stderr, "\n");
    std::exit(2);
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const fuzz::Target* target = chosen();
    try {
        target->run({reinterpret_cast<const char*>(data), size});
    } catch (const zl::Error&) {
        // An answer.
    }
    return 0;
}
