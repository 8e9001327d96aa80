#include "core/base/deep_stack.h"

#include "core/base/error.h"

#include <exception>
#include <pthread.h>

namespace zl {

namespace {

struct Call {
    const std::function<void()>* work;
    std::exception_ptr problem;
};

void* run(void* argument) {
    auto* call = static_cast<Call*>(argument);
    try {
        (*call->work)();
    } catch (...) {
        call->problem = std::current_exception();
    }
    return nullptr;
}

} // namespace

void onDeepStack(const std::function<void()>& work) {
    Call call{&work, nullptr};
    pthread_attr_t attributes;
    pthread_attr_init(&attributes);
    pthread_t thread{};
    const bool started = pthread_attr_setstacksize(&attributes, deepStackBytes) == 0 &&
                         pthread_create(&thread, &attributes, run, &call) == 0;
    pthread_attr_destroy(&attributes);
    if (!started) throw Error("there is no memory for a deep stack", {}, "Close other programs.");
    pthread_join(thread, nullptr);
    if (call.problem) std::rethrow_exception(call.problem);
}

} // namespace zl
