#pragma once
#include <filesystem>
#include <string_view>

namespace zl {

/// A folder among the computer's temporary ones, which goes with all that is in it when this does.
class PassingFolder {
public:
    /// `kind` is a part of its name. Its path is empty where none can be made.
    explicit PassingFolder(std::string_view kind);
    ~PassingFolder();
    PassingFolder(const PassingFolder&) = delete;
    PassingFolder& operator=(const PassingFolder&) = delete;

    const std::filesystem::path& path() const { return path_; }

private:
    std::filesystem::path path_;
};

} // namespace zl
