// Uploads as people make them: from the command line, to a server that is killed and comes again, over TLS,
// and with a password that nobody else finds.
#include "command_line.h"

#include "core/base/file_set.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <arpa/inet.h>
#include <fcntl.h>
#include <netinet/in.h>
#include <signal.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <random>
#include <thread>

namespace {

namespace fs = std::filesystem;
using nlohmann::json;

const std::string word = "lantern-on-the-quay";

int freePort() {
    const int socket = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
    sockaddr_in address{};
    address.sin_family = AF_INET, address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    socklen_t size = sizeof address;
    REQUIRE(::bind(socket, reinterpret_cast<sockaddr*>(&address), size) == 0);
    ::getsockname(socket, reinterpret_cast<sockaddr*>(&address), &size);
    ::close(socket);
    return ntohs(address.sin_port);
}

/// The program in the background, its words going to a file.
class Running {
public:
    Running(std::vector<std::string> arguments, const fs::path& words,
            std::vector<std::string> environment = {}) {
        arguments.insert(arguments.begin(), ZEST_LOOM_CLI);
        id_ = ::fork();
        if (id_ == 0) {
            const int file = ::open(words.c_str(), O_WRONLY | O_CREAT | O_APPEND, 0600);
            ::dup2(file, 1), ::dup2(file, 2);
            std::vector<char*> list, variables;
            for (std::string& one : arguments) list.push_back(one.data());
            list.push_back(nullptr);
            environment.push_back("PATH=/usr/bin:/bin");
            for (std::string& one : environment) variables.push_back(one.data());
            variables.push_back(nullptr);
            ::execve(ZEST_LOOM_CLI, list.data(), variables.data());
            ::_exit(127);
        }
    }
    ~Running() { stop(SIGKILL); }
    void stop(int signal) {
        if (id_ <= 0) return;
        ::kill(id_, signal);
        wait();
    }
    int wait() {
        int state = 0;
        if (id_ > 0) ::waitpid(id_, &state, 0);
        id_ = -1;
        return WIFEXITED(state) ? WEXITSTATUS(state) : -1;
    }
    bool ended() {
        int state = 0;
        if (id_ > 0 && ::waitpid(id_, &state, WNOHANG) == id_) id_ = -1, code_ = WEXITSTATUS(state);
        return id_ < 0;
    }
    int code() const { return code_; }
    pid_t id() const { return id_; }

private:
    pid_t id_ = -1;
    int code_ = -1;
};

void waitForPort(int port) {
    for (int n = 0; n < 400; ++n) {
        const int socket = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
        sockaddr_in address{};
        address.sin_family = AF_INET, address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        address.sin_port = htons(std::uint16_t(port));
        const bool open = ::connect(socket, reinterpret_cast<sockaddr*>(&address), sizeof address) == 0;
        ::close(socket);
        if (open) return;
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
    }
    FAIL("nothing listens");
}

std::string bytesOf(const fs::path& file) {
    std::string out;
    const int in = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
    char part[65536];
    for (ssize_t count; (count = ::read(in, part, sizeof part)) > 0;) out.append(part, std::size_t(count));
    ::close(in);
    return out;
}

bool holdsWord(const fs::path& folder) {
    for (const auto& entry : fs::recursive_directory_iterator(folder))
        if (entry.is_regular_file() && bytesOf(entry.path()).find(word) != std::string::npos) return true;
    return false;
}

/// All that a command says, on both ways out.
std::string told(const std::string& arguments) {
    return run("( " + std::string(ZEST_LOOM_CLI) + " " + arguments + " 2>&1 )").out;
}

/// The demo's pergola, lit coarsely, as it is delivered.
const fs::path& pergola() {
    static const fs::path folder = [] {
        const fs::path out = demo() / "lit-pergola";
        REQUIRE(cli("bake " + (demo() / "pergola.solids").string() + " --out " + out.string() +
                    " --pixels 16 --fineness 1 --bounces 0")
                    .code == 0);
        return out;
    }();
    return folder;
}

} // namespace

TEST_CASE("the pergola: 44 solids in six groups, as JSON, lit and as files", "[region]") {
    const auto said = json::parse(cli("solids " + (demo() / "pergola.solids").string() + " --json").out);
    CHECK(said["solids"] == 44);
    CHECK(said["groups"].size() == 6);
    CHECK(said["lights"] == 3);
    CHECK(said["faces"] == 240);
    const auto lit = json::parse(cli("solids " + (pergola() / "pergola.scene.xml").string() + " --json").out);
    CHECK(lit["solids"] == 44);
    CHECK(lit["groups"] == said["groups"]);
    CHECK(cli("solids " + (demo() / "crate-lamp.glb").string()).code == 2);
}

TEST_CASE("an upload goes on through kills of the server, and is there once", "[region]") {
    const TemporaryFolder folder;
    const fs::path data = folder.path() / "data", words = folder.path() / "server.txt",
                   log = folder.path() / "upload.txt";
    const int port = freePort();
    const std::string url = "http://127.0.0.1:" + std::to_string(port);
    const std::vector<std::string> serving{"serve-region",
                                           "--data",
                                           data.string(),
                                           "--port",
                                           std::to_string(port),
                                           "--faults",
                                           "slow=4,busy=0.02,drop=0.02,lose=0.02"};
    auto server = std::make_unique<Running>(serving, words);
    waitForPort(port);
    Running uploading({"upload", pergola().string(), "--to", url, "--user", "mira", "--password-env", "WORD",
                       "--tries", "200", "--json"},
                      log, {"WORD=" + word});
    std::mt19937 random(5);
    bool seen = false;
    int kills = 0;
    while (!uploading.ended()) {
        std::this_thread::sleep_for(std::chrono::milliseconds(60 + random() % 200));
        if (uploading.ended()) break;
        // Where a machine is busy, the program may not have begun yet; from its first line on, nothing is
        // seen.
        if (bytesOf(log).empty()) continue;
        for (const char* shown : {"cmdline", "environ"})
            seen |= bytesOf("/proc/" + std::to_string(uploading.id()) + "/" + shown).find(word) !=
                    std::string::npos;
        if (kills >= 20) continue;
        server->stop(SIGKILL);
        ++kills;
        server = std::make_unique<Running>(serving, words);
    }
    CHECK(kills >= 8);
    CHECK_FALSE(seen);
    CHECK(uploading.code() == 0);
    const std::string said = bytesOf(log);
    CHECK_THAT(said, Catch::Contains("logging in again"));
    const auto done = json::parse(said.substr(said.find("\n{") + 1));
    CHECK(done["verdict"] == "stands");
    // Once more: nothing is sent again.
    fs::remove(log);
    Running again({"upload", pergola().string(), "--to", url, "--user", "mira", "--password-env", "WORD",
                   "--tries", "100", "--json"},
                  log, {"WORD=" + word});
    CHECK(again.wait() == 0);
    const std::string second = bytesOf(log);
    const auto twice = json::parse(second.substr(second.find("\n{") + 1));
    CHECK(twice["solids"] == 0);
    CHECK(twice["pictures"] == 0);
    CHECK(twice["there"].get<int>() >= 50);
    std::size_t solids = 0, groups = 0;
    for (const auto& entry : fs::recursive_directory_iterator(data / "regions/test")) {
        const std::string name = entry.path().filename().string();
        solids += name.starts_with("solid-"), groups += name.starts_with("group-");
    }
    CHECK(solids == 44);
    CHECK(groups == 6);
    server->stop(SIGTERM);
    CHECK_FALSE(holdsWord(folder.path()));
}

TEST_CASE("over TLS with a certificate that is trusted, and not with another", "[region]") {
    const TemporaryFolder folder;
    const std::string certificate = (folder.path() / "own.pem").string(),
                      key = (folder.path() / "own.key").string();
    REQUIRE(std::system(("openssl req -x509 -newkey rsa:2048 -nodes -days 2 -subj /CN=127.0.0.1 -addext "
                         "subjectAltName=IP:127.0.0.1 -keyout " +
                         key + " -out " + certificate + " 2>/dev/null")
                            .c_str()) == 0);
    const int port = freePort();
    const std::string url = "https://127.0.0.1:" + std::to_string(port);
    Running server({"serve-region", "--data", (folder.path() / "data").string(), "--port",
                    std::to_string(port), "--certificate", certificate, "--key", key},
                   folder.path() / "server.txt");
    waitForPort(port);
    const fs::path file = folder.path() / "word";
    zl::writeFile(file, word + "\n");
    fs::permissions(file, fs::perms::owner_read | fs::perms::owner_write);
    const std::string upload =
        "upload " + pergola().string() + " --to " + url + " --user mira --password-file " + file.string();
    CHECK(cli(upload + " --trust " + certificate).code == 0);
    CHECK(cli(upload + " --tries 1").code == 1);
    CHECK_THAT(told(upload), Catch::Contains("certificate is not trusted")); // at once, not after many tries
}

TEST_CASE("what an upload wants is named when it is missing, and the open password is refused", "[region]") {
    CHECK_THAT(told("upload " + pergola().string()), Catch::Contains("--to"));
    CHECK(cli("upload " + pergola().string()).code == 2);
    const std::string open =
        "upload " + pergola().string() + " --to http://127.0.0.1:1 --user mira --password x";
    CHECK(cli(open).code == 2);
    CHECK_THAT(told(open), Catch::Contains("could be read by everybody"));
    CHECK_THAT(told("upload " + pergola().string() + " --to http://127.0.0.1:1"), Catch::Contains("--user"));
    const auto dry =
        json::parse(cli("upload " + pergola().string() + " --to http://127.0.0.1:1 --dry-run --json").out);
    CHECK(dry["would"].size() > 50);
    CHECK(cli("upload /tmp --to http://127.0.0.1:1 --user mira").code == 2);
    CHECK_THAT(told("serve-region --data /tmp/x --faults tea=1"), Catch::Contains("no fault"));
}
