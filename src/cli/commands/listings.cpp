// `platforms` and `steps`: what there is to choose from.
#include "cli/commands/all_commands.h"

#include "core/base/json_text.h"
#include "core/steps/manual.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Platforms : public Command {
public:
    std::string name() const override { return "platforms"; }
    std::string help() const override { return "list the platforms and their limits"; }
    void declare(CLI::App& app) override {
        app.add_option("--project", folder_, "also read the sheets of this project folder");
        app.add_flag("--manual", manual_, "write the manual's page of deliverables, in Markdown");
    }

    int execute(const Progress&) override {
        if (manual_) {
            if (json) throw Error("two kinds of output are asked for", {}, "Leave out --manual or --json.");
            std::cout << deliver::manual();
            return Fine;
        }
        std::vector<std::string> problems;
        auto out = nlohmann::ordered_json::array();
        for (const auto& sheet : platform::loadSheets(folder_, &problems, sheetWords())) {
            auto rules = nlohmann::ordered_json::array();
            for (const auto& rule : sheet->rules)
                rules.push_back({{"id", rule.id},
                                 {"check", rule.check},
                                 {"label", rule.label},
                                 {"severity", platform::severityName(rule.severity)},
                                 {"limits", rule.limits},
                                 {"message", rule.message},
                                 {"mends", rule.mends}});
            out.push_back({{"id", sheet->id},
                           {"name", sheet->name},
                           {"kind", sheet->kind},
                           {"about", sheet->about},
                           {"unit", {{"name", sheet->unitName}, {"metres", sheet->metresPerUnit}}},
                           {"up", upName(sheet->up)},
                           {"front", sheet->front},
                           {"figure", sheet->figureHeight},
                           {"delivers", !sheet->deliverable.empty()},
                           {"standIn", sheet->standIn},
                           {"file", sheet->file.string()},
                           {"rules", rules}});
            if (json) continue;
            std::cout << fmt::format("{:<14} {}, {}: 1 {} is {} m, {} up, a figure is {} tall\n", sheet->id,
                                     sheet->name, sheet->kind, sheet->unitName,
                                     showMeasure(sheet->metresPerUnit), upName(sheet->up),
                                     sheet->showLength(sheet->figureMetres()));
        }
        for (const std::string& problem : problems)
            std::cerr << "zest-loom-cli: a sheet was left out: " << problem << std::endl;
        if (json) print({{"platforms", out}, {"problems", problems}});
        return problems.empty() ? Fine : BadInput;
    }

private:
    std::string folder_;
    bool manual_ = false;
};

class Steps : public Command {
public:
    std::string name() const override { return "steps"; }
    std::string help() const override { return "list the steps a recipe can have, and their parameters"; }
    void declare(CLI::App& app) override {
        app.add_flag("--manual", manual_, "write the manual's page of steps, in Markdown");
    }

    int execute(const Progress&) override {
        if (manual_) {
            if (json) throw Error("two kinds of output are asked for", {}, "Leave out --manual or --json.");
            std::cout << steps::manual();
            return Fine;
        }
        auto out = nlohmann::ordered_json::array();
        for (const auto& step : steps::allSteps()) {
            auto fields = nlohmann::ordered_json::array();
            const auto defaults = step->params();
            if (!json)
                std::cout << fmt::format("{} — {}. {}\n", step->info().id, step->info().name,
                                         step->info().help);
            for (const auto& field : step->fields()) {
                nlohmann::ordered_json f{{"name", field.name},
                                         {"label", field.label},
                                         {"kind", field.type().name()},
                                         {"default", defaults[std::string(field.name)]},
                                         {"help", field.explanation}};
                std::string choices;
                for (const auto& choice : field.choices) {
                    f["choices"].push_back(choice.id);
                    choices += fmt::format("{}{}", choices.empty() ? " (" : ", ", choice.id);
                }
                if (!json)
                    std::cout << fmt::format("    {:<14} {}{} [{}]\n", field.name, field.explanation,
                                             choices.empty() ? "" : choices + ")",
                                             jsonText(defaults[std::string(field.name)]));
                if (field.type().isNumber()) {
                    f["least"] = field.least;
                    f["most"] = field.most;
                }
                fields.push_back(std::move(f));
            }
            out.push_back({{"id", step->info().id},
                           {"name", step->info().name},
                           {"stage", steps::stageName(step->info().stage)},
                           {"help", step->info().help},
                           {"fields", fields}});
        }
        if (json) print({{"steps", out}});
        return Fine;
    }

private:
    bool manual_ = false;
};

} // namespace

std::unique_ptr<Command> makePlatforms() {
    return std::make_unique<Platforms>();
}
std::unique_ptr<Command> makeSteps() {
    return std::make_unique<Steps>();
}

} // namespace zl::cli
