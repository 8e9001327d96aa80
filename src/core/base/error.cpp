#include "core/base/error.h"

#include <new>

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

std::string wordsOf(const std::exception& problem) {
    if (const auto* error = dynamic_cast<const Error*>(&problem)) return error->whole();
    if (dynamic_cast<const std::bad_alloc*>(&problem)) return "There is not enough memory for this model.";
    return std::string("Something unforeseen went wrong (") + problem.what() + ").";
}

} // namespace zl
