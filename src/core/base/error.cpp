#include "core/base/error.h"

namespace zl {

namespace {

std::string joined(std::string text, const char* what, const std::string& mend) {
    text += what;
    if (!mend.empty()) {
        if (!text.empty() && text.back() != '.') text += '.';
        text += ' ' + mend;
    }
    return text;
}

} // namespace

Error::Error(const std::string& what, std::string where, std::string mend)
    : std::runtime_error(what), where_(std::move(where)), mend_(std::move(mend)) {}

std::string Error::sentence() const {
    return joined(where_.empty() ? "" : where_ + " ", what(), mend_);
}

std::string Error::whole() const {
    return joined(where_.empty() ? "" : where_ + ": ", what(), mend_);
}

} // namespace zl
