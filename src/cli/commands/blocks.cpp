// `blocks`: a model as a build of blocks, and what came of it.
#include "cli/commands/all_commands.h"

#include "core/base/clock.h"
#include "core/base/file_set.h"
#include "core/base/words.h"
#include "core/formats/format.h"
#include "core/formats/hull_file.h"
#include "core/steps/build_of_blocks.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Blocks : public Command {
public:
    std::string name() const override { return "blocks"; }
    std::string help() const override {
        return "build a model of a platform's blocks, and count what it takes";
    }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "model file")->required();
        app.add_option("--platform", platform_, "platform whose blocks are taken (hullyard)");
        auto* length =
            app.add_option("--length", blocks_, "so many blocks along")->check(CLI::Range(1, 2000));
        auto* metres = app.add_option("--metres", metres_, "its real length in metres")
                           ->check(CLI::Range(0.001, 100000.0))
                           ->excludes(length);
        app.add_option("--factor", factor_, "so many times as large as it is")
            ->check(CLI::Range(1e-4, 1e4))
            ->excludes(length)
            ->excludes(metres);
        using Step = steps::BuildOfBlocks;
        for (const auto& [field, choices] : {std::pair("axis", std::span<const steps::Choice>(Step::axes)),
                                             {"slopes", Step::slopeUses},
                                             {"both", Step::halves},
                                             {"inside", Step::insides},
                                             {"thin", Step::thins}})
            app.add_option(std::string("--") + field, words_[field],
                           inARow(choices, [](const steps::Choice& one) { return one.id; }));
        app.add_option("--wall", wall_, "blocks that a hollow build's wall is thick")
            ->check(CLI::Range(1, 64));
        app.add_option("--strays", strays_, "pieces of fewer blocks are dropped")
            ->check(CLI::Range(0, 100000));
        app.add_option("--out", out_, "XML file to write");
        frame_.declare(app);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const Model model = frame_.applied(formats::readModel(file_, progress.between(0, 0.3)));
        const auto sheet = platform::sheetNamed(platform::loadSheets({}, nullptr, sheetWords()), platform_);
        const auto step = steps::makeStep(steps::BuildOfBlocks::info.id, params());
        const Progress building = progress.between(0.3, 1);
        steps::StepContext context{building, sheet.get()};
        const Stopwatch watch;
        const Model built = step->apply(model, context);
        const double seconds = watch.seconds();
        const blocks::Hull& hull = *built.blocks;
        if (!out_.empty())
            writeFile(out_, formats::writeHull({built.name, hull.edge, hull.paints, hull.build}));
        if (json) {
            nlohmann::ordered_json told;
            for (const char* fact : {"size", "metres", "count", "byKind", "components", "symmetric",
                                     "volumeError", "largest", "factor", "left", "right", "plane", "strays",
                                     "withoutSlopes", "withoutHollow", "kilograms"})
                told[fact] = context.facts[fact];
            told["seconds"] = seconds;
            print(told);
            return Fine;
        }
        for (const std::string& note : context.notes) std::cout << "  " << note << '\n';
        std::cout << fmt::format("  in {}\u202fs\n", showMeasure(seconds));
        return Fine;
    }

private:
    nlohmann::json params() const {
        nlohmann::json out = nlohmann::json::object();
        for (const auto& [field, word] : words_)
            if (!word.empty()) out[field] = word;
        if (factor_ > 0) out["by"] = "factor", out["factor"] = factor_;
        if (metres_ > 0) out["by"] = "length", out["length"] = metres_;
        if (blocks_ > 0) out["by"] = "blocks", out["blocks"] = blocks_;
        if (wall_ > 0) out["wall"] = wall_;
        if (strays_ >= 0) out["strays"] = strays_;
        return out;
    }

    std::string file_, platform_ = "hullyard", out_;
    std::map<std::string, std::string> words_;
    int blocks_ = 0, wall_ = 0, strays_ = -1;
    double metres_ = 0, factor_ = 0;
    FrameOptions frame_;
};

} // namespace

std::unique_ptr<Command> makeBlocks() {
    return std::make_unique<Blocks>();
}

} // namespace zl::cli
