#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include "catch/runner.h"

int runTests(int argc, char** argv) {
    return Catch::Session().run(argc, argv);
}
