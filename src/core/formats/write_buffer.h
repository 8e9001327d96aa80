#pragma once
#include <charconv>
#include <cstring>
#include <string>

namespace zl::formats {

/// Appends numbers and bytes to a text, quickly: shortest digits that read back as the same float.
class WriteBuffer {
public:
    WriteBuffer& text(std::string_view s) {
        out_.append(s);
        return *this;
    }
    template <class T>
    WriteBuffer& number(T value) {
        char digits[32];
        const auto [end, error] = std::to_chars(digits, digits + sizeof digits, value);
        out_.append(digits, end);
        return *this;
    }
    template <class T>
    WriteBuffer& bytes(const T& value) {
        out_.append(reinterpret_cast<const char*>(&value), sizeof value);
        return *this;
    }
    std::string take() { return std::move(out_); }
    void reserve(std::size_t size) { out_.reserve(size); }

private:
    std::string out_;
};

} // namespace zl::formats
