#pragma once
#include <exception>
#include <stdexcept>
#include <string>

namespace zl {

/// Something the world did wrong: an unreadable file, a full disk, a value out of range.
/// Says what failed, where, and what the reader can do about it. Caught at the edge of a job only.
class Error : public std::runtime_error {
public:
    explicit Error(const std::string& what, std::string where = {}, std::string mend = {});

    const std::string& where() const { return where_; }
    const std::string& mend() const { return mend_; }
    /// All three parts as one text: "where: what. mend".
    std::string whole() const;
    /// The same as sentences, for a list of warnings: "where what. mend".
    std::string sentence() const;

private:
    std::string where_;
    std::string mend_;
};

/// The input was understood but the work is refused: it does not fit, or it cannot be written there.
class Refused : public Error {
public:
    using Error::Error;
};

/// The user asked to stop. Not an Error: nothing is to be shown.
class Cancelled : public std::exception {
public:
    const char* what() const noexcept override { return "cancelled"; }
};

/// Any exception in words for people: an Error whole, want of memory by name, others as something unforeseen.
std::string wordsOf(const std::exception& problem);

} // namespace zl
