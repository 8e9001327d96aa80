// `clips`: what moves in a model, how far and how long.
#include "cli/commands/all_commands.h"

#include "core/base/units.h"
#include "core/formats/format.h"
#include "core/motion/attached.h"
#include "core/motion/loop.h"
#include "core/motion/posed.h"
#include "core/motion/travel.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <glm/gtc/constants.hpp>

#include <iostream>

namespace zl::cli {

namespace {

class Clips : public Command {
public:
    std::string name() const override { return "clips"; }
    std::string help() const override {
        return "list a model's clips: length, keys, how far the whole drifts and how well they loop";
    }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "model file")->required();
        frame_.declare(app);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const Model model = frame_.applied(formats::readModel(file_, progress));
        nlohmann::ordered_json out{{"clips", nlohmann::ordered_json::array()},
                                   {"bones", motion::jointsOf(model).size()},
                                   {"skins", model.skins.size()}};
        for (const auto& clip : model.clips) {
            progress.checkCancel();
            const auto travel = motion::travelOf(model, *clip);
            const auto loop = motion::loopErrorOf(model, *clip);
            const glm::dvec3 drift = travel.drift();
            out["clips"].push_back(
                {{"name", clip->name},
                 {"seconds", motion::lengthOf(*clip)},
                 {"keys", motion::keysOf(*clip)},
                 {"channels", clip->channels.size()},
                 {"carriedBy", travel.node < 0 ? "" : model.nodes[std::size_t(travel.node)].name},
                 {"drift", {{"x", drift.x}, {"y", drift.y}, {"z", drift.z}}},
                 {"loopError", glm::degrees(loop.turn)},
                 {"loopErrorMetres", loop.place}});
            if (!json)
                std::cout << fmt::format("  {:<20} {:>8}\u202fs {:>8} keys {:>5} channels  drifts {}, {}, "
                                         "{}\u202fm  end off by {}°, {}\u202fm\n",
                                         clip->name, showMeasure(motion::lengthOf(*clip)),
                                         motion::keysOf(*clip), clip->channels.size(), showMeasure(drift.x),
                                         showMeasure(drift.y), showMeasure(drift.z),
                                         showMeasure(glm::degrees(loop.turn)), showMeasure(loop.place));
        }
        if (json)
            print(out);
        else
            std::cout << fmt::format("  {}, {}, {}\n", showCount(long(model.clips.size()), "clip", "clips"),
                                     showCount(long(motion::jointsOf(model).size()), "bone", "bones"),
                                     showCount(long(model.skins.size()), "skin", "skins"));
        return Fine;
    }

private:
    std::string file_;
    FrameOptions frame_;
};

} // namespace

std::unique_ptr<Command> makeClips() {
    return std::make_unique<Clips>();
}

} // namespace zl::cli
