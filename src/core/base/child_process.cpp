#include "core/base/child_process.h"

#include "core/base/error.h"

#include <array>
#include <cerrno>
#include <clocale>
#include <csignal>
#include <cstdint>
#include <cstring>
#include <fcntl.h>
#include <algorithm>
#include <fstream>
#include <new>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace zl {

namespace {

// What goes through the pipe: a letter, the length of the bytes behind it, the bytes.
constexpr char report = 'p', result = 'r', error = 'e', refused = 'x';

bool sendAll(int to, const void* data, std::size_t size) {
    const auto* at = static_cast<const char*>(data);
    while (size > 0) {
        const ssize_t sent = ::write(to, at, size);
        if (sent < 0 && errno == EINTR) continue;
        if (sent <= 0) return false;
        at += sent, size -= static_cast<std::size_t>(sent);
    }
    return true;
}

void send(int to, char kind, std::string_view bytes) {
    const std::uint64_t size = bytes.size();
    if (!sendAll(to, &kind, 1) || !sendAll(to, &size, sizeof size) ||
        !sendAll(to, bytes.data(), bytes.size()))
        ::_exit(1); // nobody listens any more
}

void send(int to, char kind, const Error& problem) {
    send(to, kind, std::string(problem.what()) + '\0' + problem.where() + '\0' + problem.mend());
}

/// Bytes of address space that this process has now, or 0 when the system does not tell.
std::size_t ownSize() {
    std::size_t pages = 0;
    std::ifstream("/proc/self/statm") >> pages;
    return pages * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
}

void limitMemory(std::size_t more) {
#ifdef ZEST_LOOM_SANITIZED
    more = 0; // the sanitizer hangs where it gets no memory; it has limits of its own
#endif
    const std::size_t size = ownSize();
    if (size == 0 || more == 0) return;
    const rlimit most{size + more, size + more};
    ::setrlimit(RLIMIT_AS, &most);
}

[[noreturn]] void runChild(int to, const std::function<std::string(const Progress&)>& work,
                           std::size_t memory, const std::string& where) {
    ::prctl(PR_SET_PDEATHSIG, SIGKILL); // it has no purpose without its parent
    for (const int signal : {SIGSEGV, SIGBUS, SIGFPE, SIGILL, SIGABRT, SIGTERM, SIGINT})
        ::signal(signal, SIG_DFL);
    if (const int nowhere = ::open("/dev/null", O_WRONLY); nowhere >= 0)
        ::dup2(nowhere, STDERR_FILENO); // libraries complain there of what is told as an Error
    const rlimit noCore{0, 0};
    ::setrlimit(RLIMIT_CORE, &noCore);
    limitMemory(memory);
    std::setlocale(LC_NUMERIC, "C"); // libraries read numbers as the user's language writes them
    const Progress progress(
        [to](double fraction, std::string_view what) {
            std::string bytes(reinterpret_cast<const char*>(&fraction), sizeof fraction);
            send(to, report, bytes.append(what));
        },
        nullptr);
    try {
        send(to, result, work(progress));
    } catch (const Refused& problem) {
        send(to, refused, problem);
    } catch (const Error& problem) {
        send(to, error, problem);
    } catch (const std::bad_alloc&) {
        send(to, error,
             Error("asks for more memory than a file of its size can need", where,
                   "It is broken: export or copy it again."));
    } catch (const std::exception& problem) {
        send(to, error, Error(problem.what(), where));
    }
    ::_exit(0); // no destructors: what they would put in order belongs to the parent
}

/// The child as its parent sees it: killed, if it still runs, and waited for at the end.
class Child {
public:
    Child(pid_t id, int from) : id_(id), from_(from) {}
    ~Child() {
        ::close(from_);
        if (!ended_) ::kill(id_, SIGKILL), wait();
    }
    Child(const Child&) = delete;
    Child& operator=(const Child&) = delete;

    /// Fills `size` bytes; false when the child ended first.
    bool receive(void* data, std::size_t size, const Progress& progress) const {
        auto* at = static_cast<char*>(data);
        while (size > 0) {
            pollfd ready{from_, POLLIN, 0};
            const int found = ::poll(&ready, 1, 50);
            progress.checkCancel();
            if (found == 0 || (found < 0 && errno == EINTR)) continue;
            const ssize_t count = ::read(from_, at, size);
            if (count < 0 && errno == EINTR) continue;
            if (count <= 0) return false;
            at += count, size -= static_cast<std::size_t>(count);
        }
        return true;
    }
    int wait() {
        int status = 0;
        while (::waitpid(id_, &status, 0) < 0 && errno == EINTR) {
        }
        ended_ = true;
        return status;
    }

private:
    pid_t id_;
    int from_;
    bool ended_ = false;
};

std::array<std::string, 3> partsOf(const std::string& bytes) {
    std::array<std::string, 3> parts;
    std::size_t at = 0;
    for (std::string& part : parts) {
        const std::size_t end = std::min(bytes.find('\0', at), bytes.size());
        part = bytes.substr(at, end - at);
        at = std::min(end + 1, bytes.size());
    }
    return parts;
}

} // namespace

std::string inChildProcess(const std::function<std::string(const Progress&)>& work, std::size_t memory,
                           const Progress& progress, const std::string& where) {
    int ends[2];
    if (::pipe(ends) != 0)
        throw Error(std::string("cannot be read apart (") + std::strerror(errno) + ")", where);
    const pid_t id = ::fork();
    if (id < 0) {
        const int problem = errno;
        ::close(ends[0]), ::close(ends[1]);
        throw Error(std::string("cannot be read apart (") + std::strerror(problem) + ")", where);
    }
    if (id == 0) {
        ::close(ends[0]);
        runChild(ends[1], work, memory, where);
    }
    ::close(ends[1]);
    Child child(id, ends[0]);
    char kind = 0;
    std::uint64_t size = 0;
    while (child.receive(&kind, 1, progress) && child.receive(&size, sizeof size, progress)) {
        std::string bytes(size, '\0');
        if (!child.receive(bytes.data(), bytes.size(), progress)) break;
        if (kind == result) {
            child.wait();
            return bytes;
        }
        if (kind == report) {
            double fraction = 0;
            std::memcpy(&fraction, bytes.data(), std::min(sizeof fraction, bytes.size()));
            progress.report(fraction,
                            std::string_view(bytes).substr(std::min(sizeof fraction, bytes.size())));
            continue;
        }
        const auto [what, place, mend] = partsOf(bytes);
        if (kind == refused) throw Refused(what, place, mend);
        throw Error(what, place, mend);
    }
    const int status = child.wait();
    const bool killed = WIFSIGNALED(status) && WTERMSIG(status) == SIGKILL;
    throw Error(killed ? "needs more memory than there is"
                       : "is broken in a way that its reader does not survive",
                where, killed ? "Make it smaller first." : "Export or copy the file again.");
}

} // namespace zl
