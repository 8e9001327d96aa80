#pragma once
#include "core/files/terms.h"

#include <filesystem>
#include <optional>
#include <string>

namespace zl::files {

/// Remembers when a key last opened an archive, so that a key that has gone stale can be told from a broken
/// archive. The file holds a salt and, for each, a slow hash of archive and key (Argon2id) with the day;
/// neither can be read out of it.
class KeyMemory {
public:
    /// `file` need not be there. What cannot be read is as good as empty.
    explicit KeyMemory(std::filesystem::path file) : file_(std::move(file)) {}
    /// Where programs keep such data (XDG base directories); empty where there is no such place.
    static std::filesystem::path usualFile();

    /// `day` as 2026-11-27. Says nothing when it cannot be written: it is a convenience.
    void remember(const std::filesystem::path& archive, const Key& key, const std::string& day) const;
    /// The day on which the key was last right; nothing when it never was.
    std::optional<std::string> lastRight(const std::filesystem::path& archive, const Key& key) const;

private:
    std::filesystem::path file_;
};

/// Remembers today for every key that has opened something since it was last asked.
void rememberOpened();
/// The day, in words, on which the key of `terms` last opened their archive; nothing when it never did.
std::optional<std::string> lastRightInWords(const Terms& terms);

/// "12 October" of "2026-10-12", with the year where it is not this one's.
std::string dayInWords(const std::string& day, const std::string& today);

} // namespace zl::files
