#include "core/files/key_memory.h"

#include "core/base/data_folder.h"
#include "core/base/error.h"
#include "core/base/file_set.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <sodium.h>

#include <array>
#include <cstdlib>
#include <ctime>

namespace fs = std::filesystem;

namespace zl::files {

namespace {

constexpr std::size_t hashBytes = 32, mostKept = 500;

std::string inHex(const unsigned char* bytes, std::size_t count) {
    std::string out;
    for (std::size_t i = 0; i < count; ++i) out += fmt::format("{:02x}", bytes[i]);
    return out;
}

using Salt = std::array<unsigned char, crypto_pwhash_SALTBYTES>;

std::optional<Salt> saltFrom(const std::string& hex) {
    Salt salt{};
    std::size_t size = 0;
    if (sodium_hex2bin(salt.data(), salt.size(), hex.data(), hex.size(), nullptr, &size, nullptr) != 0 ||
        size != salt.size())
        return std::nullopt;
    return salt;
}

/// What the file says; made anew where it says nothing that can be used.
nlohmann::json read(const fs::path& file) {
    try {
        auto known = nlohmann::json::parse(readText(file, 1u << 20));
        if (saltFrom(known.at("salt").get<std::string>()) && known.at("opened").is_object()) return known;
    } catch (const std::exception&) {
    }
    Salt salt;
    if (sodium_init() < 0) throw Error("the library for keys cannot be used on this machine");
    randombytes_buf(salt.data(), salt.size());
    return {{"salt", inHex(salt.data(), salt.size())}, {"opened", nlohmann::json::object()}};
}

std::string hashOf(const nlohmann::json& known, const fs::path& archive, const Key& key) {
    const Salt salt = *saltFrom(known["salt"].get<std::string>());
    std::string both = fs::absolute(archive).lexically_normal().string();
    both += '\0';
    both += key.text();
    std::array<unsigned char, hashBytes> hash{};
    const int result = crypto_pwhash(hash.data(), hash.size(), both.data(), both.size(), salt.data(),
                                     crypto_pwhash_OPSLIMIT_INTERACTIVE, crypto_pwhash_MEMLIMIT_INTERACTIVE,
                                     crypto_pwhash_ALG_ARGON2ID13);
    sodium_memzero(both.data(), both.size());
    if (result != 0) throw std::bad_alloc();
    return inHex(hash.data(), hash.size());
}

/// Where the machine is.
std::string today() {
    const std::time_t now = std::time(nullptr);
    std::tm local{};
    ::localtime_r(&now, &local);
    return fmt::format("{:04}-{:02}-{:02}", local.tm_year + 1900, local.tm_mon + 1, local.tm_mday);
}

} // namespace

fs::path KeyMemory::usualFile() {
    const fs::path folder = dataFolder();
    return folder.empty() ? folder : folder / "keys-that-opened.json";
}

void KeyMemory::remember(const fs::path& archive, const Key& key, const std::string& day) const {
    if (file_.empty()) return;
    try {
        auto known = read(file_);
        auto& opened = known["opened"];
        opened[hashOf(known, archive, key)] = day;
        while (opened.size() > mostKept) { // the oldest goes
            auto oldest = opened.begin();
            for (auto it = opened.begin(); it != opened.end(); ++it)
                if (it.value() < oldest.value()) oldest = it;
            opened.erase(oldest);
        }
        fs::create_directories(file_.parent_path());
        writeFile(file_, known.dump(1));
    } catch (const std::exception&) {
    }
}

std::optional<std::string> KeyMemory::lastRight(const fs::path& archive, const Key& key) const {
    std::error_code error;
    if (file_.empty() || !fs::exists(file_, error)) return std::nullopt;
    const auto known = read(file_);
    const auto found = known["opened"].find(hashOf(known, archive, key));
    if (found == known["opened"].end() || !found->is_string()) return std::nullopt;
    return found->get<std::string>();
}

std::string dayInWords(const std::string& day, const std::string& today) {
    static constexpr std::array<std::string_view, 12> months{"January",   "February", "March",    "April",
                                                             "May",       "June",     "July",     "August",
                                                             "September", "October",  "November", "December"};
    if (day.size() != 10) return day;
    const int month = std::atoi(day.substr(5, 2).c_str()), date = std::atoi(day.substr(8, 2).c_str());
    if (month < 1 || month > 12) return day;
    const std::string words = fmt::format("{} {}", date, months[std::size_t(month - 1)]);
    return today.starts_with(day.substr(0, 4)) ? words : words + " " + day.substr(0, 4);
}

void rememberOpened() {
    for (const KeyOpened& opened : takeOpened())
        KeyMemory(KeyMemory::usualFile()).remember(opened.archive, *opened.key, today());
}

std::optional<std::string> lastRightInWords(const Terms& terms) {
    if (!terms.key) return std::nullopt;
    const auto day = KeyMemory(KeyMemory::usualFile()).lastRight(terms.archive, *terms.key);
    return day ? std::optional(dayInWords(*day, today())) : std::nullopt;
}

} // namespace zl::files
