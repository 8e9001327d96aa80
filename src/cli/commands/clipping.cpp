// `clipping`: how far one model reaches into another.
#include "cli/commands/all_commands.h"

#include "core/base/clock.h"
#include "core/formats/format.h"
#include "core/geometry/clipping.h"
#include "core/geometry/world.h"
#include "core/motion/attached.h"
#include "core/motion/posed.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

std::vector<geometry::Body> bodiesAtRest(const Model& model) {
    std::vector<int> nodeOfTriangle;
    Mesh flat = geometry::flattened(model, &nodeOfTriangle);
    motion::poseFlattened(model, motion::posed(model, Clip{}, 0), flat); // a skin follows its joints
    return geometry::bodiesOf(model, flat, nodeOfTriangle);
}

class ClippingOf : public Command {
public:
    std::string name() const override { return "clipping"; }
    std::string help() const override { return "find where the parts of two models reach into one another"; }
    void declare(CLI::App& app) override {
        app.add_option("ITEM", item_, "model, such as something worn")->required();
        app.add_option("FIGURE", figure_, "model that it is beside or on")->required();
        app.add_option("--on", bone_, "bone of the second that the first hangs on");
        app.add_option("--within", within_, "metres that count as touching")->check(CLI::NonNegativeNumber);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        Model item = formats::readModel(item_, progress.between(0, 0.3));
        const Model figure = formats::readModel(figure_, progress.between(0.3, 0.6));
        if (!bone_.empty()) item = motion::attachedTo(std::move(item), figure, bone_);
        const Stopwatch watch;
        const auto these = bodiesAtRest(item), those = bodiesAtRest(figure);
        const auto found = geometry::overlaps(these, those, within_, progress.between(0.6, 1));
        if (json) {
            nlohmann::ordered_json out{{"pairs", nlohmann::ordered_json::array()},
                                       {"milliseconds", watch.seconds() * 1000}};
            for (const geometry::Overlap& overlap : found)
                out["pairs"].push_back({{"a", these[overlap.a].name()},
                                        {"b", those[overlap.b].name()},
                                        {"faces", overlap.faces},
                                        {"deepest", overlap.deepest},
                                        {"place", {overlap.place.x, overlap.place.y, overlap.place.z}}});
            print(out);
        } else if (found.empty()) {
            std::cout << "nothing reaches into the other\n";
        } else {
            for (const geometry::Overlap& overlap : found)
                std::cout << fmt::format("  {} in {}: {} mm deep, {}\n", these[overlap.a].name(),
                                         those[overlap.b].name(), showMeasure(overlap.deepest * 1000),
                                         showCount(long(overlap.faces), "face", "faces"));
        }
        return found.empty() ? Fine : DoesNotFit;
    }

private:
    std::string item_, figure_, bone_;
    double within_ = 0;
};

} // namespace

std::unique_ptr<Command> makeClipping() {
    return std::make_unique<ClippingOf>();
}

} // namespace zl::cli
