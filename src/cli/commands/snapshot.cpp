#include "cli/commands/all_commands.h"

#include "core/base/clock.h"
#include "core/base/error.h"
#include "core/base/file_set.h"
#include "core/formats/format.h"
#include "core/render/snapshot.h"
#include "core/texture/picture_file.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Snapshot : public Command {
public:
    std::string name() const override { return "snapshot"; }
    std::string help() const override { return "draw a picture of a model, without a window"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "model file")->required();
        app.add_option("OUT", out_, "PNG to write")->required();
        app.add_option("--size", size_, "WIDTHxHEIGHT in pixels")->capture_default_str();
        app.add_option("--samples", options_.samples, "rays a pixel, at most")
            ->check(CLI::Range(1, 1024))
            ->capture_default_str();
        app.add_option("--yaw", yaw_, "degrees to the right of the front")->capture_default_str();
        app.add_option("--pitch", pitch_, "degrees above the horizon")
            ->check(CLI::Range(-89.0, 89.0))
            ->capture_default_str();
        frame_.declare(app);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const Stopwatch watch;
        if (std::sscanf(size_.c_str(), "%dx%d", &options_.width, &options_.height) != 2 ||
            options_.width < 8 || options_.height < 8 || options_.width > 8192 || options_.height > 8192)
            throw Error(fmt::format("\"{}\" is not a size", size_), "--size",
                        "Give it like 800x600, from 8 to 8192.");
        options_.yawRadians = glm::radians(yaw_), options_.pitchRadians = glm::radians(pitch_);
        const Model model = frame_.applied(formats::readModel(file_, progress.between(0, 0.4)));
        const Pixels pixels = render::snapshot(model, options_, progress.between(0.4, 1));
        const std::string png = texture::encodePng(pixels, false);
        writeFile(out_, png);
        if (json)
            print({{"path", out_},
                   {"width", pixels.width},
                   {"height", pixels.height},
                   {"bytes", png.size()},
                   {"seconds", watch.seconds()},
                   {"warnings", model.warnings}});
        else
            std::cout << fmt::format("wrote {} ({} × {} px)\n", out_, pixels.width, pixels.height);
        return Fine;
    }

private:
    std::string file_, out_, size_ = "800x600";
    double yaw_ = 34, pitch_ = 17;
    render::SnapshotOptions options_;
    FrameOptions frame_;
};

} // namespace

std::unique_ptr<Command> makeSnapshot() {
    return std::make_unique<Snapshot>();
}

} // namespace zl::cli
