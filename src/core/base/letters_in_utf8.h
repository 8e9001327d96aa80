#pragma once
#include <locale.h>

namespace zl {

/// While it lives, this thread's letters are UTF-8: libarchive turns names into those of the locale, and the
/// program's own may be plain ASCII. Numbers stay as they are.
class LettersInUtf8 {
public:
    LettersInUtf8() : before_(utf8() ? uselocale(utf8()) : locale_t{}) {}
    ~LettersInUtf8() {
        if (before_) uselocale(before_);
    }
    LettersInUtf8(const LettersInUtf8&) = delete;
    LettersInUtf8& operator=(const LettersInUtf8&) = delete;

private:
    static locale_t utf8() {
        static const locale_t letters = newlocale(LC_CTYPE_MASK, "C.UTF-8", locale_t{});
        return letters;
    }
    locale_t before_;
};

} // namespace zl
