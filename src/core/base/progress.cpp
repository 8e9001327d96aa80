#include "core/base/progress.h"

#include "core/base/error.h"

namespace zl {

void Progress::report(double fraction, std::string_view what) const {
    checkCancel();
    if (listener_) listener_(from_ + (to_ - from_) * fraction, what.empty() ? std::string_view(what_) : what);
}

void Progress::checkCancel() const {
    if (isCancelled()) throw Cancelled();
}

Progress Progress::between(double from, double to, std::string what) const {
    Progress result = *this;
    result.from_ = from_ + (to_ - from_) * from;
    result.to_ = from_ + (to_ - from_) * to;
    if (!what.empty()) result.what_ = std::move(what);
    return result;
}

} // namespace zl
