#pragma once
#include <cstddef>
#include <functional>

namespace zl {

/// Of address space; only what is used is taken.
constexpr std::size_t deepStackBytes = std::size_t(1) << 30;

/// Runs `work` on a thread with a stack of `deepStackBytes` and waits for it. For libraries that call
/// themselves once for every level of a file's tree: a file with ten thousand levels would end the program
/// otherwise. Exceptions come through. Throws Error when no such thread is to be had.
void onDeepStack(const std::function<void()>& work);

} // namespace zl
