#pragma once
#include <chrono>
#include <map>
#include <mutex>
#include <optional>
#include <string>

namespace zl::standins::region {

/// The people of the demo and who of them is logged in. Passwords are kept as salted hashes (Argon2) only.
/// May be asked by several threads.
class Accounts {
public:
    Accounts();

    /// A new token, or nothing for a wrong name or password. After several wrong ones a name has to wait:
    /// `waitSeconds` says how long.
    std::optional<std::string> logIn(const std::string& name, const std::string& password, int& waitSeconds);
    /// Who has the token; nothing for one that is not known.
    std::optional<std::string> nameOf(const std::string& token) const;

private:
    using Clock = std::chrono::steady_clock;
    struct Wrong {
        int times = 0;
        Clock::time_point last;
    };
    mutable std::mutex mutex_;
    std::map<std::string, std::string> hashes_; ///< by name
    std::map<std::string, std::string> tokens_; ///< whose each is
    std::map<std::string, Wrong> wrong_;
};

} // namespace zl::standins::region
