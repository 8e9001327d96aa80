#include "cli/commands/all_commands.h"

#include "core/base/error.h"
#include "core/base/units.h"
#include "core/base/file_set.h"
#include "core/platform/file_terms.h"
#include "core/texture/picture_file.h"
#include "standins/stand_in.h"
#include "standins/world/ray_still.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <iostream>

namespace zl::cli {

namespace {

/// A test's value for people: with its unit when it is a length, and a list of more than plain values
/// one entry a line.
std::string shown(const std::string& test, const nlohmann::ordered_json& value,
                  const standins::TryReport& report, std::string_view unit) {
    if (value.is_boolean()) return value.get<bool>() ? "yes" : "no";
    if (value.is_string()) return value.get<std::string>();
    if (value.is_object()) {
        if (value.empty()) return "none";
        std::string parts;
        for (const auto& [name, part] : value.items())
            parts += name == "name" ? part.get<std::string>() + ": "
                                    : fmt::format("{} {}, ", inWords(name), shown(name, part, report, unit));
        return parts.substr(0, parts.find_last_not_of(", ") + 1);
    }
    if (value.is_array()) {
        if (std::ranges::none_of(value, [](const auto& entry) { return entry.is_structured(); })) {
            std::vector<std::string> plain;
            for (const auto& entry : value) plain.push_back(shown(test, entry, report, unit));
            return plain.empty() ? "none" : fmt::format("{}", fmt::join(plain, " "));
        }
        std::string lines;
        for (const auto& entry : value) lines += "\n    " + shown(test, entry, report, unit);
        return lines;
    }
    const std::string number = showMeasure(value.get<double>());
    return std::ranges::find(report.lengths, test) != report.lengths.end()
               ? fmt::format("{}\u202f{}", number, unit)
               : number;
}

class Try : public Command {
public:
    std::string name() const override { return "try"; }
    std::string help() const override {
        return "load delivered files into the platform's stand-in and test them";
    }
    void declare(CLI::App& app) override {
        app.add_option("DIR", folder_, "folder with the delivered files")->required();
        app.add_option("--platform", platform_, "platform id")->required();
        app.add_option("--picture", picture_,
                       "draw what stands there, as PNG with a clear ground (1280 by 800)");
        app.add_option("--choose", choices_, "what is chosen for the picture, such as light=lamp")
            ->needs("--picture");
        app.add_option("--project", project_, "also read the sheets of this project folder");
        app.add_option("--like", like_, "folder, archive or model that the game takes, to compare with; of many pieces the nearest");
    }

    int execute(const Progress& progress) override {
        const auto sheet =
            platform::sheetNamed(platform::loadSheets(project_, nullptr, sheetWords()), platform_);
        const auto* standIn = standins::standInNamed(sheet->standIn);
        if (!standIn) throw Refused(fmt::format("{} has no stand-in", sheet->name));
        if (!std::filesystem::is_directory(folder_))
            throw Error("is not a folder", folder_, "Build the piece into it first.");
        progress.report(0, "trying");
        auto terms = platform::fileTerms(*sheet);
        terms.like = like_;
        const auto report = standIn->tried(folder_, terms);
        const std::string unit(standIn->tryUnder ? std::string_view(sheet->unitName) : standIn->unit);
        constexpr std::string_view kinds[] = {"fine", "odd", "refused"};
        nlohmann::ordered_json out{{"platform", sheet->id},
                                   {"accepted", report.accepted},
                                   {"messages", nlohmann::ordered_json::array()},
                                   {"unit", unit},
                                   {"tests", report.tests}};
        for (const auto& message : report.messages) {
            const auto kind = kinds[static_cast<int>(message.kind)];
            out["messages"].push_back(
                {{"kind", kind}, {"file", message.file}, {"text", message.text}, {"detail", message.detail}});
            if (!json)
                std::cout << fmt::format("  {:<8} {}{}{}{}\n", kind, message.file,
                                         message.file.empty() ? "" : ": ", message.text,
                                         message.detail.empty() ? "" : fmt::format(" ({})", message.detail));
        }
        if (!picture_.empty()) {
            draw(*standIn);
            out["picture"] = picture_;
        }
        if (json) {
            print(out);
        } else {
            for (const auto& [test, value] : report.tests.items())
                std::cout << fmt::format("  {:<26} {}\n", inWords(test), shown(test, value, report, unit));
            std::cout << (report.accepted ? "accepted\n" : "refused\n");
        }
        return report.accepted ? Fine : DoesNotFit;
    }

private:
    void draw(const standins::StandIn& standIn) const {
        standins::TryReport report;
        const auto arena = standIn.open(folder_, report);
        if (!arena) throw Refused("there is nothing to draw", folder_, "See what was refused.");
        if (!arena->shading())
            throw Refused(fmt::format("the {} draws only in the window", standIn.name), {},
                          "Leave out --picture.");
        for (const std::string& wanted : choices_) choose(*arena, wanted);
        const auto drawn = arena->drawn();
        const auto [low, high] = standins::world::boxAround(*arena->shading(), drawn);
        const auto still = standins::world::rayStill(*arena->shading(), drawn,
                                                     standins::world::lensFor(low, high, 1280, 800));
        writeFile(picture_, texture::encodePng({still.width, still.height, still.rgba}, true));
    }

    static void choose(standins::world::Arena& arena, const std::string& wanted) {
        const std::size_t sign = wanted.find('=');
        const std::string name = wanted.substr(0, sign),
                          option = sign == std::string::npos ? "" : wanted.substr(sign + 1);
        std::vector<std::string> known;
        for (const auto& choice : arena.choices())
            for (std::size_t k = 0; k < choice.options.size(); ++k) {
                if (choice.id == name && choice.options[k] == option) return arena.choose(name, int(k));
                known.push_back(choice.id + "=" + choice.options[k]);
            }
        throw Error(fmt::format("\"{}\" cannot be chosen", wanted), {},
                    fmt::format("There are {}.", fmt::join(known, ", ")));
    }

    std::vector<std::string> choices_;
    std::string picture_;
    std::string folder_, platform_, project_, like_;
};

} // namespace

std::unique_ptr<Command> makeTry() {
    return std::make_unique<Try>();
}

} // namespace zl::cli
