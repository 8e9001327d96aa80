#include "standins/console/process.h"

#include <array>
#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <fcntl.h>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace zl::standins::console {

namespace {

using Clock = std::chrono::steady_clock;

/// Errors beyond this are not kept.
constexpr std::size_t mostErrors = 256u << 10;

void closeOne(int& file) {
    if (file >= 0) ::close(file);
    file = -1;
}

/// Takes in what is there; false at the end.
bool takeIn(int& file, std::string& to, std::size_t most) {
    std::array<char, 65536> bytes;
    const ssize_t count = ::read(file, bytes.data(), bytes.size());
    if (count < 0) return errno == EAGAIN || errno == EINTR;
    if (count == 0) {
        closeOne(file);
        return false;
    }
    if (to.size() < most) to.append(bytes.data(), std::size_t(count));
    return true;
}

} // namespace

Process::Process(const std::vector<std::string>& command, const std::filesystem::path& folder,
                 Limits limits) {
    std::array<int, 2> in{}, out{}, errors{};
    if (::pipe2(in.data(), O_CLOEXEC) != 0) return;
    if (::pipe2(out.data(), O_CLOEXEC) != 0) {
        ::close(in[0]), ::close(in[1]);
        return;
    }
    if (::pipe2(errors.data(), O_CLOEXEC) != 0) {
        for (const int file : {in[0], in[1], out[0], out[1]}) ::close(file);
        return;
    }
    std::vector<char*> words;
    for (const std::string& word : command) words.push_back(const_cast<char*>(word.c_str()));
    words.push_back(nullptr);
    const std::string place = folder.string();
    const rlimit memory{rlim_t(limits.megabytes) << 20, rlim_t(limits.megabytes) << 20},
        time{limits.seconds, limits.seconds}, none{0, 0};
    const pid_t id = ::fork();
    if (id == 0) { // only what may be done between fork and exec
        ::prctl(PR_SET_PDEATHSIG, SIGKILL);
        ::setpgid(0, 0);
        ::dup2(in[0], STDIN_FILENO), ::dup2(out[1], STDOUT_FILENO), ::dup2(errors[1], STDERR_FILENO);
        ::setrlimit(RLIMIT_AS, &memory), ::setrlimit(RLIMIT_CPU, &time), ::setrlimit(RLIMIT_CORE, &none);
        if (::chdir(place.c_str()) != 0) ::_exit(126);
        ::execv(words[0], words.data());
        ::_exit(127);
    }
    ::close(in[0]), ::close(out[1]), ::close(errors[1]);
    in_ = in[1], from_ = out[0], errorsFrom_ = errors[0], id_ = id;
    for (const int file : {in_, from_, errorsFrom_}) ::fcntl(file, F_SETFL, O_NONBLOCK);
    if (id < 0) code_ = -1;
}

Process::~Process() {
    stop();
    closeOne(in_), closeOne(from_), closeOne(errorsFrom_);
}

void Process::stop() {
    if (code_ || id_ <= 0) return;
    ::kill(-id_, SIGKILL), ::kill(id_, SIGKILL);
    while (::waitpid(id_, nullptr, 0) < 0 && errno == EINTR) {
    }
    code_ = -1;
}

bool Process::isRunning() {
    if (code_ || id_ <= 0) return false;
    int status = 0;
    const pid_t ended = ::waitpid(id_, &status, WNOHANG);
    if (ended == id_) code_ = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return !code_;
}

bool Process::send(std::string_view text) {
    // A program that has ended must not end this one.
    struct sigaction ignore {
    }, before{};
    ignore.sa_handler = SIG_IGN;
    ::sigaction(SIGPIPE, &ignore, &before);
    bool sent = in_ >= 0;
    const auto until = Clock::now() + std::chrono::milliseconds(200);
    while (sent && !text.empty()) {
        const ssize_t count = ::write(in_, text.data(), text.size());
        if (count > 0)
            text.remove_prefix(std::size_t(count));
        else if ((errno != EAGAIN && errno != EINTR) || Clock::now() > until)
            sent = false;
    }
    ::sigaction(SIGPIPE, &before, nullptr);
    return sent;
}

bool Process::receive(std::chrono::milliseconds wait) {
    if (from_ < 0 && errorsFrom_ < 0) return false;
    std::array<pollfd, 2> ready{{{from_, POLLIN, 0}, {errorsFrom_, POLLIN, 0}}};
    if (::poll(ready.data(), ready.size(), int(wait.count())) <= 0) return true;
    if (ready[0].revents != 0) takeIn(from_, out_, std::size_t(64) << 20);
    if (ready[1].revents != 0) takeIn(errorsFrom_, errors_, mostErrors);
    return from_ >= 0 || errorsFrom_ >= 0;
}

std::optional<std::string> Process::line(std::chrono::milliseconds wait) {
    const auto until = Clock::now() + wait;
    for (;;) {
        const auto end = out_.find('\n');
        if (end != std::string::npos) {
            std::string text = out_.substr(0, end);
            out_.erase(0, end + 1);
            return text;
        }
        if (Clock::now() > until || !receive(std::chrono::milliseconds(20))) return std::nullopt;
    }
}

int Process::finish(std::chrono::milliseconds wait) {
    closeOne(in_);
    const auto until = Clock::now() + wait;
    while (receive(std::chrono::milliseconds(20)) && Clock::now() < until) {
    }
    while (isRunning() && Clock::now() < until) ::poll(nullptr, 0, 5);
    stop();
    return code_.value_or(-1);
}

std::filesystem::path programNamed(std::string_view name) {
    const char* paths = std::getenv("PATH");
    std::string_view rest = paths ? paths : "/usr/bin:/bin";
    while (!rest.empty()) {
        const auto end = rest.find(':');
        const auto path = std::filesystem::path(rest.substr(0, end)) / name;
        // Only whole paths: a program must not come from where somebody happens to stand.
        if (path.is_absolute() && ::access(path.c_str(), X_OK) == 0) return path;
        rest.remove_prefix(end == std::string_view::npos ? rest.size() : end + 1);
    }
    return {};
}

} // namespace zl::standins::console
