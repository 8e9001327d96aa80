#include "cli/commands/all_commands.h"

#include "core/base/error.h"
#include "standins/stand_in.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Try : public Command {
public:
    std::string name() const override { return "try"; }
    std::string help() const override {
        return "load delivered files into the platform's stand-in and test them";
    }
    void declare(CLI::App& app) override {
        app.add_option("DIR", folder_, "folder with the delivered files")->required();
        app.add_option("--platform", platform_, "platform id")->required();
    }

    int execute(const Progress& progress) override {
        const auto sheet = platform::sheetNamed(platform::loadSheets(), platform_);
        const auto* standIn = standins::standInNamed(sheet->standIn);
        if (!standIn) throw Refused(fmt::format("{} has no stand-in", sheet->name));
        if (!std::filesystem::is_directory(folder_))
            throw Error("is not a folder", folder_, "Build the piece into it first.");
        progress.report(0, "trying");
        const auto report = standIn->tryFolder(folder_);
        constexpr std::string_view kinds[] = {"fine", "odd", "refused"};
        nlohmann::ordered_json out{{"platform", sheet->id},
                                   {"accepted", report.accepted},
                                   {"messages", nlohmann::ordered_json::array()},
                                   {"tests", report.tests}};
        for (const auto& message : report.messages) {
            const auto kind = kinds[static_cast<int>(message.kind)];
            out["messages"].push_back(
                {{"kind", kind}, {"file", message.file}, {"text", message.text}, {"detail", message.detail}});
            if (!json)
                std::cout << fmt::format("  {:<8} {}{}{} ({})\n", kind, message.file,
                                         message.file.empty() ? "" : ": ", message.text, message.detail);
        }
        if (json) {
            print(out);
        } else {
            for (const auto& [test, value] : report.tests.items())
                std::cout << fmt::format("  {:<24} {}\n", test, value.dump());
            std::cout << (report.accepted ? "accepted\n" : "refused\n");
        }
        return report.accepted ? Fine : DoesNotFit;
    }

private:
    std::string folder_, platform_;
};

} // namespace

std::unique_ptr<Command> makeTry() {
    return std::make_unique<Try>();
}

} // namespace zl::cli
