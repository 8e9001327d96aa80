#pragma once
#include "standins/tunnel/compiler.h"

namespace zl::standins::tunnel {

// What the compiler's process hands over, as bytes.

std::string toParcel(const Compiled& compiled);
/// Throws std::runtime_error for bytes that are no parcel.
Compiled fromParcel(const std::string& bytes);

} // namespace zl::standins::tunnel
