// `log`: a game's log in words, as far as its sheet knows its lines.
#include "cli/commands/all_commands.h"

#include "core/base/units.h"
#include "core/platform/game_log.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <iostream>

namespace zl::cli {

namespace {

class Log : public Command {
public:
    std::string name() const override { return "log"; }
    std::string help() const override { return "read a game's log: what its sheet knows of it, with mends"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "the game's log")->required();
        app.add_option("--platform", platform_, "platform id")->required();
        app.add_option("--project", project_, "also read the sheets of this project folder");
        app.add_flag("--all", all_, "lines that the sheet does not know too");
    }

    int execute(const Progress&) override {
        const auto sheet =
            platform::sheetNamed(platform::loadSheets(project_, nullptr, sheetWords()), platform_);
        const auto lines = platform::readLog(platform::endOfLog(file_), *sheet);
        const auto refusing = [](const platform::LogLine& line) {
            return line.pattern && line.pattern->refuses;
        };
        auto list = nlohmann::ordered_json::array();
        for (const auto& line : lines) {
            if (!line.pattern && !all_) continue;
            nlohmann::ordered_json one{{"line", line.line}, {"text", line.text}};
            if (line.pattern) {
                one["says"] = line.says, one["refuses"] = line.pattern->refuses;
                if (!line.pattern->rule.empty()) one["rule"] = line.pattern->rule;
                one["mends"] = line.pattern->mends;
            }
            list.push_back(one);
            if (json) continue;
            std::cout << fmt::format("  {:>6}  {} {}\n", line.line,
                                     !line.pattern           ? " "
                                     : line.pattern->refuses ? "!"
                                                             : "-",
                                     line.pattern ? line.says : line.text);
            if (line.pattern)
                for (const std::string& mend : line.pattern->mends)
                    std::cout << fmt::format("          mend: {}\n", mend);
        }
        const auto known = std::ranges::count_if(lines, [](const auto& line) { return line.pattern; });
        if (json)
            print({{"lines", list}, {"known", known}, {"unknown", std::ssize(lines) - known}});
        else
            std::cout << fmt::format("  {} known, {} not\n", showCount(long(known), "line", "lines"),
                                     std::ssize(lines) - known);
        return std::ranges::any_of(lines, refusing) ? DoesNotFit : Fine;
    }

private:
    std::string file_, platform_, project_;
    bool all_ = false;
};

} // namespace

std::unique_ptr<Command> makeLog() {
    return std::make_unique<Log>();
}

} // namespace zl::cli
