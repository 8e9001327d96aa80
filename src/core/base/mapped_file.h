#pragma once
#include <filesystem>
#include <string_view>

namespace zl {

/// A file mapped into memory for reading. An empty file maps to an empty text.
class MappedFile {
public:
    /// Throws Error when the path is missing, is a folder, or cannot be read.
    explicit MappedFile(const std::filesystem::path& path);
    ~MappedFile();
    MappedFile(const MappedFile&) = delete;
    MappedFile& operator=(const MappedFile&) = delete;

    std::string_view text() const { return {data_, size_}; }
    std::size_t size() const { return size_; }

private:
    const char* data_ = nullptr;
    std::size_t size_ = 0;
};

} // namespace zl
