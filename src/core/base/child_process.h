#pragma once
#include "core/base/progress.h"

#include <cstddef>
#include <functional>
#include <string>

namespace zl {

/// Runs `work` in a process of its own and returns the bytes it makes: for libraries that a hostile file can
/// bring to crash or never to end. The child begins as a copy of this process and does nothing else; what it
/// reports is passed on, an Error thrown in it is thrown here, and it is killed when the user cancels.
/// It may take `memory` bytes on top of what it begins with; std::bad_alloc is thrown in it beyond.
/// Throws Error about `where` when it ends badly. `work` must not rely on threads that run here already.
std::string inChildProcess(const std::function<std::string(const Progress&)>& work, std::size_t memory,
                           const Progress& progress, const std::string& where);

} // namespace zl
