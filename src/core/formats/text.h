#pragma once
#include "core/base/file_bytes.h"
#include "core/formats/number.h"

#include <optional>
#include <string>
#include <string_view>

namespace zl::formats {

/// The text of a file as UTF-8: a UTF-8 mark at its start is skipped, UTF-16 (by its mark) is
/// converted into `storage`. Other bytes are passed through.
std::string_view textOf(const FileBytes& file, std::string& storage);

/// Reads words and numbers off a text; never leaves it.
class Scanner {
public:
    explicit Scanner(std::string_view text) : at_(text.data()), end_(text.data() + text.size()) {}

    bool atEnd() const { return at_ >= end_; }
    const char* position() const { return at_; }

    /// Skips blanks, and line ends that a backslash continues.
    void skipBlanks() {
        while (at_ < end_) {
            const char c = *at_;
            if (c > ' ' && c != '\\') return; // the usual case, told by two comparisons
            if (c == ' ' || c == '\t' || c == '\r')
                ++at_;
            else if (c == '\\' && at_ + 1 < end_ && (at_[1] == '\n' || at_[1] == '\r'))
                at_ += at_[1] == '\r' && at_ + 2 < end_ && at_[2] == '\n' ? 3 : 2;
            else
                return;
        }
    }
    void skipSpace() {
        while (at_ < end_ && static_cast<unsigned char>(*at_) <= ' ') ++at_;
    }
    /// To the character behind the next line end.
    void skipLine() {
        while (at_ < end_ && *at_ != '\n') ++at_;
        if (at_ < end_) ++at_;
    }
    std::string_view word() {
        const char* start = at_;
        while (at_<end_&& static_cast<unsigned char>(*at_)> ' ') ++at_;
        return {start, static_cast<std::size_t>(at_ - start)};
    }
    /// The rest of the line without blanks at either end.
    std::string_view restOfLine() {
        skipBlanks();
        const char* start = at_;
        while (at_ < end_ && *at_ != '\n') ++at_;
        const char* stop = at_;
        while (stop > start && static_cast<unsigned char>(stop[-1]) <= ' ') --stop;
        return {start, static_cast<std::size_t>(stop - start)};
    }
    /// Takes two characters when they are the next.
    bool takeKey(const char (&key)[3]) {
        if (end_ - at_ < 2 || at_[0] != key[0] || at_[1] != key[1]) return false;
        at_ += 2;
        return true;
    }
    bool take(char c) {
        if (at_ < end_ && *at_ == c) {
            ++at_;
            return true;
        }
        return false;
    }
    /// Takes a number's digits (seven at most) when they stand here and no digit follows.
    bool takeAgain(std::string_view digits) {
        if (end_ - at_ < 8 || digits.size() > 7 || static_cast<unsigned>(at_[digits.size()]) - '0' < 10u)
            return false;
        std::uint64_t here = 0, there = 0; // `digits` stand before `at_`, so eight bytes can be read of them
        std::memcpy(&here, at_, 8);
        std::memcpy(&there, digits.data(), 8);
        if ((here ^ there) << (64 - 8 * digits.size())) return false;
        at_ += digits.size();
        return true;
    }
    char peek() const { return at_ < end_ ? *at_ : '\0'; }

    /// A number here; false, without moving, when there is none. "nan" and "inf" are numbers.
    template <class T>
    bool number(T& value) {
        const char* start = at_;
        if (start < end_ && *start == '+') ++start;
        if (start >= end_ || static_cast<unsigned char>(*start) <= ' ') return false;
        const char* after = nullptr;
        if constexpr (std::is_same_v<T, float>) after = shortFloat(start, end_, value);
        if constexpr (std::is_same_v<T, int>) after = shortInt(start, end_, value);
        if (after) {
            at_ = after;
            return true;
        }
        const auto [stop, error] = std::from_chars(start, end_, value);
        if (error == std::errc::invalid_argument) return false;
        at_ = stop;
        return true; // out of range leaves `value` as it was
    }

private:
    const char* at_;
    const char* end_;
};

} // namespace zl::formats
