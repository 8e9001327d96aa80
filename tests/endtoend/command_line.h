#pragma once
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <cstdio>
#include <filesystem>
#include <string>
#include <sys/wait.h>

/// What a command did: its exit code and its standard output.
struct Ran {
    int code = -1;
    std::string out;
    nlohmann::json json() const { return nlohmann::json::parse(out); }
};

inline Ran run(const std::string& command) {
    Ran ran;
    FILE* pipe = ::popen((command + " 2>/dev/null").c_str(), "r");
    REQUIRE(pipe);
    char buffer[4096];
    while (const std::size_t count = std::fread(buffer, 1, sizeof buffer, pipe))
        ran.out.append(buffer, count);
    const int status = ::pclose(pipe);
    ran.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return ran;
}

inline std::string quoted(const std::filesystem::path& path) {
    return "'" + path.string() + "'";
}
inline Ran cli(const std::string& arguments) {
    return run(std::string(ZEST_LOOM_CLI) + " " + arguments);
}

/// The demo project, made once for all tests of the program.
inline const TemporaryFolder& demo() {
    static const TemporaryFolder folder;
    static const bool made = run(std::string(ZEST_LOOM_DEMO_DATA) + " " + quoted(folder.path())).code == 0;
    REQUIRE(made);
    return folder;
}
