#include "core/project/unsaved_place.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>
#include <utility>

namespace fs = std::filesystem;

namespace zl::project {

namespace {

constexpr std::string_view unsavedEnding = ".zestloom.autosave";

fs::path lockOf(const fs::path& autosave) {
    return fs::path(autosave.string() + ".held");
}

/// The lock's open file; -1 where another program has it, or where the file cannot be opened (then errno says
/// why).
int lock(const fs::path& file) {
    const int opened = ::open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
    // A file system without locks holds nothing, and hinders nobody.
    if (opened < 0 || ::flock(opened, LOCK_EX | LOCK_NB) == 0 || errno != EWOULDBLOCK) return opened;
    ::close(opened);
    errno = EWOULDBLOCK;
    return -1;
}

bool isHeld(const fs::path& autosave) {
    const int opened = ::open(lockOf(autosave).c_str(), O_RDONLY | O_CLOEXEC);
    if (opened < 0) return false;
    const bool held = ::flock(opened, LOCK_SH | LOCK_NB) != 0 && errno == EWOULDBLOCK;
    ::close(opened);
    return held;
}

} // namespace

UnsavedPlace UnsavedPlace::madeIn(const fs::path& folder) {
    std::error_code error;
    fs::create_directories(folder, error);
    for (int n = 1;; ++n) {
        fs::path autosave = folder / fmt::format("unsaved-{}{}", n, unsavedEnding);
        if (fs::exists(autosave, error)) continue;
        const int held = lock(lockOf(autosave));
        if (held >= 0) return {std::move(autosave), held};
        if (errno != EWOULDBLOCK)
            throw Refused(fmt::format("cannot be written ({})", std::strerror(errno)), autosave.string(),
                          "Check your rights and the space that is left.");
    }
}

std::optional<UnsavedPlace> UnsavedPlace::takenUp(const fs::path& autosave) {
    const int held = lock(lockOf(autosave));
    if (held < 0) return std::nullopt;
    return UnsavedPlace(autosave, held);
}

UnsavedPlace::UnsavedPlace(UnsavedPlace&& other) noexcept
    : autosave_(std::move(other.autosave_)), lock_(std::exchange(other.lock_, -1)) {}

UnsavedPlace& UnsavedPlace::operator=(UnsavedPlace&& other) noexcept {
    std::swap(autosave_, other.autosave_);
    std::swap(lock_, other.lock_);
    return *this;
}

UnsavedPlace::~UnsavedPlace() {
    if (lock_ < 0) return;
    ::unlink(lockOf(autosave_).c_str());
    ::close(lock_);
}

std::vector<fs::path> unsavedIn(const fs::path& folder) {
    std::error_code error;
    std::vector<std::pair<fs::file_time_type, fs::path>> found;
    for (const auto& entry : fs::directory_iterator(folder, error))
        if (entry.path().filename().string().ends_with(unsavedEnding) && !isHeld(entry.path()))
            found.emplace_back(entry.last_write_time(error), entry.path());
    std::ranges::sort(found, std::greater());
    std::vector<fs::path> out;
    for (auto& [time, path] : found) out.push_back(std::move(path));
    return out;
}

} // namespace zl::project
