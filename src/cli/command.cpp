#include "cli/command.h"

#include "core/base/error.h"
#include "core/base/json_text.h"
#include "core/base/words.h"
#include "core/deliver/deliver.h"
#include "core/geometry/world.h"
#include "core/project/companions.h"

#include "standins/stand_in.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <iostream>

namespace zl::cli {

void Command::print(const nlohmann::ordered_json& document) {
    std::cout << jsonText(document, 2) << std::endl;
}

void FrameOptions::declare(CLI::App& app) {
    app.add_option("--unit", unit, "unit of the file's numbers: mm, cm, dm, m, in, ft");
    app.add_option("--up", up, "axis that points up in the file: y or z");
}

Model FrameOptions::applied(Model model) const {
    SourceFrame frame = model.frame;
    if (!unit.empty()) frame.unit = unitNamed(unit), frame.unitAssumed = false;
    if (!up.empty()) frame.up = upNamed(up), frame.upAssumed = false;
    return unit.empty() && up.empty() ? model : withFrame(std::move(model), frame);
}

nlohmann::ordered_json toJson(const geometry::Bounds& bounds) {
    const geometry::Bounds b = bounds.empty() ? geometry::Bounds{glm::dvec3(0), glm::dvec3(0)} : bounds;
    return {{"min", {b.min.x, b.min.y, b.min.z}}, {"max", {b.max.x, b.max.y, b.max.z}}};
}

nlohmann::ordered_json toJson(const platform::FitReport& report) {
    auto rules = nlohmann::ordered_json::array();
    for (const auto& rule : report.rules)
        rules.push_back({{"id", rule.id},
                         {"label", rule.label},
                         {"severity", platform::severityName(rule.severity)},
                         {"state", platform::stateName(rule.state)},
                         {"measured", rule.finding.measured},
                         {"value", rule.finding.value},
                         {"limit", rule.finding.limit},
                         {"share", rule.finding.share},
                         {"message", rule.finding.note + ". " + rule.message},
                         {"names", rule.finding.names},
                         {"mends", rule.mends}});
    return rules;
}

std::string describe(const platform::FitReport& report) {
    std::string out;
    for (const auto& rule : report.rules) {
        const char* mark = rule.state == platform::State::Broken
                               ? (rule.severity == platform::Severity::Must ? "!!" : " !")
                           : rule.state == platform::State::Tight ? " ~"
                                                                  : "ok";
        out += fmt::format("  {} {:<20} {:<16} {:<18} {}\n", mark, rule.label, rule.finding.measured,
                           rule.finding.limit, rule.finding.note);
        if (rule.state == platform::State::Broken && rule.finding.names.size() > 1)
            out += fmt::format("     {:<20} {}\n", "", showNames(rule.finding.names));
    }
    return out;
}

void Input::declare(CLI::App& app) {
    app.add_option("INPUT", path, "model file or project")->required();
    app.add_option("--project", sheetFolder, "read the sheets of this project folder");
}

void Input::open() {
    const std::filesystem::path file = path;
    isProject = file.extension() == ".zestloom" || file.extension() == ".autosave";
    if (isProject) {
        project = project::load(file);
    } else {
        project::Piece piece;
        piece.name = file.stem().string();
        piece.sources.push_back({std::filesystem::absolute(file), "", "", project::Permission::OwnWork});
        project.pieces.push_back(piece);
    }
    std::filesystem::path folder =
        isProject ? project.folder() : std::filesystem::absolute(file).parent_path();
    std::error_code ignored;
    if (!sheetFolder.empty())
        folder = sheetFolder;
    else if (!isProject && !std::filesystem::is_directory(folder / "platforms", ignored))
        folder = std::filesystem::current_path(ignored); // where one works, the model may be from anywhere
    sheets = platform::loadSheets(folder, &sheetProblems, sheetWords());
    for (const std::string& problem : sheetProblems)
        std::cerr << "zest-loom-cli: a platform sheet was left out: " << problem << std::endl;
}

platform::Vocabulary sheetWords() {
    return deliver::sheetWords(standins::standInIds());
}

const project::Piece& Input::onePiece(const std::string& name) const {
    const auto meant = pieces(name);
    if (meant.size() > 1)
        throw Error(fmt::format("the project has {} pieces", meant.size()), project.file.string(),
                    "Name one with --piece.");
    return *meant.front();
}

std::vector<const project::Piece*> Input::pieces(const std::string& name) const {
    std::vector<const project::Piece*> out;
    for (const auto& piece : project.pieces)
        if (name.empty() || piece.name == name) out.push_back(&piece);
    const std::string all = inARow(project.pieces, &project::Piece::name);
    if (out.empty())
        throw Error(name.empty() ? "the project has no pieces"
                                 : fmt::format("there is no piece \"{}\"", name),
                    {}, all.empty() ? "" : "Use one of " + all + ".");
    return out;
}

recipe::Evaluation Input::evaluated(const project::Piece& piece, const platform::Sheet& sheet,
                                    const FrameOptions& frame, recipe::EvaluationCache& results,
                                    const Progress& progress) {
    const auto loaded = cache.load(project, piece, progress.between(0, 0.4));
    const project::Companions around(project, piece, sheet, cache, &results, progress);
    return recipe::evaluate(frame.applied(loaded.model), loaded.hash, recipeFor(piece, sheet.id),
                            {&sheet, &around}, &results, progress.between(0.4, 1));
}

std::string inWords(std::string_view key) {
    std::string words;
    for (const char c : key)
        if (c >= 'A' && c <= 'Z')
            words += {' ', static_cast<char>(c - 'A' + 'a')};
        else
            words += c == '-' ? ' ' : c;
    return words;
}

} // namespace zl::cli
