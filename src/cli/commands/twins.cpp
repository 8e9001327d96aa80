// `twins`: whether two models are alike corner for corner.
#include "cli/commands/all_commands.h"

#include "core/formats/format.h"
#include "core/geometry/twins.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <iostream>

namespace zl::cli {

namespace {

class Twins : public Command {
public:
    std::string name() const override { return "twins"; }
    std::string help() const override {
        return "hold two sizes of a model against each other, corner for corner";
    }
    void declare(CLI::App& app) override {
        app.add_option("A", a_, "model file of one size")->required();
        app.add_option("B", b_, "model file of the other")->required();
        archives.declare(app);
    }

    int execute(const Progress& progress) override {
        const Model a = formats::readModel(a_, progress.between(0, 0.5));
        const Model b = formats::readModel(b_, progress.between(0.5, 1));
        const auto report = geometry::comparedTwins(a, b);
        if (json)
            print(toJson(report));
        else
            say(report);
        return report.equal ? Fine : DoesNotFit;
    }

private:
    static nlohmann::ordered_json toJson(const geometry::TwinReport& report) {
        nlohmann::ordered_json out{{"equal", report.equal}, {"objects", nlohmann::ordered_json::array()}};
        for (const auto& object : report.objects) {
            nlohmann::ordered_json told{{"name", object.name},           {"corners", object.corners},
                                        {"triangles", object.triangles}, {"order", object.order},
                                        {"firstDifference", nullptr},    {"uvs", object.uvs},
                                        {"weights", object.weights},     {"equal", object.isEqual()}};
            if (object.firstDifference) told["firstDifference"] = *object.firstDifference;
            out["objects"].push_back(std::move(told));
        }
        return out;
    }

    void say(const geometry::TwinReport& report) const {
        for (const auto& object : report.objects)
            std::cout << fmt::format("  {:<24} {:>9} {:>9} corners  {:>9} {:>9} triangles  {}\n", object.name,
                                     object.corners[0], object.corners[1], object.triangles[0],
                                     object.triangles[1], object.isEqual() ? "alike" : "not alike");
        if (!report.equal) std::cout << report.why({a_, b_}) << '\n';
    }

    std::string a_, b_;
};

} // namespace

std::unique_ptr<Command> makeTwins() {
    return std::make_unique<Twins>();
}

} // namespace zl::cli
