#pragma once
#include <atomic>
#include <functional>
#include <string>
#include <string_view>

namespace zl {

/// Where long work says how far it is, and learns that it should stop. Cheap to copy; a default one
/// listens to nobody and is never cancelled. The listener may be called from any thread.
class Progress {
public:
    using Listener = std::function<void(double fraction, std::string_view what)>;

    Progress() = default;
    /// `cancel` may be null; it must outlive the work.
    Progress(Listener listener, const std::atomic<bool>* cancel)
        : listener_(std::move(listener)), cancel_(cancel) {}

    /// Reports `fraction` (0–1 of this stretch) and throws Cancelled when the user asked to stop.
    void report(double fraction, std::string_view what = {}) const;
    /// Throws Cancelled when the user asked to stop.
    void checkCancel() const;
    bool isCancelled() const { return cancel_ && cancel_->load(std::memory_order_relaxed); }
    /// A Progress whose 0–1 is from–to of this one. `what` is shown when the stretch itself names nothing.
    Progress between(double from, double to, std::string what = {}) const;
    /// One that says nothing but learns that it should stop: for work that goes on beside other work.
    Progress silent() const { return {nullptr, cancel_}; }

private:
    Listener listener_;
    const std::atomic<bool>* cancel_ = nullptr;
    double from_ = 0.0;
    double to_ = 1.0;
    std::string what_;
};

} // namespace zl
