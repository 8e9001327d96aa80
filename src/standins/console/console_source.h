#pragma once
#include <string_view>

namespace zl::standins::console {

/// The text of console.c, which is compiled anew with each piece.
std::string_view consoleSource();

} // namespace zl::standins::console
