#include "core/base/error.h"

namespace zl {

Error::Error(const std::string& what, std::string where, std::string mend)
    : std::runtime_error(what), where_(std::move(where)), mend_(std::move(mend)) {}

std::string Error::sentence() const {
    return (where_.empty() ? "" : where_ + " ") + what() + (mend_.empty() ? "" : ". " + mend_);
}

std::string Error::whole() const {
    std::string text = where_.empty() ? "" : where_ + ": ";
    text += what();
    if (!mend_.empty()) {
        if (!text.empty() && text.back() != '.') text += '.';
        text += ' ' + mend_;
    }
    return text;
}

} // namespace zl
