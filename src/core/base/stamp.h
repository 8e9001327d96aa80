#pragma once
#include <filesystem>
#include <map>
#include <string>
#include <vector>

namespace zl {

/// Time, size and number of a file as text: what it is compared by to see that it changed (clocks are too
/// coarse for two quick writes of one length). A missing file has a stamp of its own ("missing"), so that its
/// coming is a change too.
std::string stampOf(const std::filesystem::path& file);

/// Stamps that are asked of the disk once each, for work that needs many of the same.
class Stamps {
public:
    const std::string& of(const std::filesystem::path& file);
    /// One text for all of them, in order.
    std::string of(const std::vector<std::filesystem::path>& files);

private:
    std::map<std::filesystem::path, std::string> known_;
};

/// The file in `folder` that `name` means: as written, with '/' for '\', by its bare name, then the same
/// without regard to case. Empty when there is none; `tried`, when given, receives the path that was looked
/// for first.
std::filesystem::path findBeside(const std::filesystem::path& folder, std::string_view name,
                                 std::filesystem::path* tried = nullptr);

} // namespace zl
