#pragma once
#include <chrono>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace zl::standins::console {

/// A program that runs beside this one and is spoken to through its standard input and output. It ends with
/// this object, however that comes about, may take `megabytes` of memory, and takes at most `seconds` of
/// processor time.
class Process {
public:
    struct Limits {
        unsigned megabytes = 512, seconds = 60;
    };
    /// `command` is a path and its arguments; nothing is started, and isRunning() is false, where the system
    /// does not let it.
    Process(const std::vector<std::string>& command, const std::filesystem::path& folder, Limits limits);
    ~Process();
    Process(const Process&) = delete;
    Process& operator=(const Process&) = delete;

    bool isRunning();
    bool send(std::string_view text);
    /// Takes in what there is to read, for at most `wait`; false when nothing more will come.
    bool receive(std::chrono::milliseconds wait);
    /// What was received and not yet taken.
    std::string& received() { return out_; }
    /// The next whole line, waiting for it at most so long.
    std::optional<std::string> line(std::chrono::milliseconds wait);
    /// Waits for the end; what it left as its exit code, -1 when it was stopped or took longer.
    int finish(std::chrono::milliseconds wait);
    const std::string& errors() const { return errors_; }

private:
    void stop();

    int id_ = -1, in_ = -1, from_ = -1, errorsFrom_ = -1;
    std::optional<int> code_;
    std::string out_, errors_;
};

/// Where a program of this name is among those the system finds; empty when it is not there.
std::filesystem::path programNamed(std::string_view name);

} // namespace zl::standins::console
