#include "cli/commands/all_commands.h"

#include "core/base/clock.h"
#include "core/base/file_set.h"
#include "core/base/json_text.h"
#include "core/deliver/deliver.h"
#include "core/planner/planner.h"
#include "core/project/build_all.h"
#include "core/project/dependencies.h"
#include "core/project/other_sizes.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Build : public Command {
public:
    std::string name() const override { return "build"; }
    std::string help() const override { return "run the recipe and write the platform's files"; }
    void declare(CLI::App& app) override {
        input_.declare(app);
        app.add_option("--platform", platform_, "platform id; with --all, only this one");
        app.add_option("--out", out_, "folder for the files")->required();
        app.add_flag("--all", all_,
                     "every crossing of the project, side by side; unchanged ones are left alone");
        app.add_option("--jobs", jobs_, "crossings at a time with --all (as many as cores)")
            ->check(CLI::Range(1, 256));
        app.add_option("--ninja", ninja_,
                       "write the work as a build file for a Ninja-compatible runner instead");
        app.add_option("--depfile", depfile_,
                       "also write which files it rests on, for a build runner (FILE.d is about FILE)");
        delivery_.declare(app);
        app.add_option("--yardstick", yardstick_,
                       "model of a known object to measure against (not delivered)");
        app.add_option("--piece", piece_, "piece of the project to build");
        app.add_option("--name", name_, "what the files are named after");
        app.add_option("--recipe", recipe_, "recipe file to run instead of the project's own");
        app.add_flag("--suggest", suggest_, "add the steps that make it fit");
        frame_.declare(app);
        archives.declare(app);
        answers_.declare(app);
    }

    int execute(const Progress& progress) override {
        const Stopwatch watch;
        answers_.steps(suggest_); // refuse what is no answer, also where many are built
        input_.open();
        if (!yardstick_.empty())
            input_.project.yardsticks.push_back({std::filesystem::path(yardstick_).stem().string(),
                                                 std::filesystem::absolute(yardstick_), "", ""});
        if (all_ || !ninja_.empty()) return buildAll(progress);
        if (platform_.empty())
            throw Error("no platform is named", "build", "Say one with --platform, or --all.");
        const auto sheet = platform::sheetNamed(input_.sheets, platform_);
        const recipe::Recipe answers = answers_.steps(suggest_, sheet.get());
        const project::Piece& piece = input_.onePiece(piece_);
        const auto wanted = params(piece, *sheet);
        deliver::deliverableFor(*sheet, wanted); // refuse before the long work
        deliver::Labels labels = project::labelsFor(input_.project, piece, sheet->id);
        if (!name_.empty()) labels.name = name_;
        const auto loaded = input_.cache.load(input_.project, piece, progress.between(0, 0.2));
        const double readSeconds = watch.seconds();
        const Model source = frame_.applied(loaded.model);
        auto recipe = recipe_.empty() ? recipeFor(piece, sheet->id) : readRecipe();
        recipe::EvaluationCache cache;
        const project::Companions around(input_.project, piece, *sheet, input_.cache, &cache, progress);
        const auto others = project::otherSizes(input_.project, piece, *sheet, input_.cache, &cache,
                                                progress.between(0.1, 0.2));
        if (suggest_) {
            const auto evaluation = recipe::evaluate(source, loaded.hash, recipe, {sheet.get(), &around},
                                                     &cache, progress.between(0.2, 0.5));
            const auto plan = planner::plan(
                evaluation.model, *sheet, &cache, evaluation.key, progress.between(0.5, 0.8), answers,
                deliver::madeSizes(labels.sizes.first, others, recipe, *sheet, &cache, progress.silent()));
            for (const recipe::Entry& entry : plan.recipe()) recipe.push_back(entry);
            const auto result = deliver::build(source, loaded.hash, recipe, *sheet, out_, labels, wanted,
                                               &cache, progress.between(0.8, 1), &around, others);
            auto reasons = plan.reasons;
            for (const auto& question : plan.questions)
                if (question.waits()) reasons.push_back(AnswerOptions::asking(question));
            return report(result, piece, labels.credit, *sheet, readSeconds, watch.seconds(), reasons);
        }
        const auto result = deliver::build(source, loaded.hash, recipe, *sheet, out_, labels, wanted, &cache,
                                           progress.between(0.2, 1), &around, others);
        if (!depfile_.empty() && result.fits)
            writeFile(depfile_, project::dependencyRule(std::filesystem::path(depfile_).replace_extension(),
                                                        filesBehind(around, loaded.model, others)));
        return report(result, piece, labels.credit, *sheet, readSeconds, watch.seconds(), {});
    }

private:
    static std::vector<std::filesystem::path> filesBehind(const project::Companions& around, const Model& own,
                                                          const std::vector<deliver::OtherSize>& others) {
        auto files = around.filesWith(own);
        for (const auto& file : project::filesOf(others)) files.push_back(file);
        return files;
    }

    int buildAll(const Progress& progress) {
        const Stopwatch watch;
        if (!input_.isProject)
            throw Error("is not a project", input_.path, "--all and --ninja work on a *.zestloom file.");
        project::BuildAllOptions wanted{std::filesystem::absolute(out_), jobs_, {}, {}};
        if (!piece_.empty()) wanted.pieces = {input_.pieces(piece_)[0]->name};
        if (!platform_.empty()) wanted.platforms = {platform::sheetNamed(input_.sheets, platform_)->id};
        if (!ninja_.empty()) {
            std::error_code error;
            const auto program = std::filesystem::read_symlink("/proc/self/exe", error);
            writeFile(ninja_, project::ninjaFile(input_.project, input_.sheets, wanted, program.string()));
            if (json)
                print({{"ninja", ninja_},
                       {"edges", deliverableCrossings(input_.project, input_.sheets, wanted).size()}});
            else
                std::cout << fmt::format("wrote {}\n", ninja_);
            return Fine;
        }
        const auto results = project::buildAll(input_.project, input_.sheets, input_.cache, wanted, progress);
        bool fine = true;
        auto list = nlohmann::ordered_json::array();
        for (const auto& result : results) {
            using enum project::BuiltCrossing::Outcome;
            fine &= result.outcome == Built || result.outcome == Unchanged;
            for (const std::string& warning : result.warnings)
                std::cerr << "zest-loom-cli: " << warning << std::endl;
            auto files = nlohmann::ordered_json::array();
            for (const auto& [path, bytes] : result.files)
                files.push_back({{"path", path}, {"bytes", bytes}});
            list.push_back({{"piece", result.piece},
                            {"platform", result.platform},
                            {"outcome", outcomeId(result.outcome)},
                            {"seconds", result.seconds},
                            {"files", files},
                            {"words", result.words},
                            {"credits", result.credit}});
            if (!json)
                std::cout << fmt::format("  {:<24} {:<14} {:<13} {:>8}  {}\n", result.piece, result.platform,
                                         inWords(outcomeId(result.outcome)), showSeconds(result.seconds),
                                         result.words.empty()
                                             ? showCount(long(result.files.size()), "file", "files")
                                             : result.words);
        }
        if (json)
            print({{"fine", fine}, {"crossings", list}, {"seconds", watch.seconds()}});
        else
            std::cout << fmt::format("{} in {}\n", showCount(long(results.size()), "crossing", "crossings"),
                                     showSeconds(watch.seconds()));
        return fine ? Fine : DoesNotFit;
    }

    nlohmann::json params(const project::Piece& piece, const platform::Sheet& sheet) const {
        return delivery_.over(deliveryFor(piece, sheet.id), sheet);
    }

    recipe::Recipe readRecipe() const {
        std::string fault;
        const auto json = parsedJson(readText(recipe_), &fault);
        if (json.is_discarded())
            throw Error("is not JSON: it " + fault, recipe_,
                        "A recipe is a list of {\"step\": …, \"params\": {…}}.");
        return recipe::fromJson(json.is_object() && json.contains("recipe") ? json["recipe"] : json);
    }

    int report(const deliver::BuildResult& result, const project::Piece& piece, const std::string& credit,
               const platform::Sheet& sheet, double readSeconds, double seconds,
               const std::vector<std::string>& reasons) {
        std::vector<std::string> warnings;
        for (const std::string& warning : permissionWarnings(piece)) {
            warnings.push_back(warning);
            std::cerr << "zest-loom-cli: " << warning << std::endl;
        }
        nlohmann::ordered_json out{{"piece", piece.name},
                                   {"platform", sheet.id},
                                   {"fits", result.fits},
                                   {"files", nlohmann::ordered_json::array()},
                                   {"steps", nlohmann::ordered_json::array()}};
        for (const auto& [path, bytes] : result.files)
            out["files"].push_back({{"path", path}, {"bytes", bytes}});
        out["steps"].push_back({{"step", "read"}, {"seconds", readSeconds}, {"note", ""}});
        for (const auto& step : result.steps) {
            std::string note;
            for (const std::string& n : step.notes) note += (note.empty() ? "" : "; ") + n;
            out["steps"].push_back(
                {{"step", step.step}, {"seconds", step.seconds}, {"note", note}, {"facts", step.facts}});
        }
        out["seconds"] = seconds;
        out["credits"] = credit;
        out["warnings"] = warnings;
        out["rules"] = toJson(result.report);
        out["reasons"] = reasons;
        if (json) {
            print(out);
        } else {
            for (const auto& step : out["steps"])
                std::cout << fmt::format("  {:<18} {:>8}  {}\n", step["step"].get<std::string>(),
                                         showSeconds(step["seconds"]), step["note"].get<std::string>());
            if (!result.fits)
                std::cout << fmt::format("{} does not fit {}; nothing was written\n{}", piece.name,
                                         sheet.name, describe(result.report));
            for (const std::string& reason : reasons) std::cout << "  stays broken: " << reason << '\n';
            for (const auto& [path, bytes] : result.files)
                std::cout << fmt::format("  wrote {} ({})\n", path, showBytes(double(bytes)));
            if (result.fits) std::cout << fmt::format("done in {}\n", showSeconds(seconds));
        }
        return result.fits ? Fine : DoesNotFit;
    }

    Input input_;
    std::string platform_, out_, piece_, name_, recipe_;
    std::string ninja_, depfile_, yardstick_;
    int jobs_ = 0;
    bool suggest_ = false, all_ = false;
    DeliveryOptions delivery_;
    FrameOptions frame_;
    AnswerOptions answers_;
};

} // namespace

std::unique_ptr<Command> makeBuild() {
    return std::make_unique<Build>();
}

} // namespace zl::cli
