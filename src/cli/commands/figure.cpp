// `figure`: a figure to dress, to pose, and to work against.
#include "cli/commands/all_commands.h"

#include "core/base/file_set.h"
#include "core/figure/figure.h"
#include "core/formats/format.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class FigureOf : public Command {
public:
    std::string name() const override { return "figure"; }
    std::string help() const override { return "write a figure of 24 bones as GLB"; }
    void declare(CLI::App& app) override {
        app.add_option("KIND", kind_, "kid, grown-a, grown-b or elder")->required();
        app.add_option("OUT", out_, "GLB to write")->required();
    }

    int execute(const Progress& progress) override {
        const Model model = figure::figureOf(figure::kindNamed(kind_));
        progress.report(0.7, "writing");
        const auto files = formats::writeGlb(model, {"figure"}, nullptr);
        writeFile(out_, files.at(0).bytes);
        if (json)
            print({{"path", out_},
                   {"bones", model.skins[0].joints.size()},
                   {"triangles", triangleCount(model)},
                   {"bytes", files[0].bytes.size()}});
        else
            std::cout << fmt::format("wrote {} ({} bones, {} triangles)\n", out_,
                                     model.skins[0].joints.size(), triangleCount(model));
        return Fine;
    }

private:
    std::string kind_, out_;
};

} // namespace

std::unique_ptr<Command> makeFigure() {
    return std::make_unique<FigureOf>();
}

} // namespace zl::cli
