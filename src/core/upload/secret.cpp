#include "core/upload/secret.h"

#include "core/base/error.h"
#include "core/base/file_set.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <termios.h>
#include <unistd.h>

#include <cstdlib>
#include <cstring>

namespace zl::upload {

void wipe(std::string& text) {
    if (!text.empty()) ::explicit_bzero(text.data(), text.size());
    text.clear();
}

void Secret::wipe() {
    upload::wipe(text_);
}

Secret secretFromEnvironment(const std::string& variable) {
    char* value = std::getenv(variable.c_str());
    if (!value || !*value)
        throw Error("the variable " + variable + " holds no password", {}, "Set it, or use --password-file.");
    Secret out{std::string(value)};
    ::explicit_bzero(value, std::strlen(value)); // what the system shows of a process is this very memory
    ::unsetenv(variable.c_str());
    return out;
}

Secret secretFromFile(const std::filesystem::path& file) {
    struct stat state {};
    if (::stat(file.c_str(), &state) != 0)
        throw Error("there is no file with a password", file.string(), "Write one, or use --password-env.");
    if (S_ISREG(state.st_mode) && (state.st_mode & (S_IRGRP | S_IROTH)))
        throw Error("others may read the password in it", file.string(), "chmod 600 " + file.string());
    constexpr std::size_t most = 4096;
    std::string text = readText(file, most);
    std::string line = text.substr(0, text.find_first_of("\r\n"));
    wipe(text);
    if (line.empty()) throw Error("its first line holds no password", file.string());
    return Secret(std::move(line));
}

Secret secretFromTerminal(std::string_view question) {
    const int terminal = ::open("/dev/tty", O_RDWR | O_CLOEXEC);
    if (terminal < 0)
        throw Error("there is no terminal to ask for the password", {},
                    "Give --password-env VARIABLE or --password-file FILE.");
    termios before{};
    const bool canHide = ::tcgetattr(terminal, &before) == 0;
    termios hidden = before;
    hidden.c_lflag &= ~tcflag_t(ECHO);
    if (canHide) ::tcsetattr(terminal, TCSAFLUSH, &hidden);
    const auto say = [&](std::string_view text) {
        [[maybe_unused]] const auto written = ::write(terminal, text.data(), text.size());
    };
    say(question);
    std::string line;
    line.reserve(1024); // never moved, so that no copy stays behind
    char c = 0;
    while (line.size() < 1000 && ::read(terminal, &c, 1) == 1 && c != '\n') line += c;
    if (canHide) ::tcsetattr(terminal, TCSAFLUSH, &before);
    say("\n");
    ::close(terminal);
    if (line.empty()) throw Error("no password was given");
    return Secret(std::move(line));
}

} // namespace zl::upload
