#include "core/base/whole_file.h"

#include "core/base/error.h"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <charconv>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <string>
#include <sys/stat.h>
#include <unistd.h>

namespace fs = std::filesystem;

namespace zl {

namespace {

/// Writes all of `bytes` to an open file and flushes it; the error's number, or 0.
int putAll(int descriptor, std::string_view bytes) {
    while (!bytes.empty()) {
        const ssize_t written =
            ::write(descriptor, bytes.data(), std::min<std::size_t>(bytes.size(), 1u << 26));
        if (written < 0 && errno == EINTR) continue;
        if (written < 0) return errno;
        bytes.remove_prefix(static_cast<std::size_t>(written));
    }
    return ::fsync(descriptor) == 0 ? 0 : errno;
}

/// Writes a file that has no name until it is whole, so that nothing is left of it when the program ends in
/// the middle. False where the disk or the system (without /proc) cannot do that.
bool writeUnnamed(const fs::path& path, const fs::path& target, std::string_view bytes, unsigned mode) {
    const int descriptor = ::open(path.has_parent_path() ? path.parent_path().c_str() : ".",
                                  O_WRONLY | O_TMPFILE | O_CLOEXEC, mode);
    if (descriptor < 0) return false;
    ::fchmod(descriptor, mode);
    const int problem = putAll(descriptor, bytes);
    const std::string own = fmt::format("/proc/self/fd/{}", descriptor);
    const bool named =
        problem == 0 && ::linkat(AT_FDCWD, own.c_str(), AT_FDCWD, path.c_str(), AT_SYMLINK_FOLLOW) == 0;
    ::close(descriptor);
    if (problem != 0) refuseWriting(target, problem);
    return named;
}

} // namespace

void refuseWriting(const fs::path& path, int code) {
    throw Refused(fmt::format("cannot be written ({})", std::strerror(code)), path.string(),
                  "Choose another folder, or make room or rights there; nothing was changed.");
}

fs::path passingPath(const fs::path& folder, std::string_view kind) {
    static std::atomic<unsigned> next{0};
    return folder / fmt::format("{}{}-{}", kind, ::getpid(), next++);
}

bool isLeftBehind(const fs::path& path, std::string_view kind) {
    const std::string name = path.filename().string();
    if (!name.starts_with(kind)) return false;
    pid_t process = 0;
    const auto [end, error] = std::from_chars(name.data() + kind.size(), name.data() + name.size(), process);
    if (error != std::errc() || end == name.data() + name.size() || *end != '-' || process <= 0) return false;
    return ::kill(process, 0) != 0 && errno == ESRCH;
}

void writeWhole(const fs::path& path, const fs::path& target, std::string_view bytes, unsigned mode) {
    if (writeUnnamed(path, target, bytes, mode)) return;
    const int descriptor = ::open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, mode);
    if (descriptor < 0) refuseWriting(target, errno);
    ::fchmod(descriptor, mode);
    int problem = putAll(descriptor, bytes);
    if (::close(descriptor) != 0 && problem == 0) problem = errno;
    if (problem == 0) return;
    ::unlink(path.c_str());
    refuseWriting(target, problem);
}

void keepAs(const fs::path& from, const fs::path& to) {
    if (::link(from.c_str(), to.c_str()) == 0) return;
    std::error_code error;
    fs::copy_file(from, to, error);
    if (error) refuseWriting(from, error.value());
}

void moveOver(const fs::path& from, const fs::path& to) {
    std::error_code error;
    if (fs::is_directory(to, error)) refuseWriting(to, EISDIR); // a folder in the way is somebody's
    fs::rename(from, to, error);
    if (error) refuseWriting(to, error.value());
}

void flushFolder(const fs::path& folder) {
    const int descriptor = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (descriptor < 0) return;
    ::fsync(descriptor); // where the disk cannot do that, the names follow when it likes
    ::close(descriptor);
}

} // namespace zl
