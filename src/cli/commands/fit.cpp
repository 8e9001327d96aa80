#include "cli/commands/all_commands.h"

#include "core/project/other_sizes.h"
#include "core/planner/planner.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <iostream>

namespace zl::cli {

namespace {

class Fit : public Command {
public:
    std::string name() const override { return "fit"; }
    std::string help() const override { return "check a model or a project's pieces against a platform"; }
    void declare(CLI::App& app) override {
        input_.declare(app);
        app.add_option("--platform", platform_, "platform id")->required();
        app.add_option("--piece", piece_, "only this piece of the project");
        app.add_flag("--suggest", suggest_, "propose steps that make it fit");
        frame_.declare(app);
        archives.declare(app);
        answers_.declare(app);
    }

    int execute(const Progress& progress) override {
        input_.open();
        const auto sheet = platform::sheetNamed(input_.sheets, platform_);
        // Refuse what is no answer before the long work.
        const auto answers = answers_.steps(suggest_, sheet.get());
        auto documents = nlohmann::ordered_json::array();
        bool allFit = true;
        auto pieces = input_.pieces(piece_);
        // Of a whole project those that are made for the platform, where any are.
        const auto isFor = [&](const project::Piece* piece) { return piece->on(sheet->id) != nullptr; };
        if (piece_.empty() && std::ranges::any_of(pieces, isFor))
            std::erase_if(pieces, [&](const auto* piece) { return !isFor(piece); });
        for (std::size_t i = 0; i < pieces.size(); ++i) {
            const Progress part = progress.between(double(i) / pieces.size(), double(i + 1) / pieces.size());
            documents.push_back(one(*pieces[i], *sheet, answers, part, allFit));
        }
        if (json)
            print(documents.size() == 1 ? documents[0]
                                        : nlohmann::ordered_json{{"platform", sheet->id},
                                                                 {"fits", allFit},
                                                                 {"pieces", documents}});
        return allFit ? Fine : DoesNotFit;
    }

private:
    nlohmann::ordered_json one(const project::Piece& piece, const platform::Sheet& sheet,
                               const recipe::Recipe& answers, const Progress& progress, bool& allFit) {
        recipe::EvaluationCache cache;
        const auto recipe = recipeFor(piece, sheet.id);
        const auto evaluation = input_.evaluated(piece, sheet, frame_, cache, progress.between(0, 0.7));
        const auto others = project::otherSizes(input_.project, piece, sheet, input_.cache, &cache, progress);
        const Sizes sizes =
            deliver::madeSizes(piece.sources[0].size, others, recipe, sheet, &cache, progress.silent());
        const auto report = platform::check(evaluation.model, sheet, {}, sizes);
        allFit &= report.fits();
        nlohmann::ordered_json out{{"piece", piece.name},
                                   {"platform", sheet.id},
                                   {"fits", report.fits()},
                                   {"rules", toJson(report)},
                                   {"suggested", nlohmann::ordered_json::array()}};
        if (!json)
            std::cout << fmt::format("{} on {}: {}\n{}", piece.name, sheet.name,
                                     report.fits() ? "fits" : "does not fit", describe(report));
        if (!suggest_) return out;
        const auto plan =
            planner::plan(evaluation.model, sheet, nullptr, 0, progress.between(0.7, 1), answers, sizes);
        for (const auto& step : plan.steps) {
            out["suggested"].push_back({{"step", step.entry.step},
                                        {"params", step.entry.params},
                                        {"before", step.before},
                                        {"after", step.after},
                                        {"why", step.why},
                                        {"required", step.required}});
            if (!json)
                std::cout << fmt::format("  + {:<18} {} → {}\n", step.entry.step, step.before, step.after);
        }
        out["fitsAfter"] = plan.holds;
        out["reasons"] = plan.reasons;
        out["questions"] = nlohmann::ordered_json::array();
        for (const auto& question : plan.questions)
            out["questions"].push_back({{"rule", question.rule},
                                        {"step", question.step},
                                        {"words", question.words},
                                        {"goesBy", question.goesBy}});
        if (!json) {
            for (const auto& question : plan.questions)
                std::cout << "  asks: " << AnswerOptions::asking(question) << '\n';
            if (plan.holds) std::cout << "  then it fits\n";
            for (const std::string& reason : plan.reasons) std::cout << "  stays broken: " << reason << '\n';
        }
        return out;
    }

    Input input_;
    std::string platform_, piece_;
    bool suggest_ = false;
    FrameOptions frame_;
    AnswerOptions answers_;
};

} // namespace

std::unique_ptr<Command> makeFit() {
    return std::make_unique<Fit>();
}

} // namespace zl::cli
