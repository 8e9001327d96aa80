#pragma once
#include <filesystem>
#include <functional>
#include <set>
#include <string>
#include <unordered_map>

namespace zl {

/// Gives each of many names once: a taken one gets the next number behind it. Takes about the same time for
/// each name, however many are alike.
class UniqueNames {
public:
    /// Puts `name` and a number together; the default makes "name-2".
    using Numbered = std::function<std::string(const std::string& name, int number)>;

    explicit UniqueNames(Numbered numbered = [](const std::string& name,
                                                int number) { return name + "-" + std::to_string(number); })
        : numbered_(std::move(numbered)) {}

    /// Marks a name as taken; false when it was already.
    bool take(const std::string& name) { return taken_.insert(name).second; }
    /// `name` itself, or with the lowest free number from 2 on; taken from now on.
    std::string made(const std::string& name) {
        if (take(name)) return name;
        int& number = next_.try_emplace(name, 2).first->second;
        for (;; ++number)
            if (std::string candidate = numbered_(name, number); take(candidate)) {
                ++number;
                return candidate;
            }
    }

private:
    Numbered numbered_;
    std::set<std::string> taken_;
    std::unordered_map<std::string, int> next_;
};

/// For names of files: a number stands before the ending, "rim-2.png".
inline UniqueNames uniqueFileNames() {
    return UniqueNames([](const std::string& name, int number) {
        const std::filesystem::path path(name);
        return path.stem().string() + "-" + std::to_string(number) + path.extension().string();
    });
}

} // namespace zl
