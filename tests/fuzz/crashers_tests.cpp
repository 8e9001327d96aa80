// Every seed, and every input that once broke something, through its target. A new crasher is put into
// crashers/TARGET/ under a name that says what it was.
#include "fuzz/targets.h"

#include "core/base/error.h"
#include "core/base/file_set.h"

#include <catch2/catch.hpp>

#include <filesystem>

TEST_CASE("what once broke a reader, and what the fuzzer starts from, is answered") {
    std::size_t tried = 0;
    for (const char* kind : {"seeds", "crashers"})
        for (const auto& folder : std::filesystem::directory_iterator(std::filesystem::path(ZEST_LOOM_ROOT) /
                                                                      "tests/fuzz" / kind)) {
            const fuzz::Target* target = nullptr;
            for (const fuzz::Target& known : fuzz::allTargets())
                if (known.name == folder.path().filename().string()) target = &known;
            INFO(folder.path());
            REQUIRE(target);
            for (const auto& file : std::filesystem::directory_iterator(folder)) {
                INFO(file.path().filename());
                const std::string bytes = zl::readText(file.path());
                try {
                    target->run(bytes);
                } catch (const zl::Error& error) {
                    CHECK_FALSE(error.whole().empty());
                }
                ++tried;
            }
        }
    CHECK(tried >= fuzz::allTargets().size());
}
