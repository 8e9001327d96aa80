#pragma once

/// Runs the tests that the command line selects and returns the exit code. Catch's own code is behind it, so
/// that it is compiled once for all test programs.
int runTests(int argc, char** argv);
