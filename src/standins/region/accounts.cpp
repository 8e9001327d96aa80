#include "standins/region/accounts.h"

#include "core/base/error.h"

#include <fmt/format.h>
#include <sodium.h>

namespace zl::standins::region {

namespace {

constexpr int patience = 5;
constexpr int waitAfter = 20; ///< seconds

/// What the demo's people log in with (docs/formats/region.md says so, too).
constexpr std::pair<const char*, const char*> people[] = {
    {"mira", "lantern-on-the-quay"}, {"odd", "fennel-and-rope"}, {"tamsin", "reed-in-the-wind"}};

} // namespace

Accounts::Accounts() {
    if (sodium_init() < 0) throw Error("the library for hashes cannot start");
    for (const auto& [name, password] : people) {
        char hash[crypto_pwhash_STRBYTES];
        if (crypto_pwhash_str(hash, password, std::char_traits<char>::length(password),
                              crypto_pwhash_OPSLIMIT_MIN, crypto_pwhash_MEMLIMIT_MIN) != 0)
            throw Error("there is no memory for hashes");
        hashes_[name] = hash;
    }
}

std::optional<std::string> Accounts::logIn(const std::string& name, const std::string& password,
                                           int& waitSeconds) {
    const std::lock_guard lock(mutex_);
    waitSeconds = 0;
    const auto known = hashes_.find(name);
    if (known == hashes_.end()) return std::nullopt;
    Wrong& wrong = wrong_[name];
    const auto since = std::chrono::duration_cast<std::chrono::seconds>(Clock::now() - wrong.last).count();
    if (wrong.times >= patience && since < waitAfter) {
        waitSeconds = int(waitAfter - since);
        return std::nullopt;
    }
    if (crypto_pwhash_str_verify(known->second.c_str(), password.data(), password.size()) != 0) {
        ++wrong.times, wrong.last = Clock::now();
        return std::nullopt;
    }
    wrong = {};
    unsigned char bytes[24];
    randombytes_buf(bytes, sizeof bytes);
    std::string token;
    for (const unsigned char byte : bytes) token += fmt::format("{:02x}", byte);
    tokens_[token] = name;
    return token;
}

std::optional<std::string> Accounts::nameOf(const std::string& token) const {
    const std::lock_guard lock(mutex_);
    const auto found = tokens_.find(token);
    return found == tokens_.end() ? std::nullopt : std::optional(found->second);
}

} // namespace zl::standins::region
