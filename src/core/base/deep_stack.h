#pragma once
#include <functional>

namespace zl {

/// Runs `work` on a thread with a stack of a gigabyte (of address space; only what is used is taken) and waits
/// for it. For libraries that call themselves once for every level of a file's tree: a file with ten thousand
/// levels would end the program otherwise. Exceptions come through. Throws Error when no such thread is to be had.
void onDeepStack(const std::function<void()>& work);

} // namespace zl
