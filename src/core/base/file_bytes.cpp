#include "core/base/file_bytes.h"

#include "core/base/error.h"
#include "core/base/huge_pages.h"

#include <cerrno>
#include <chrono>
#include <cstring>
#include <fcntl.h>
#include <string>
#include <sys/stat.h>
#include <thread>
#include <unistd.h>

namespace zl {

namespace {

constexpr int mostTries = 5;
constexpr std::chrono::milliseconds pause{60};

/// Closes the descriptor whatever happens.
struct Open {
    int descriptor;
    ~Open() { ::close(descriptor); }
};

bool sameTime(const timespec& a, const timespec& b) {
    return a.tv_sec == b.tv_sec && a.tv_nsec == b.tv_nsec;
}

} // namespace

FileBytes::FileBytes(const std::filesystem::path& path) {
    for (int tries = 1;; ++tries) {
        const Open file{::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK)};
        if (file.descriptor < 0)
            throw Error(std::string("cannot be opened (") + std::strerror(errno) + ")", path.string(),
                        "Check the path and your rights to read it.");
        if (readOnce(file.descriptor, path)) return;
        if (tries == mostTries)
            throw Error("is being written by another program", path.string(),
                        "Wait until that program is done, then read it again.");
        std::this_thread::sleep_for(pause);
    }
}

/// False when the file changed while it was read.
bool FileBytes::readOnce(int descriptor, const std::filesystem::path& path) {
    struct stat before {};
    if (::fstat(descriptor, &before) != 0 || !S_ISREG(before.st_mode))
        throw Error("is not a file", path.string(), "Choose a model file.");
    size_ = static_cast<std::size_t>(before.st_size);
    bytes_.reset(new char[size_]); // not filled with zeros first
    preferHugePages(bytes_.get(), size_);
    std::size_t done = 0;
    while (done < size_) {
        const ssize_t count = ::read(descriptor, bytes_.get() + done, size_ - done);
        if (count < 0 && errno == EINTR) continue;
        if (count < 0)
            throw Error(std::string("cannot be read (") + std::strerror(errno) + ")", path.string());
        if (count == 0) return false;
        done += static_cast<std::size_t>(count);
    }
    struct stat after {};
    return ::fstat(descriptor, &after) == 0 && after.st_size == before.st_size &&
           sameTime(after.st_mtim, before.st_mtim);
}

} // namespace zl
