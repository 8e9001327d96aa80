// `solids`: what a scene of solids holds. `bake`: its light in pictures, as files.
#include "cli/commands/all_commands.h"

#include "core/base/file_set.h"
#include "core/base/words.h"
#include "core/deliver/solid_scene.h"
#include "core/project/source_cache.h"
#include "core/solids/scene_fields.h"
#include "core/steps/bake_light.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

const solids::Shown& sceneIn(const Model& model, const std::string& file) {
    const solids::Shown* shown = solids::shownBy(model);
    if (!shown) throw Error("holds no scene of solids", file, "A .solids document or a .scene.xml does.");
    return *shown;
}

class Solids : public Command {
public:
    std::string name() const override { return "solids"; }
    std::string help() const override { return "list the groups of a scene of solids, and count its faces"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "a .solids document or a .scene.xml")->required();
    }

    int execute(const Progress& progress) override {
        const Model model = project::SourceCache().load(file_, progress).model;
        const solids::Scene& scene = sceneIn(model, file_).scene;
        std::size_t faces = 0;
        for (const solids::Part& part : model.solids->parts) faces += part.faces.size();
        const auto within = scene.groupsWithin();
        const auto in = scene.solidsIn();
        auto groups = nlohmann::ordered_json::array();
        for (const auto& [number, group] : scene.groups) {
            const solids::Number lead = scene.leadOf(number);
            const auto own = in.find(number);
            groups.push_back({{"number", number},
                              {"name", group.name},
                              {"within", group.within},
                              {"lead", lead},
                              {"leadName", lead ? scene.solids.at(lead).name : ""},
                              {"count", own == in.end() ? 0 : own->second.size()}});
        }
        if (json) {
            print(nlohmann::ordered_json{{"solids", scene.solids.size()},
                                         {"groups", groups},
                                         {"lights", scene.lights.size()},
                                         {"faces", faces},
                                         {"triangles", triangleCount(model)}});
            return Fine;
        }
        std::cout << fmt::format(
            "  {}, {}, {}, {} of {}\n", showCount(long(scene.solids.size()), "solid", "solids"),
            showCount(long(scene.groups.size()), "group", "groups"),
            showCount(long(scene.lights.size()), "light", "lights"), showCount(long(faces), "face", "faces"),
            showCount(long(triangleCount(model)), "triangle", "triangles"));
        for (const auto& group : groups)
            std::cout << fmt::format("  {:>4}  {:<24} {} of its own, goes by {} {}\n",
                                     group["number"].get<int>(), group["name"].get<std::string>(),
                                     group["count"].get<int>(), group["lead"].get<int>(),
                                     group["leadName"].get<std::string>());
        return Fine;
    }

private:
    std::string file_;
};

class Bake : public Command {
public:
    std::string name() const override { return "bake"; }
    std::string help() const override {
        return "bake the light of a scene of solids into a picture for each face";
    }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "a .solids document or a .scene.xml")->required();
        app.add_option("--out", out_, "folder to write the scene and its pictures to")->required();
        app.add_option("--platform", platform_, "platform whose axes the scene is written in (commonmoor)");
        app.add_option("--pixels", params_["pixels"], "pixels along each side of a face's picture (256)");
        app.add_option("--bounces", params_["bounces"], "how often light is thrown back (2)");
        app.add_option("--fineness", params_["fineness"], "rays for soft shadows: 1 to 8 (2)");
        app.add_option("--seed", params_["seed"], "another grain (1)");
        app.add_option("--sky", sky_, "light from all around above the horizon (0.3)");
    }

    int execute(const Progress& progress) override {
        const Model model = project::SourceCache().load(file_, progress.between(0, 0.05)).model;
        sceneIn(model, file_);
        const auto sheet = platform::sheetNamed(platform::loadSheets({}, nullptr, sheetWords()), platform_);
        nlohmann::json given = nlohmann::json::object();
        for (const auto& [field, number] : params_)
            if (number >= 0) given[field] = number;
        if (sky_ >= 0) given["sky"] = sky_;
        const auto step = steps::makeStep(steps::BakeLight::info.id, given);
        const Progress baking = progress.between(0.05, 0.95);
        steps::StepContext context{baking, sheet.get()};
        const Model lit = step->apply(model, context);
        const std::string name = std::filesystem::path(file_).stem().stem().string();
        const auto files =
            deliver::solidSceneFiles(lit, sceneIn(lit, file_), *sheet, name, progress.between(0.95, 1));
        writeAllOrNone(out_, files);
        if (json) {
            auto told = context.facts;
            auto names = nlohmann::json::array();
            for (const OutFile& file : files) names.push_back(file.name);
            told["files"] = names;
            print(told);
            return Fine;
        }
        for (const std::string& note : context.notes) std::cout << "  " << note << '\n';
        std::cout << fmt::format("  {} written to {}\n", showCount(long(files.size()), "file", "files"),
                                 out_);
        return Fine;
    }

private:
    std::string file_, out_, platform_ = "commonmoor";
    std::map<std::string, int> params_{{"pixels", -1}, {"bounces", -1}, {"fineness", -1}, {"seed", -1}};
    double sky_ = -1;
};

} // namespace

std::unique_ptr<Command> makeSolids() {
    return std::make_unique<Solids>();
}
std::unique_ptr<Command> makeBake() {
    return std::make_unique<Bake>();
}

} // namespace zl::cli
