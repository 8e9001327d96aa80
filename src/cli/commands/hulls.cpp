// `hulls`: a model as a few convex pieces, and how well they stand for it.
#include "cli/commands/all_commands.h"

#include "core/base/clock.h"
#include "core/contact/convex_pieces.h"
#include "core/contact/pieces_fit.h"
#include "core/formats/format.h"
#include "core/geometry/world.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Hulls : public Command {
public:
    std::string name() const override { return "hulls"; }
    std::string help() const override {
        return "take a model apart into convex pieces for physics, and measure what they fill and leave out";
    }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "model file")->required();
        app.add_option("--pieces", goal_.pieces, "pieces at most")->check(CLI::Range(1, 256));
        app.add_option("--corners", goal_.corners, "corners of a piece at most")->check(CLI::Range(4, 255));
        frame_.declare(app);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const Mesh mesh =
            geometry::flattened(frame_.applied(formats::readModel(file_, progress.between(0, 0.2))));
        const Stopwatch watch;
        const auto pieces = contact::convexPieces(mesh, goal_, progress.between(0.2, 0.9));
        const double seconds = watch.seconds();
        const auto fit = contact::fitOf(mesh, pieces, progress.between(0.9, 1));
        std::size_t corners = 0;
        for (const Mesh& piece : pieces) corners = std::max(corners, piece.vertexCount());
        if (json) {
            print({{"pieces", pieces.size()},
                   {"corners", corners},
                   {"volume", fit.volume},
                   {"filled", fit.filled},
                   {"missing", fit.missing},
                   {"largestDistance", fit.largestDistance},
                   {"unknown", fit.unknown},
                   {"seconds", seconds}});
            return Fine;
        }
        std::cout << fmt::format("  {}, of {} at most, in {}\u202fs\n",
                                 showCount(long(pieces.size()), "piece", "pieces"),
                                 showCount(long(corners), "corner", "corners"), showMeasure(seconds));
        if (fit.unknown > 0.5)
            std::cout << "  the surface is open, so what is inside cannot be told\n";
        else
            std::cout << fmt::format("  {} % too much, {} % missing, at most {}\u202fm off\n",
                                     showNumber(100 * fit.filledShare(), 1),
                                     showNumber(100 * fit.missingShare(), 1),
                                     showMeasure(fit.largestDistance));
        return Fine;
    }

private:
    std::string file_;
    FrameOptions frame_;
    contact::PiecesGoal goal_;
};

} // namespace

std::unique_ptr<Command> makeHulls() {
    return std::make_unique<Hulls>();
}

} // namespace zl::cli
