#pragma once
#include <string_view>

namespace zl {

/// The program's version: "0.2.0", or "0.2.0+97.g1a2b3c4" for sources between two releases.
std::string_view programVersion();

/// Where faults are reported.
inline constexpr std::string_view faultAddress = "faults@zest-loom.example";

} // namespace zl
