// `solids`: what a scene of solids holds, or what a mesh's loose parts would be as solids. `bake`: its light
// in pictures, as files.
#include "cli/commands/all_commands.h"

#include "core/base/file_set.h"
#include "core/base/words.h"
#include "core/deliver/solid_scene.h"
#include "core/project/source_cache.h"
#include "core/project/documents.h"
#include "core/project/solids_document.h"
#include "core/solids/recognised.h"
#include "core/solids/scene_fields.h"
#include "core/steps/bake_light.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

const solids::Shown& sceneIn(const Model& model, const std::string& file) {
    const solids::Shown* shown = solids::shownBy(model);
    if (!shown)
        throw Error(
            "holds no scene of solids", file,
            "A .solids document or a .scene.xml does; 'solids --recognise' finds solids in a mesh's parts.");
    return *shown;
}

class Solids : public Command {
public:
    std::string name() const override { return "solids"; }
    std::string help() const override { return "list the groups of a scene of solids, and count its faces"; }
    void declare(CLI::App& app) override {
        app.add_option("FILE", file_, "a .solids document or a .scene.xml")->required();
        app.add_flag("--recognise", recognise_,
                     "find a box, cylinder or ball for each loose part of a model's meshes instead");
        app.add_option("--within", within_,
                       "leave out parts further off than this share of their length (0.05)")
            ->check(CLI::Range(0.0, 1.0));
        app.add_option("--out", out_, "document to write what was found to, ending in .solids");
    }

    int execute(const Progress& progress) override {
        const Model model = project::SourceCache().load(file_, progress.between(0, 0.3)).model;
        if (recognise_) return recognise(model, progress.between(0.3, 1));
        if (!out_.empty())
            throw Error("--out goes with --recognise", file_, "What the file holds is a scene already.");
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
    int recognise(const Model& model, const Progress& progress) const {
        const auto found = solids::recognisedIn(model, progress);
        std::vector<solids::Recognised> kept;
        auto parts = nlohmann::ordered_json::array();
        for (const solids::Recognised& one : found) {
            const bool near = one.share <= within_;
            if (near) kept.push_back(one);
            const glm::dvec3& size = one.solid.shape.size;
            const std::string_view kind = solids::nameOf(one.solid.shape.kind);
            parts.push_back({{"part", one.part},
                             {"kind", kind},
                             {"size", {size.x, size.y, size.z}},
                             {"error", one.error},
                             {"share", one.share},
                             {"kept", near}});
            if (!json)
                std::cout << fmt::format("  {:<28} {:<9} {:>8} × {} × {} m, off by {} mm ({} %){}\n",
                                         one.part, kind, showNumber(size.x, 3), showNumber(size.y, 3),
                                         showNumber(size.z, 3), showNumber(1000 * one.error, 1),
                                         showNumber(100 * one.share, 1), near ? "" : ", left out");
        }
        if (!out_.empty()) {
            if (std::filesystem::path(out_).extension() != ".solids")
                throw Error("a scene of solids ends in .solids", out_);
            if (kept.empty())
                throw Error("has no part that is near enough to a box, cylinder or ball", file_,
                            "Give a wider --within.");
            project::SolidsDocument document;
            document.scene = solids::sceneOf(kept);
            writeFile(out_, project::documentText(project::solidsKind, document));
        }
        if (json)
            print(nlohmann::ordered_json{
                {"solids", kept.size()}, {"leftOut", found.size() - kept.size()}, {"parts", parts}});
        else
            std::cout << fmt::format("  {} of {}{}\n", kept.size(),
                                     showCount(long(found.size()), "part", "parts"),
                                     out_.empty() ? "" : ", written to " + out_);
        return kept.empty() ? DoesNotFit : Fine;
    }

    std::string file_, out_;
    bool recognise_ = false;
    double within_ = 0.05;
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
