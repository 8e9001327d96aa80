#include "cli/commands/all_commands.h"

#include "core/formats/format.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Convert : public Command {
public:
    std::string name() const override { return "convert"; }
    std::string help() const override { return "write a model in another format, and say what got lost"; }
    void declare(CLI::App& app) override {
        app.add_option("IN", in_, "model file")->required();
        app.add_option("OUT", out_, "file to write; its ending chooses the format")->required();
        app.add_option("--out-unit", outUnit_,
                       "unit of the numbers written (GLB and X3D are always in metres)");
        app.add_option("--out-up", outUp_,
                       "up axis of the numbers written (GLB and X3D are always Y, 3MF is Z)");
        app.add_option("--through", through_, "formats to go through on the way, like glb,dae");
        frame_.declare(app);
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const std::filesystem::path out(out_);
        const auto& format = formats::formatToWrite(out);
        const auto legs = through_.empty()
                              ? std::vector<chain::LegPlan>()
                              : chain::planned(chain::legsFrom(through_), nullptr, out.stem().string());
        Model model =
            frame_.applied(formats::readModel(in_, progress.between(0, through_.empty() ? 0.7 : 0.4)));
        chain::Result way;
        if (!legs.empty()) {
            way = chain::run(model, legs, out.parent_path() / (out.stem().string() + "-through"),
                             progress.between(0.4, 0.7));
            model = way.model;
        }
        // Formats without a unit keep the file's own numbers unless told otherwise, so that nothing is scaled
        // in silence.
        const formats::WriteOptions options = formats::inFrameOf(
            format,
            {out.stem().string(), outUnit_.empty() ? model.frame.unit.metres : unitNamed(outUnit_).metres,
             outUp_.empty() ? model.frame.up : upNamed(outUp_)});
        progress.report(0.7, "writing");
        std::vector<std::string> dropped = model.dropped;
        const auto files = formats::writeModel(format, model, options, &dropped);
        writeAllOrNone(out.has_parent_path() ? out.parent_path() : ".", files);
        nlohmann::ordered_json document{{"format", format.id},
                                        {"files", nlohmann::ordered_json::array()},
                                        {"unit", unitOfMetres(options.metresPerUnit).name},
                                        {"up", upName(options.up)},
                                        {"legs", toJson(way)},
                                        {"dropped", dropped},
                                        {"warnings", model.warnings}};
        for (const OutFile& file : files)
            document["files"].push_back(
                {{"path", (out.parent_path() / file.name).string()}, {"bytes", file.bytes.size()}});
        if (json) {
            print(document);
        } else {
            for (const auto& file : document["files"])
                std::cout << fmt::format("wrote {} ({})\n", file["path"].get<std::string>(),
                                         showBytes(file["bytes"]));
            if (!format.saysFrame)
                std::cout << fmt::format(
                    "  its numbers are {}, {} up (--out-unit and --out-up choose others)\n",
                    unitOfMetres(options.metresPerUnit).name, upName(options.up));
            if (!way.legs.empty()) std::cout << describe(way);
            for (const auto& text : dropped) std::cout << "  lost: " << text << '\n';
            for (const auto& text : model.warnings) std::cout << "  warning: " << text << '\n';
        }
        return Fine;
    }

private:
    std::string in_, out_, outUnit_, outUp_, through_;
    FrameOptions frame_;
};

} // namespace

std::unique_ptr<Command> makeConvert() {
    return std::make_unique<Convert>();
}

} // namespace zl::cli
