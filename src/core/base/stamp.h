#pragma once
#include <filesystem>
#include <functional>
#include <map>
#include <optional>
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
    /// What speaks for a file in place of the disk; nothing where the disk does.
    using Held = std::function<std::optional<std::string>(const std::filesystem::path&)>;
    explicit Stamps(Held held = {}) : held_(std::move(held)) {}

    const std::string& of(const std::filesystem::path& file);
    /// One text for all of them, in order.
    std::string of(const std::vector<std::filesystem::path>& files);

private:
    Held held_;
    std::map<std::filesystem::path, std::string> known_;
};

/// The plain file in `folder` whose name is `name`'s but for upper and lower case; empty when there is none.
std::filesystem::path withoutRegardToCase(const std::filesystem::path& folder,
                                          const std::filesystem::path& name);

} // namespace zl
