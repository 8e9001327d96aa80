// The console: the piece's headers, compiled into a program of their own, seen on an old television.
#include "standins/console/console_arena.h"

#include "standins/console/program.h"
#include "standins/console/television.h"
#include "standins/world/arena.h"

#include "core/base/units.h"
#include "core/base/words.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <map>
#include <sstream>

namespace zl::standins::console {

namespace {

using Clock = std::chrono::steady_clock;
constexpr double framesASecond = 60;
constexpr std::size_t frameBytes = std::size_t(2) * screenWidth * screenHeight;

/// "clip 0 frames 145 …" as numbers by their words.
std::map<std::string, std::uint64_t> numbersOf(const std::string& line) {
    std::map<std::string, std::uint64_t> out;
    std::istringstream words(line);
    for (std::string word, number; words >> word;) {
        if (word == "frame") continue;
        if (!(words >> number)) break;
        std::uint64_t value = 0;
        std::from_chars(number.data(), number.data() + number.size(), value);
        out[word] = value;
    }
    return out;
}

void refuse(TryReport& report, const Process& console) {
    report.accepted = false;
    report.messages.push_back({Message::Kind::Refused, "", "The console does not take the piece",
                               console.errors().empty() ? std::string("It stopped without a word.")
                                                        : console.errors().substr(0, 300)});
}

void accept(TryReport& report, const Program& program) {
    report.accepted = true;
    report.messages.push_back(
        {Message::Kind::Fine, "",
         fmt::format("{} compiled it: {}, {}", program.compiler(),
                     showCount(long(program.headers().segments.size()), "segment", "segments"),
                     showCount(long(program.headers().clips.size()), "clip", "clips")),
         ""});
}

class ConsoleArena : public world::Arena {
public:
    ConsoleArena(std::unique_ptr<Program> program, std::unique_ptr<Process> console)
        : Arena("u", 200), program_(std::move(program)), console_(std::move(console)) {
        items_ = television();
        console_->send("frame\n");
    }

    std::vector<world::Drawn> drawn() const override {
        std::vector<world::Drawn> out;
        for (std::size_t i = 0; i < items_.size(); ++i) out.push_back({int(i), glm::mat4(1.0f)});
        return out;
    }
    std::pair<glm::vec3, glm::vec3> frame() const override { return televisionFrame(); }
    glm::vec3 figureFoot() const override { return {290, 0, -60}; }
    double seenFrom() const override { return 0.16; }
    std::vector<world::Action> actions() const override {
        std::vector<world::Action> out;
        const auto& clips = program_->headers().clips;
        for (std::size_t k = 0; k < clips.size(); ++k) {
            const std::string key = k < 9 ? std::to_string(k + 1) : std::string();
            out.push_back({"clip-" + std::to_string(k), clips[k],
                           (k == 0 ? "Goes on whenever nothing else plays" : "Plays once") +
                               (key.empty() ? std::string() : " (key " + key + ")"),
                           key});
        }
        return out;
    }
    void act(const std::string& id) override {
        if (id.starts_with("clip-")) console_->send("play " + id.substr(5) + "\n");
    }
    std::vector<world::Choice> choices() const override {
        return {{"side", "Seen from", {"the front", "the left", "behind", "the right"}, side_}};
    }
    void choose(const std::string& id, int option) override {
        if (id != "side") return;
        side_ = std::clamp(option, 0, 3);
        console_->send(fmt::format("turn {}\n", 24 + 90 * side_));
    }
    bool advance(double seconds) override {
        owed_ = std::min(owed_ + seconds, 0.1);
        console_->receive(std::chrono::milliseconds(0));
        takeFrame();
        return console_->isRunning();
    }
    std::vector<world::Table> tables() const override {
        world::Table table{"One picture", {}, {}};
        const auto& clips = program_->headers().clips;
        const auto number = [&](const char* word) {
            const auto found = last_.find(word);
            return found == last_.end() ? std::uint64_t(0) : found->second;
        };
        const auto clip = std::size_t(number("clip"));
        table.rows = {{"plays", {clip < clips.size() ? clips[clip] : "nothing"}},
                      {"triangles drawn", {showNumber(double(number("triangles")), 0)}},
                      {"pictures loaded", {showNumber(double(number("loads")), 0)}},
                      {"bytes loaded", {showNumber(double(number("bytes")), 0)}},
                      {"cycles", {showNumber(double(number("cycles")), 0)}}};
        return {table};
    }
    std::vector<std::string> notes() const override {
        return {"Compiled here by " + program_->compiler() + ", and run as a program of its own."};
    }
    std::optional<TryReport> verdictNow() const override {
        if (console_->isRunning()) return std::nullopt;
        TryReport report;
        refuse(report, *console_);
        return report;
    }

private:
    void takeFrame() {
        std::string& received = console_->received();
        const auto end = received.find('\n');
        if (end == std::string::npos || received.size() < end + 1 + frameBytes) return;
        if (owed_ < 1 / framesASecond) return; // it is ready before its time
        owed_ -= 1 / framesASecond;
        last_ = numbersOf(received.substr(0, end));
        items_[screenItem].picture =
            onScreen(reinterpret_cast<const std::uint8_t*>(received.data() + end + 1));
        received.erase(0, end + 1 + frameBytes);
        itemsChanged();
        console_->send("frame\n");
    }

    std::unique_ptr<Program> program_;
    std::unique_ptr<Process> console_;
    std::map<std::string, std::uint64_t> last_;
    double owed_ = 0;
    int side_ = 0;
};

} // namespace

TryReport tryFolder(const std::filesystem::path& folder) {
    TryReport report;
    const auto program = compiled(folder, report);
    if (!program) return report;
    const auto console = program->start();
    const auto begun = Clock::now();
    console->send("all\nquit\n");
    auto clips = nlohmann::ordered_json::array();
    std::uint64_t frames = 0;
    for (const std::string& name : program->headers().clips) {
        const auto line = console->line(std::chrono::seconds(60));
        if (!line) break;
        auto numbers = numbersOf(*line);
        frames += numbers["frames"];
        clips.push_back({{"name", name},
                         {"frames", numbers["frames"]},
                         {"ticks", numbers["ticks"]},
                         {"hash", fmt::format("{:08x}", numbers["hash"])},
                         {"loads", numbers["loads"]},
                         {"loadedBytes", numbers["bytes"]},
                         {"cycles", numbers["cycles"]}});
    }
    const double seconds = std::chrono::duration<double>(Clock::now() - begun).count();
    if (console->finish(std::chrono::seconds(5)) != 0 || clips.size() != program->headers().clips.size()) {
        refuse(report, *console);
        return report;
    }
    accept(report, *program);
    report.tests["compiler"] = program->compiler();
    report.tests["segments"] = program->headers().segments.size();
    report.tests["clips"] = std::move(clips);
    if (frames > 0 && seconds > 0) report.tests["framesASecond"] = double(frames) / seconds;
    return report;
}

std::unique_ptr<world::Arena> open(const std::filesystem::path& folder, TryReport& report) {
    auto program = compiled(folder, report);
    if (!program) return nullptr;
    auto console = program->start();
    console->send("frame\n");
    while (console->received().size() < frameBytes && console->receive(std::chrono::milliseconds(2000)) &&
           console->isRunning()) {
    }
    if (console->received().size() < frameBytes) {
        console->finish(std::chrono::milliseconds(500));
        refuse(report, *console);
        return nullptr;
    }
    accept(report, *program);
    return std::make_unique<ConsoleArena>(std::move(program), std::move(console));
}

} // namespace zl::standins::console
