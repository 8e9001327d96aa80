#pragma once
#include <filesystem>
#include <memory>
#include <string_view>
#include <utility>

namespace zl {

/// A whole file in memory. What lies on the disk is read and not mapped: another program may cut a file short
/// at any moment, and a mapping ends this one then.
class FileBytes {
public:
    /// Throws Error when the path is missing, is no plain file, cannot be read, or is being written by
    /// another program meanwhile (it is read again a few times first).
    explicit FileBytes(const std::filesystem::path& path);
    /// Bytes that come from elsewhere, such as out of an archive.
    FileBytes(std::unique_ptr<char[]> bytes, std::size_t size) : bytes_(std::move(bytes)), size_(size) {}

    std::string_view text() const { return {bytes_.get(), size_}; }
    std::size_t size() const { return size_; }

private:
    bool readOnce(int descriptor, const std::filesystem::path& path);

    std::unique_ptr<char[]> bytes_;
    std::size_t size_ = 0;
};

} // namespace zl
