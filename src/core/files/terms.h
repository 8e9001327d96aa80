#pragma once
#include "core/base/error.h"
#include "core/files/key.h"
#include "core/files/limits.h"

#include <filesystem>
#include <vector>

namespace zl::files {

/// On what terms a container is opened: how much is read out of it, and what opens its locked files.
struct Terms {
    Limits limits;
    std::shared_ptr<const Key> key; ///< null where none was given
    std::filesystem::path archive;  ///< the disk's file that the key was given for, where one is known

    Terms(Limits limits = {}, std::shared_ptr<const Key> key = {}) : limits(limits), key(std::move(key)) {}
};

/// Something in an archive is locked, and no key was given or the one that was does not open it.
class KeyNeeded : public Error {
public:
    KeyNeeded(const std::string& archive, const std::string& what, bool wrong)
        : Error(what, archive, wrong ? "Give the key that belongs to it now." : "Give its key."),
          wrong_(wrong) {}
    bool wrong() const { return wrong_; } ///< a key was given

private:
    bool wrong_;
};

// What a person gave and allowed, for as long as the program runs and nowhere else. Any thread may ask.

/// On the terms of a file of the disk that may be an archive: its own, or those for all.
Terms termsOf(const std::filesystem::path& archive);
/// Null takes it back. An empty path gives it to every archive that has none of its own.
void giveKey(const std::filesystem::path& archive, std::shared_ptr<const Key> key);
/// Opens it whatever it holds: for an archive that somebody trusts. An empty path is all of them.
void trust(const std::filesystem::path& archive);

/// A key that has opened something.
struct KeyOpened {
    std::filesystem::path archive;
    std::shared_ptr<const Key> key;
};
void noteOpened(const Terms& terms);
/// Those noted since it was last asked, each once.
std::vector<KeyOpened> takeOpened();

} // namespace zl::files
