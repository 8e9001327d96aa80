// `answer`: what the real game said of delivered files, kept with its sheet.
#include "cli/commands/all_commands.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/learn/game_said.h"
#include "core/platform/own_sheet.h"
#include "core/platform/sheet_known.h"

#include <CLI/CLI.hpp>
#include <fmt/chrono.h>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Answer : public Command {
public:
    std::string name() const override { return "answer"; }
    std::string help() const override {
        return "keep what the real game said of delivered files, and find out what it minded";
    }
    void declare(CLI::App& app) override {
        app.add_option("DIR", folder_, "folder with the delivered files that the game was given")->required();
        app.add_option("--platform", platform_, "platform id")->required();
        auto* accepted = app.add_flag("--accepted", accepted_, "the game took them");
        app.add_flag("--refused", refused_, "the game did not")->excludes(accepted);
        app.add_option("--piece", piece_, "what the piece is called (as the folder)");
        app.add_option("--because", because_, "the game's words");
        app.add_option("--note", note_, "whatever else is worth keeping");
        app.add_option("--take", taken_, "make a limit of what sets it apart: the id of a property");
        app.add_option("--project", project_, "folder of the project whose sheets are read, and written");
    }

    int execute(const Progress& progress) override {
        if (accepted_ == refused_)
            throw Error("nothing says what the game did", {}, "Add --accepted or --refused.");
        const auto words = sheetWords();
        const auto sheet = platform::sheetNamed(platform::loadSheets(project_, nullptr, words), platform_);
        platform::GameAnswer answer;
        const std::filesystem::path folder(folder_);
        answer.piece = piece_.empty()
                           ? std::filesystem::absolute(folder / ".").parent_path().filename().string()
                           : piece_;
        answer.when = fmt::format("{:%Y-%m-%d}", fmt::localtime(std::time(nullptr)));
        answer.accepted = accepted_, answer.because = because_, answer.note = note_;
        learn::noteTraits(answer, folder, progress);
        const auto apart = accepted_ ? std::vector<learn::Difference>() : learn::differences(answer, *sheet);
        const learn::Difference* taken = nullptr;
        for (const auto& one : apart)
            if (one.id == taken_ && one.limit) taken = &one;
        if (!taken_.empty() && !taken)
            throw Error(fmt::format("\"{}\" gives no limit", taken_), {},
                        "Leave out --take to see what sets these files apart.");
        const auto file = platform::changeSheet(
            *sheet, project_,
            [&](platform::SheetText& text) {
                if (taken) answer.limit = learn::putLimit(text, *sheet, *taken->limit);
                text.add("answer", platform::answerSection(answer));
            },
            words);
        if (json)
            print(asJson(apart, answer, file));
        else
            tell(apart, answer, file, *sheet);
        return Fine;
    }

private:
    static nlohmann::ordered_json asJson(const std::vector<learn::Difference>& apart,
                                         const platform::GameAnswer& answer,
                                         const std::filesystem::path& file) {
        auto list = nlohmann::ordered_json::array();
        for (const auto& one : apart) {
            nlohmann::ordered_json entry{{"property", one.id}, {"said", one.said}, {"tells", one.tells}};
            if (one.limit) {
                entry["limits"] = nlohmann::ordered_json::object();
                for (const auto& [name, value] : one.limit->limits) entry["limits"][name] = value;
                for (const auto& [name, value] : one.limit->texts) entry["limits"][name] = value;
                entry["confidence"] = one.confidence;
            }
            list.push_back(std::move(entry));
        }
        return {{"sheet", file.string()},
                {"piece", answer.piece},
                {"accepted", answer.accepted},
                {"differences", list},
                {"limit", answer.limit}};
    }

    void tell(const std::vector<learn::Difference>& apart, const platform::GameAnswer& answer,
              const std::filesystem::path& file, const platform::Sheet& sheet) const {
        std::cout << fmt::format("  kept in {}\n", file.string());
        if (answer.accepted) return;
        if (apart.empty())
            std::cout
                << (learn::knowsAccepted(sheet)
                        ? "  nothing sets these files apart from those that the game took\n"
                        : "  nothing is known yet of what the game takes: answer --accepted for a piece\n");
        else
            std::cout << "  what sets them apart from what the game took, the most telling first:\n";
        for (const auto& one : apart) {
            std::cout << fmt::format("  {} {}: {}\n", one.limit ? one.id == taken_ ? "+" : "?" : " ",
                                     one.label, one.said);
            if (one.limit && one.id != taken_)
                std::cout << fmt::format("      {} (--take {})\n", one.confidence, one.id);
        }
    }

    std::string folder_, platform_, piece_, because_, note_, taken_, project_;
    bool accepted_ = false, refused_ = false;
};

} // namespace

std::unique_ptr<Command> makeAnswer() {
    return std::make_unique<Answer>();
}

} // namespace zl::cli
